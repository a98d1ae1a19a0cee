// Least and greatest height of the ground over square blocks, coarser and coarser. Picking and the choice of
// detail stand on it.
#pragma once

#include "grid/tile_set.h"
#include "level/level.h"

namespace jam {

struct HeightSpan {
    float low = 0, high = 0;

    HeightSpan joined(const HeightSpan& o) const { return {std::min(low, o.low), std::max(high, o.high)}; }
};

// Level n has blocks of kBlock << n cells a side; a block spans its cells' corner samples, so both borders.
// The finest level costs 1/32 of the ground's memory.
class HeightPyramid {
public:
    static constexpr int kBlock = 8;

    HeightPyramid() = default;
    explicit HeightPyramid(const Level& level);

    // Brings the pyramid up to date after the ground samples in `changed` may have changed.
    void update(const Level& level, const Region& changed);
    void update(const Level& level, const TileSet& changed) {
        for (const Region& spot : changed.spots()) update(level, spot);
    }

    int levels() const { return static_cast<int>(levels_.size()); }
    int across(int n) const { return levels_[static_cast<size_t>(n)].width(); }
    int down(int n) const { return levels_[static_cast<size_t>(n)].depth(); }
    const HeightSpan& span(int n, int bx, int bz) const { return levels_[static_cast<size_t>(n)].at(bx, bz); }
    // Bounds the heights in a region of samples, not always tightly.
    HeightSpan spanOf(const Region& region) const;
    // Span of the whole ground.
    const HeightSpan& whole() const { return levels_.back().at(0, 0); }

private:
    std::vector<Raster<HeightSpan>> levels_;
};

}  // namespace jam
