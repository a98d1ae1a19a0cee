// What is counted tile by tile, so that after a change only what it touched is counted again.
#pragma once

#include <utility>
#include <vector>

#include "base/context.h"
#include "base/parallel.h"
#include "grid/tile_set.h"

namespace jam {

// Counts the tiles of a raster that are in `where` anew: all[i] = count(tile) for the i-th tile, row by row. Makes room
// for all of them. On several threads; some tiles stay as they were when cancelled.
template <class T, class Count>
void tally(std::vector<T>& all, const Region& raster, const TileSet& where, const Context& context, Count count) {
    constexpr int kTile = TileSet::kTile;
    const int across = (raster.x1 + kTile - 1) / kTile, down = (raster.z1 + kTile - 1) / kTile;
    all.resize(static_cast<size_t>(across) * static_cast<size_t>(down));
    std::vector<std::pair<int, int>> tiles;
    where.each([&](int tx, int tz, const Region&) {
        if (tx < across && tz < down) tiles.emplace_back(tx, tz);
    });
    parallelFor(static_cast<int>(tiles.size()), 16, [&](int first, int end) {
        for (int i = first; i < end && !context.cancelled(); ++i) {
            const auto [tx, tz] = tiles[static_cast<size_t>(i)];
            all[static_cast<size_t>(tz) * static_cast<size_t>(across) + static_cast<size_t>(tx)] =
                count(Region{tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile}.clipped(raster));
        }
    });
}

}  // namespace jam
