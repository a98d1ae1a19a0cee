// The level: a plain value that holds everything a designer made. Copying it is cheap, so history, saving,
// surveys and exports each keep a copy of their own and nothing is ever locked.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "level/course.h"
#include "level/fence.h"
#include "level/kind.h"
#include "level/layer.h"
#include "level/limits.h"
#include "level/spot.h"
#include "level/water.h"

namespace jam {

constexpr int kMinSamples = 2;     // a level has at least 2 x 2 samples
constexpr int kMaxSamples = 8193;  // and at most this many along a side

constexpr size_t kMaxStrata = 64;
constexpr float kMaxOpacity = 2;

enum class Side { north, east, south, west };
constexpr int kLevelSides = 4;
constexpr std::array<std::string_view, kLevelSides> kSideNames = {"north", "east", "south", "west"};

constexpr float kMostBorderBlend = 10000;  // metres
constexpr size_t kMostPath = 4096;         // bytes of a file's name with its folders

// What of a stratum fits the ground to a neighbouring level along one side (match/neighbour.h).
struct Border {
    Side side = Side::north;
    float blend = 0;   // metres inwards over which it was blended, [0, kMostBorderBlend]
    std::string file;  // the neighbour's, as it was named; at most kMostPath bytes

    bool operator==(const Border&) const = default;
};

// A named part of the ground. It makes of the height h below it, per sample,
//   (1 - opacity * owned) * h + opacity * heights
// A plain stratum owns nothing, so it adds. A course mixes towards its line: heights = owned * line. A border owns the
// samples along its side altogether, which so are the neighbour's to the bit, and adds inwards of them.
struct Stratum {
    uint32_t id = 0;
    std::string name;
    float opacity = 1;  // [0, kMaxOpacity]; of one that mixes [0, 1]
    bool visible = true;
    TiledGrid<float> heights;      // metres; default 0
    bool locked = false;           // nothing changes it
    std::optional<Course> course;  // what it is made from, when it is one
    std::optional<Border> border;  // what it fits, when it does that
    TiledGrid<float> owned;        // of those that mix alone: the share of the ground they own, [0, 1]; default 0

    // It owns ground, so that brushes do not shape it.
    bool mixes() const { return course || border; }
    // It is a course that leads somewhere; a pad stays under its spot, a footprint under what stands.
    bool leads() const { return course && course->use != CourseUse::pad && course->use != CourseUse::footprint; }
    bool operator==(const Stratum&) const = default;
};

// Colour painted over the ground, sRGB, and how strongly; all of 65535.
struct Wash {
    uint16_t red = 0, green = 0, blue = 0, strength = 0;

    bool operator==(const Wash&) const = default;
};

// How two layers meet, where that is not left to the layers' own blend.
struct BlendPair {
    uint32_t one = 0, other = 0;  // ids, one < other
    float blend = 0.6f;           // as Layer::blend

    bool operator==(const BlendPair&) const = default;
};

// Where there is no ground: one sample for each of the ground, 0 for ground, 255 for none; the ground ends half way
// between (level/opening.h).
using Gaps = TiledGrid<uint8_t>;

constexpr float kMaxCliff = 1000;  // metres

struct Sun {
    float azimuth = 300;   // degrees clockwise from north (-Z), where the light comes from, [0, 360)
    float elevation = 32;  // degrees above the horizon, [1, 90]

    bool operator==(const Sun&) const = default;
};

// Sample (column, row) lies at x = originX + spacing * column, z = originZ + spacing * row.
// Axes follow glTF: X east, Y up, Z south, metres.
//
// Invariants (verified by checkLevel, survey/check.h):
// 1. Every stratum, the wash, the gaps and the fences have columns x rows samples; every layer and kind
// coverColumns() x coverRows().
// 2. There is at least one stratum that does not mix, and at least one layer. The first layer shown covers everything,
// whatever
//    its own coverage says; the coverage is kept, so that reordering and back changes nothing.
// 3. Heights are finite; the composed ground lies in [lowest, highest], because composing ends there.
// 4. A stratum owns ground exactly while it is a course or a border. A layer or a kind has a base and a share held
// by hand exactly while its rules are alive.
// 5. Ids are unique within strata, within layers and kinds, within fences, within pools and streams, within spots and
// within singles, and below nextId.
// 6. Hatches are what refreshHatches() (course/footprint.h) makes of footprints and singles, the water is what
// refreshWater() (water/water.h) makes of pools, streams and ground.
struct Level {
    std::string name;
    int columns = 0, rows = 0;           // [kMinSamples, kMaxSamples]
    double spacing = 1;                  // metres between samples, [kFinest, kCoarsest]
    double originX = 0, originZ = 0;     // metres, within kFarPlace
    float lowest = -100, highest = 400;  // metres; brushes never leave this range
    float startHeight = 0;               // metres; the flat start, within the range
    int coverFactor = 1;                 // cover samples per ground sample along a side: 1, 2 or 4
    Sun sun;
    std::vector<Stratum> strata;   // bottom to top
    std::vector<Layer> layers;     // bottom to top
    std::vector<BlendPair> pairs;  // ordered by ids, each pair once
    TiledGrid<Wash> wash;          // one for every ground sample
    Gaps opening;                  // holes in the land
    Gaps noLand;                   // where there is no land at all
    Gaps hatches;                  // holes that come with what stands; it follows that (course/footprint.h)
    bool smoothEdges = true;       // the edges of both are cut smoothly; otherwise they follow the cells
    float cliff = 0;               // metres that the land's edge drops, [0, kMaxCliff]; 0 for none
    Fence fence;                   // what brushes and commands keep to, while it is in force
    bool fenced = false;           // whether it is
    std::vector<KeptFence> fences;
    std::vector<Pool> pools;
    std::vector<Stream> streams;
    std::vector<Spot> spots;
    std::vector<Body> bodies;     // of one's own
    std::string body = "walker";  // the name of the one that is to get to them, of these or of kBodies
    TiledGrid<Wet> water;         // what all of them make of the ground; follows it (water/water.h)
    std::vector<Kind> kinds;      // those that come first are kept off by those after them (Kind::keepsOff)
    std::vector<Single> singles;  // by ids
    uint32_t activeStratum = 0;   // id of the stratum that brushes write to; never one that mixes
    uint32_t nextId = 1;

