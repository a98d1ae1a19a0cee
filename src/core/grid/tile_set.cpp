#include "grid/tile_set.h"

#include "grid/tiled_grid.h"

namespace jam {

static_assert(TileSet::kTile == TiledGrid<float>::kTile);

void TileSet::add(const Region& r) {
    if (r.empty()) return;
    for (int tz = r.z0 / kTile; tz <= (r.z1 - 1) / kTile; ++tz)
        for (int tx = r.x0 / kTile; tx <= (r.x1 - 1) / kTile; ++tx) {
            Region& part = parts_[{tz, tx}];
            part = part.joined(r.clipped({tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile}));
        }
}

void TileSet::add(const TileSet& other) {
    for (const auto& [key, part] : other.parts_) {
        Region& own = parts_[key];
        own = own.joined(part);
    }
}

TileSet TileSet::joined(const TileSet& other) const {
    TileSet all = *this;
    all.add(other);
    return all;
}

long long TileSet::area() const {
    long long all = 0;
    for (const auto& [key, part] : parts_) all += part.area();
    return all;
}

bool TileSet::contains(int x, int z) const {
    const auto at = parts_.find({z / kTile, x / kTile});
    return at != parts_.end() && at->second.contains(x, z);
}

Region TileSet::bounds() const {
    Region all;
    for (const auto& [key, part] : parts_) all = all.joined(part);
    return all;
}

TileSet TileSet::grown(int by, const Region& to) const {
    TileSet out;
    for (const auto& [key, part] : parts_) out.add(part.grown(by).clipped(to));
    return out;
}

TileSet TileSet::clipped(const Region& to) const { return grown(0, to); }

TileSet TileSet::finer(int factor) const {
    if (factor == 1) return *this;
    TileSet out;
    // Reaching back to the sample before, so that nothing is missed between two tiles.
    for (const auto& [key, part] : parts_)
        out.add({std::max(part.x0 * factor - factor + 1, 0), std::max(part.z0 * factor - factor + 1, 0),
                 part.x1 * factor, part.z1 * factor});
    return out;
}

TileSet TileSet::coarser(int factor) const {
    if (factor == 1) return *this;
    TileSet out;
    for (const auto& [key, part] : parts_)
        out.add({part.x0 / factor, part.z0 / factor, (part.x1 - 1) / factor + 2, (part.z1 - 1) / factor + 2});
    return out;
}

std::vector<Region> TileSet::spots() const {
    std::vector<Region> spots;
    std::map<std::pair<int, int>, bool> seen;
    for (const auto& [first, unused] : parts_) {
        if (seen[first]) continue;
        seen[first] = true;
        Region spot;
        std::vector<std::pair<int, int>> open{first};
        while (!open.empty()) {
            const auto at = open.back();
            open.pop_back();
            spot = spot.joined(parts_.at(at));
            for (int dz = -1; dz <= 1; ++dz)
                for (int dx = -1; dx <= 1; ++dx) {
                    const std::pair<int, int> beside{at.first + dz, at.second + dx};
                    if (!parts_.contains(beside) || seen[beside]) continue;
                    seen[beside] = true;
                    open.push_back(beside);
                }
        }
        spots.push_back(spot);
    }
    return spots;
}

}  // namespace jam
