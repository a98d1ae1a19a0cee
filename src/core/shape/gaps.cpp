#include "shape/gaps.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {

// f(sample, how much of it the dab asks for, 0 to 255) for each that it reaches.
template <class F>
Region eachGap(Level& level, const Dab& dab, Gaps Level::*mask, F f) {
    if (dab.region.empty()) return {};
    Raster<uint8_t> gaps(dab.region.width(), dab.region.depth());
    (level.*mask).read(dab.region, gaps.view());
    eachDabSample(dab, 1, [&](int x, int z, float share) {
        const auto asked = static_cast<uint8_t>(std::lround(255 * std::clamp(share, 0.f, 1.f)));
        f(gaps.at(x - dab.region.x0, z - dab.region.z0), asked);
    });
    (level.*mask).write(dab.region, gaps.view());
    return dab.region;
}

// The greatest that anybody asked for counts, and not the sum, so that a hole does not grow below a resting hand.
void takeFrom(uint8_t& gap, uint8_t asked) { gap = std::max(gap, asked); }
void giveTo(uint8_t& gap, uint8_t asked) { gap = std::min(gap, static_cast<uint8_t>(255 - asked)); }

}  // namespace

Region takeGround(Level& level, const Dab& dab, Gaps Level::*mask) { return eachGap(level, dab, mask, takeFrom); }
Region giveGround(Level& level, const Dab& dab, Gaps Level::*mask) { return eachGap(level, dab, mask, giveTo); }

void fillGaps(Level& level, Gaps Level::*mask, bool take, bool outside) {
    Raster<uint16_t> fence(level.columns, 1, kInside);
    Raster<uint8_t> gaps(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        const Region row{0, z, level.columns, z + 1};
        if (level.fenced) level.fence.read(row, fence.view());
        (level.*mask).read(row, gaps.view());
        for (int x = 0; x < level.columns; ++x) {
            const auto inside = static_cast<uint8_t>((fence.at(x, 0) + 128) / 257);
            (take ? takeFrom : giveTo)(gaps.at(x, 0), outside ? static_cast<uint8_t>(255 - inside) : inside);
        }
        (level.*mask).write(row, gaps.view());
    }
    (level.*mask).dropDefaultTiles();
}

}  // namespace jam
