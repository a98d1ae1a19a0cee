#include "level/hold_outside.h"

#include <algorithm>
#include <cmath>

#include "grid/tile_set.h"
#include "level/between.h"
#include "level/cover_ground.h"
#include "level/rasters.h"

namespace jam {

void holdOutside(const Level& before, Level& after) {
    if (!after.fenced) return;
    const Fence fence = after.fence;
    eachRasterOfBoth(after, before, [&](const auto& kind, auto& grid, const auto* other) {
        using Grid = std::remove_cvref_t<decltype(grid)>;
        if constexpr (std::remove_cvref_t<decltype(kind)>::kStored) {
            if (kind.shows == Shows::nothing && std::string_view(kind.name).starts_with("fence")) return;
            if (grid.columns() == 0) return;
            const Grid none(grid.columns(), grid.rows(), grid.defaultValue());
            const Grid& was = other && other->columns() == grid.columns() ? *other : none;
            const int f = kind.resolution == Resolution::cover ? after.coverFactor : 1;
            TileSet changed;
            grid.eachChangedTile(was, [&](int tx, int tz) { changed.add(grid.tileRegion(tx, tz)); });
            Raster<typename std::remove_cvref_t<decltype(kind)>::Sample> a, b;
            changed.each([&](int, int, const Region& tile) {
                a.reshape(tile.width(), tile.depth());
                b.reshape(tile.width(), tile.depth());
                was.read(tile, a.view());
                grid.read(tile, b.view());
                for (int z = 0; z < tile.depth(); ++z)
                    for (int x = 0; x < tile.width(); ++x) {
                        const int c = groundUnder(tile.x0 + x, f, fence.columns()),
                                  r = groundUnder(tile.z0 + z, f, fence.rows());
                        const uint16_t m = fence.at(c, r);
                        if (m == kInside) continue;
                        b.at(x, z) = m == 0 ? a.at(x, z)
                                            : mixed(a.at(x, z), b.at(x, z), static_cast<float>(m) / kInside);
                    }
                grid.write(tile, b.view());
            });
        }
    });
}

}  // namespace jam
