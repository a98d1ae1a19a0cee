// The ground as light falls on it, computed on the processor: normals and shade for the near ground, and the colour
// that stands in for the layers where they are not blended live.
#pragma once

#include <memory>
#include <vector>

#include "grid/view.h"
#include "light.h"
#include "material_means.h"
#include "relief.h"

namespace jam {

// Sun visibility and openness to the sky of every ground sample (survey/sunlight.h, dress/cast.h); null until they are
// known.
struct Shade {
    std::shared_ptr<const Raster<uint8_t>> sun, open;
    std::shared_ptr<const Raster<uint8_t>> sunAbove = {};  // for what stands there: without its own shade
};

// How far from water the ground is darkened, in samples.
constexpr int kWetReach = 2;

// What is the same all over a level. The level must outlive it.
struct BakeSource {
    BakeSource(const Level& level, const std::vector<MaterialMeans>& materials, const LightLook& light, Shade shade,
               const ReliefLook& relief);

    const Level& level;
    std::vector<glm::vec3> colours;  // of each layer, linear, tinted
    // Of each layer, for ground that is seen from afar: its picture's brightness, and repeats a metre.
    std::vector<const std::vector<float>*> grains;
    std::vector<float> perMetre;
    LightLook light;
    Shade shade;
    Relief relief;
    float headroom;  // what stored light is divided by, so that relief may brighten
    bool washed, wanders;
    bool wets;             // there is water
    bool hatched = false;  // the ground inside the fence
    bool even = false;     // without the unevenness of all ground, which would be taken for relief
};

// One tile's share of the ground. Blocks are kBlock x kBlock samples, the first at a whole multiple of kBlock.
struct Baked {
    static constexpr int kBlock = 16;

    Region region;             // of whole blocks, cut off at the level's edge
    Raster<uint32_t> surface;  // RGBA: normal's east and south; sun and openness, both with
                               // relief and divided by its headroom; empty when not asked for
    Raster<uint32_t> lit;      // RGB as shown, of every stride-th sample; A its grain from afar, 128 for none
    Raster<uint8_t> steep;     // per block: 1 when three-sided projection shows somewhere
};

// What of a tile does not follow its shape: kept while a hand sculpts it, because it is most of what baking takes.
struct TileColours {
    static constexpr int kSide = 64;  // of a TiledGrid
    static constexpr size_t kSamples = kSide * kSide;
    // Linear colour before any light, unevenness(), and grain as Baked::lit has it.
    std::vector<float> red = std::vector<float>(kSamples), green = red, blue = red, even = red;
    std::vector<uint8_t> grain = std::vector<uint8_t>(kSamples);
    uint16_t known = 0;  // a bit for each block, row by row
    // Where a sample of the level stands in them, inside the tile.
    static size_t at(int column, int row) { return static_cast<size_t>(row % kSide * kSide + column % kSide); }
};

// `region` is widened to whole blocks. `stride` is 1, 2, 4, ... up to kBlock: the lit samples are those at its
// multiples; with `surface` normals and shade are given of every sample.
// `kept`: the colours of the tile that the region lies in, to be looked up and added to; only for a stride of 1.
Baked bake(const BakeSource& source, const Region& region, int stride, bool surface, TileColours* kept = nullptr);

}  // namespace jam