    double width() const { return (columns - 1) * spacing; }
    double depth() const { return (rows - 1) * spacing; }
    int coverColumns() const { return (columns - 1) * coverFactor + 1; }
    int coverRows() const { return (rows - 1) * coverFactor + 1; }
    double coverSpacing() const { return spacing / coverFactor; }
    Region bounds() const { return {0, 0, columns, rows}; }
    Region coverBounds() const { return {0, 0, coverColumns(), coverRows()}; }
    // World metres to (fractional) ground samples.
    double toColumn(double x) const { return (x - originX) / spacing; }
    double toRow(double z) const { return (z - originZ) / spacing; }
    bool holds(double x, double z) const {
        return x >= originX && z >= originZ && x <= originX + width() && z <= originZ + depth();
    }

    const Stratum* stratum(uint32_t id) const;
    Stratum* stratum(uint32_t id) { return const_cast<Stratum*>(std::as_const(*this).stratum(id)); }
    int stratumIndex(uint32_t id) const;  // -1 when there is none
    const Layer* layer(uint32_t id) const;
    Layer* layer(uint32_t id) { return const_cast<Layer*>(std::as_const(*this).layer(id)); }
    int layerIndex(uint32_t id) const;  // -1 when there is none
    const Pool* pool(uint32_t id) const;
    Pool* pool(uint32_t id) { return const_cast<Pool*>(std::as_const(*this).pool(id)); }
    const Stream* stream(uint32_t id) const;
    Stream* stream(uint32_t id) { return const_cast<Stream*>(std::as_const(*this).stream(id)); }
    const Spot* spot(uint32_t id) const;
    Spot* spot(uint32_t id) { return const_cast<Spot*>(std::as_const(*this).spot(id)); }
    const Kind* kind(uint32_t id) const;
    Kind* kind(uint32_t id) { return const_cast<Kind*>(std::as_const(*this).kind(id)); }
    int kindIndex(uint32_t id) const;  // -1 when there is none
    const Single* single(uint32_t id) const;
    Single* single(uint32_t id) { return const_cast<Single*>(std::as_const(*this).single(id)); }
    // The layer or the kind of this id, as what rules lay, or null.
    const Ruled* ruled(uint32_t id) const;
    Ruled* ruled(uint32_t id) { return const_cast<Ruled*>(std::as_const(*this).ruled(id)); }
    // How the pool or stream is seen, or null.
    const WaterLook* waterLook(uint32_t id) const;

    bool operator==(const Level&) const = default;
};

struct NewLevel {
    std::string name = "Untitled level";
    int columns = 513, rows = 513;
    double spacing = 1;
    float lowest = -50, highest = 200;
    float startHeight = 0;
    int coverFactor = 1;
};

// A flat level, centred on the origin, with one stratum and no layer yet (add one before use).
// Errors: any value out of its range, naming the field; a name that is too long.
Result<Level> makeLevel(const NewLevel& wish);

// Errors: a name in the level that no file could keep (checkName, base/names.h).
Status checkNames(const Level& level);

// Memory in bytes that a level of this size needs when all of it is sculpted and `layers` layers are painted.
size_t memoryEstimate(const NewLevel& wish, int layers);

// Adds `layer` on top (or at the bottom when it is the first, covering everything); gives it an id and an
// empty coverage of the right size, and returns the id. Precondition: fewer than kMaxLayers.
uint32_t addLayer(Level& level, Layer layer);
// Moves a layer to another place in the order, which counts from the bottom and ends with the list. Coverages stay as
// they are. Errors: it is gone.
Status moveLayer(Level& level, uint32_t id, int to);
// Removes a layer; what lay below shows. Errors: it is gone, or the only one.
Status removeLayer(Level& level, uint32_t id);
// A copy of a layer over it, covering nothing; gives its id. Errors: it is gone, or there is no room for another.
Result<uint32_t> duplicateLayer(Level& level, uint32_t id);

// How sharply the layer `one` stands out where it meets `other`: what the pair says, or its own blend.
float blendBetween(const Level& level, const Layer& one, const Layer& other);
// Sets it for the pair; without a value the layers' own blends count again.
void setBlendBetween(Level& level, uint32_t one, uint32_t other, std::optional<float> blend);

// Bytes of `level` that it does not share with `beside`: samples, tables of tiles and pictures.
size_t bytesBeside(const Level& level, const Level& beside);

}  // namespace jam
