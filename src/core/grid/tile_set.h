// Which samples of a raster something touched: a set of tiles, and of each the part that it reached. Spots far apart
// stay apart, so that work mirrored to four corners redraws four corners and not the level between them.
#pragma once

#include <map>
#include <vector>

#include "base/region.h"

namespace jam {

class TileSet {
public:
    static constexpr int kTile = 64;  // as TiledGrid's

    TileSet() = default;
    // Implicit: most work touches one rectangle.
    TileSet(const Region& region) { add(region); }

    void add(const Region& region);
    void add(const TileSet& other);
    TileSet joined(const TileSet& other) const;

    bool empty() const { return parts_.empty(); }
    size_t tiles() const { return parts_.size(); }
    long long area() const;  // samples
    // True when the set may hold the sample.
    bool contains(int x, int z) const;
    // The smallest rectangle that holds all.
    Region bounds() const;
    // Every touched region, grown on all sides and kept inside `to`.
    TileSet grown(int by, const Region& to) const;
    TileSet clipped(const Region& to) const;
    // The same places on a raster with `factor` times as many samples a side, or as many times fewer: every sample
    // nearer than one coarse sample to one that was touched. May reach beyond the raster's far edges.
    TileSet finer(int factor) const;
    TileSet coarser(int factor) const;

    // f(tx, tz, part) for every tile, row by row.
    template <class F>
    void each(F f) const {
        for (const auto& [key, part] : parts_) f(key.second, key.first, part);
    }
    // Few rectangles that hold everything: one for each group of tiles that touch. They may overlap a little.
    std::vector<Region> spots() const;

    bool operator==(const TileSet&) const = default;

private:
    std::map<std::pair<int, int>, Region> parts_;  // by row and column of the tile
};

}  // namespace jam
