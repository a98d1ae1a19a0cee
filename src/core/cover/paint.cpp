// Cost: one mask per tile row, one update per layer at or above the painted one that is present in the tile.
#include "cover/paint.h"

#include "base/parallel.h"
#include "brush/rows.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<uint16_t>::kTile;
using RowKernel = void (*)(uint16_t*, const float*, int, float);

// Runs `kernel` on the part of every tile of `grid` that the dab touches. Tiles that are absent hold zeros;
// a kernel that only thins passes them by.
void eachRow(TiledGrid<uint16_t>& grid, const Dab& dab, float share, float target, RowKernel kernel, bool onlyPresent) {
    struct Piece { uint16_t* tile; Region part; };
    std::vector<Piece> pieces;
    grid.eachPart(dab.region, [&](int tx, int tz, const Region& part) {
        if (onlyPresent && !grid.tile(tx, tz) && grid.defaultValue() == 0) return;
        pieces.push_back({grid.writableTile(tx, tz), part});
    });
    constexpr int kTilesPerThread = 4;
    parallelFor(static_cast<int>(pieces.size()), kTilesPerThread, [&](int first, int end) {
        float mask[kTile];
        for (int i = first; i < end; ++i) {
            const auto& [tile, part] = pieces[static_cast<size_t>(i)];
            for (int z = part.z0; z < part.z1; ++z) {
                dabMask(dab, part.x0, z, part.width(), share, mask);
                kernel(tile + (z % kTile) * kTile + part.x0 % kTile, mask, part.width(), target);
            }
        }
    });
}

}  // namespace

Region paintLayer(Level& level, const Dab& dab, float share, uint32_t layer, float target) {
    const int index = level.layerIndex(layer);
    assert(index >= 0);
    if (dab.region.empty()) return {};
    const auto own = static_cast<size_t>(index);
    if (own > 0)
        eachRow(level.layers[own].coverage, dab, share, target * kFullCover, rowKernels().cover, false);
    for (size_t i = own + 1; i < level.layers.size(); ++i)
        if (!level.layers[i].hidden)
            eachRow(level.layers[i].coverage, dab, share, (1 - target) * kFullCover, rowKernels().thin, true);
    return dab.region;
}

Region eraseLayer(Level& level, const Dab& dab, float share, uint32_t layer) {
    const int index = level.layerIndex(layer);
    assert(index >= 0);
    if (dab.region.empty() || index == 0) return {};
    eachRow(level.layers[static_cast<size_t>(index)].coverage, dab, share, 0, rowKernels().thin, true);
    return dab.region;
}

}  // namespace jam
