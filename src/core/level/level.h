// The level: a plain value that holds everything a designer made. Copying it is cheap, so history, saving,
// surveys and exports each keep a copy of their own and nothing is ever locked.
#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "base/result.h"
#include "grid/tiled_grid.h"

namespace jam {

constexpr int kMinSamples = 2;     // a level has at least 2 x 2 samples
constexpr int kMaxSamples = 8193;  // and at most this many along a side
constexpr int kMaxLayers = 16;
constexpr uint16_t kFullCover = 65535;

// A named part of the ground: an additive change of height, in metres.
struct Stratum {
    uint32_t id = 0;
    std::string name;
    float opacity = 1;    // [0, 1]
    bool visible = true;
    TiledGrid<float> heights;  // metres added to what lies below; default 0

    bool operator==(const Stratum&) const = default;
};

// An encoded picture exactly as it came; it never changes once made.
struct PictureFile {
    std::string name;            // file name without folders, "colour.png"
    std::vector<uint8_t> bytes;  // PNG

    bool operator==(const PictureFile&) const = default;
};
using Picture = std::shared_ptr<const PictureFile>;

// A ground texture and where it lies.
struct Layer {
    uint32_t id = 0;
    std::string name;
    double tileSize = 4;    // metres that one repeat of the pictures spans, [0.05, 1000]
    float blend = 0.6f;     // 0: edges fade like mist, 1: the layers' own heights decide, [0, 1]
    bool hidden = false;
    bool sides = true;      // steep ground takes its pictures from three sides, so that they do not stretch
    bool kept = false;      // protected: no brush changes its coverage
    Picture colour;                     // always there
    Picture normal, roughness, height;  // may be null; then derived from the colour
    TiledGrid<uint16_t> coverage;       // 0..65535 (kFullCover); the first layer covers everything

    bool operator==(const Layer&) const;
};

struct Sun {
    float azimuth = 300;   // degrees clockwise from north (-Z), where the light comes from, [0, 360)
    float elevation = 32;  // degrees above the horizon, [1, 90]

    bool operator==(const Sun&) const = default;
};

// Sample (column, row) lies at x = originX + spacing * column, z = originZ + spacing * row.
// Axes follow glTF: X east, Y up, Z south, metres.
//
// Invariants (verified by checkLevel, survey/check.h):
// 1. Every stratum has columns x rows samples; every layer coverColumns() x coverRows().
// 2. There is at least one stratum and at least one layer. The first layer shown covers everything, whatever
//    its own coverage says; the coverage is kept, so that reordering and back changes nothing.
// 3. Heights are finite; the composed ground lies in [lowest, highest].
// 4. Ids are unique within strata and within layers and below nextId.
struct Level {
    std::string name;
    int columns = 0, rows = 0;          // [kMinSamples, kMaxSamples]
    double spacing = 1;                 // metres between samples, [0.01, 100]
    double originX = 0, originZ = 0;    // metres
    float lowest = -100, highest = 400; // metres; brushes never leave this range
    float startHeight = 0;              // metres; the flat start, within the range
    int coverFactor = 1;                // cover samples per ground sample along a side: 1, 2 or 4
    Sun sun;
    std::vector<Stratum> strata;        // bottom to top
    std::vector<Layer> layers;          // bottom to top
    uint32_t activeStratum = 0;         // id of the stratum that brushes write to
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

    Stratum* stratum(uint32_t id);
    const Layer* layer(uint32_t id) const;
    Layer* layer(uint32_t id) { return const_cast<Layer*>(std::as_const(*this).layer(id)); }
    int layerIndex(uint32_t id) const;  // -1 when there is none

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
// Errors: any value out of its range, naming the field.
Result<Level> makeLevel(const NewLevel& wish);

// Memory in bytes that a level of this size needs when all of it is sculpted and `layers` layers are painted.
size_t memoryEstimate(const NewLevel& wish, int layers);

// Adds `layer` on top (or at the bottom when it is the first, covering everything); gives it an id and an
// empty coverage of the right size, and returns the id. Precondition: fewer than kMaxLayers.
uint32_t addLayer(Level& level, Layer layer);
// Moves a layer to another place in the order. Coverages stay as they are.
void moveLayer(Level& level, int from, int to);
// Removes a layer; what lay below shows. Precondition: more than one layer.
void removeLayer(Level& level, int index);

// Bytes of `level` that it does not share with `beside`.
size_t bytesBeside(const Level& level, const Level& beside);

}  // namespace jam
