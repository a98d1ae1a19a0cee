// The layers' own pictures, as they came.
#include "handover/handover.h"
#include "handover/names.h"

namespace jam {

namespace {

std::string mapFile(const Level& level, size_t i, const LayerSlot& slot) {
    return "layers/" + numberedName(level, i) + "/" + slot.name + ".png";
}

// f(layer, slot, picture) for each that is there.
template <class F>
void eachPicture(const Level& level, F f) {
    for (size_t i = 0; i < level.layers.size(); ++i)
        for (const LayerSlot& slot : kLayerSlots)
            if (const Picture& p = level.layers[i].*slot.picture) f(i, slot, *p);
}

bool hasPictures(const Level& level) {
    bool any = false;
    eachPicture(level, [&](size_t, const LayerSlot&, const PictureFile&) { any = true; });
    return any;
}

std::string facts(const Level& level, const HandoverWish&) {
    size_t count = 0, bytes = 0;
    eachPicture(level, [&](size_t, const LayerSlot&, const PictureFile& p) { ++count, bytes += p.bytes.size(); });
    return "layers/…: " + std::to_string(count) + " pictures, " + std::to_string((bytes + 500'000) / 1'000'000) + " MB";
}

Status write(const Level& level, const HandoverWish&, HandoverFiles& files, const Context& context) {
    Status trouble;
    eachPicture(level, [&](size_t i, const LayerSlot& slot, const PictureFile& p) {
        if (!trouble || context.cancelled()) return;
        const Result<AtomicFile*> file = files.begin(mapFile(level, i, slot));
        trouble = file ? file.value()->write(p.bytes) : Status(file.error());
        files.manifest["weights"]["layers"][i]["pictures"][slot.name] = mapFile(level, i, slot);
        context.report(static_cast<double>(i + 1) / static_cast<double>(level.layers.size()));
    });
    return trouble;
}

}  // namespace

extern const Writer layerPicturesWriter;
const Writer layerPicturesWriter = {"pictures",
                                    "The layers' pictures",
                                    "Colour, relief, height and roughness, as they came",
                                    true,
                                    {},
                                    hasPictures,
                                    facts,
                                    1,
                                    write};

}  // namespace jam
