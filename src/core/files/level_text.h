// The description of a level, which with its rasters, pictures and shapes is all of it: docs/format.md, level.json.
#pragma once

#include <set>

#include "base/context.h"
#include "files/disk.h"
#include "files/raster_codec.h"
#include "level/level.h"
#include "level/rasters.h"

namespace jam {

constexpr uint64_t kMostLevelText = 64u << 20;  // bytes

// --- names of the parts that lie beside it --------------------------------------------------------------------------

// "strata/3.tif", "coverage/2.png"; rasters of the level itself stand alone: "wash.png".
template <class Kind>
std::string rasterName(const Kind& kind, uint32_t id) {
    const std::string ending = rasterEnding<typename Kind::Sample>();
    return id ? std::string(kind.name) + "/" + std::to_string(id) + ending : kind.name + ending;
}
// What makes the ground always has a part of its own.
template <class Kind>
bool isGround(const Kind& kind) {
    return kind.shows == Shows::ground;
}
std::string pictureName(uint32_t layer, const char* slot);
std::string shapeName(uint32_t kind);  // of one that was taken in

// f(name, bytes) for the pictures and shapes of a level, which it lends.
template <class F>
void eachLent(const Level& level, F f) {
    for (const Layer& l : level.layers)
        for (const LayerSlot& slot : kLayerSlots)
            if (const Picture& p = l.*slot.picture) f(pictureName(l.id, slot.name), p->bytes);
    for (const Kind& k : level.kinds)
        if (k.taken) f(shapeName(k.id), k.taken.shape->glb);
}

// --- the text -------------------------------------------------------------------------------------------------------

std::string levelText(const Level& level);

// Where pictures and shapes come from.
class PartSource {
public:
    virtual ~PartSource() = default;
    // A part of at most so many bytes, by its name. Errors: it is missing, larger, or damaged.
    virtual Result<Bytes> read(const std::string& name, uint64_t most) const = 0;
    // The whole of it, for messages.
    virtual std::string file() const = 0;
};

struct DescribedLevel {
    Level level;                    // whole but for its rasters, which have their sizes and hold nothing yet
    std::set<std::string> rasters;  // names of the parts that there are
};

// Errors: anything that is not as docs/format.md says, naming part and field; parts that are missing; cancelled.
Result<DescribedLevel> levelFromText(const std::string& text, const PartSource& parts, const Context& context = {});
// Whether it could be read, and the name that stands in it, without its parts. `file` stands in messages.
Result<std::string> checkLevelText(const std::string& text, const std::string& file);

}  // namespace jam
