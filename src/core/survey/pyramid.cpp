#include "survey/pyramid.h"

#include <algorithm>

#include "base/parallel.h"
#include "grid/ground_rows.h"
#include "level/ground.h"

namespace jam {

HeightPyramid::HeightPyramid(const Level& level) {
    int across = (level.columns - 2) / kBlock + 1, down = (level.rows - 2) / kBlock + 1;
    levels_.emplace_back(across, down);
    while (across > 1 || down > 1) {
        across = (across + 1) / 2;
        down = (down + 1) / 2;
        levels_.emplace_back(across, down);
    }
    update(level, level.bounds());
}

void HeightPyramid::update(const Level& level, const Region& changed) {
    if (changed.empty()) return;
    Raster<HeightSpan>& fine = levels_.front();
    // A sample on a border belongs to the blocks on both sides of it.
    Region blocks{std::max(changed.x0 - 1, 0) / kBlock, std::max(changed.z0 - 1, 0) / kBlock,
                  std::min((changed.x1 - 1) / kBlock + 1, fine.width()),
                  std::min((changed.z1 - 1) / kBlock + 1, fine.depth())};
    const int x0 = blocks.x0 * kBlock, width = std::min(blocks.x1 * kBlock + 1, level.columns) - x0;
    parallelFor(blocks.depth(), 48, [&](int first, int end) {
        // As many rows of blocks at once as share a tile: ground is composed tile by tile.
        constexpr int kAtOnce = TiledGrid<float>::kTile / kBlock;
        static thread_local Raster<float> heights;
        heights.reshape(width, kAtOnce * kBlock + 1);
        // A block that the ground's edge cuts off is filled with its last sample.
        const int whole = blocks.width() * kBlock + 1;
        std::vector<float> low(static_cast<size_t>(whole)), high(low.size());
        for (int from = blocks.z0 + first, to; from < blocks.z0 + end; from = to) {
            to = std::min((from / kAtOnce + 1) * kAtOnce, blocks.z0 + end);
            readGround(level, {x0, from * kBlock, x0 + width, std::min(to * kBlock + 1, level.rows)}, heights.view());
            for (int bz = from; bz < to; ++bz) {
                // Down the columns first, then across, both in whole rows.
                const int top = (bz - from) * kBlock, rows = std::min(kBlock + 1, level.rows - bz * kBlock);
                std::copy_n(heights.view().row(top), width, low.data());
                std::copy_n(heights.view().row(top), width, high.data());
                for (int z = 1; z < rows; ++z)
                    groundRows().span(low.data(), high.data(), heights.view().row(top + z), width);
                std::fill(low.begin() + width, low.end(), low[static_cast<size_t>(width) - 1]);
                std::fill(high.begin() + width, high.end(), high[static_cast<size_t>(width) - 1]);
                groundRows().nine(low.data(), high.data(), whole - kBlock);
                for (int bx = blocks.x0; bx < blocks.x1; ++bx) {
                    const auto left = static_cast<size_t>(bx * kBlock - x0);
                    fine.at(bx, bz) = {low[left], high[left]};
                }
            }
        }
    });
    for (size_t n = 1; n < levels_.size(); ++n) {
        const Raster<HeightSpan>& below = levels_[n - 1];
        blocks = {blocks.x0 / 2, blocks.z0 / 2, (blocks.x1 + 1) / 2, (blocks.z1 + 1) / 2};
        for (int bz = blocks.z0; bz < blocks.z1; ++bz)
            for (int bx = blocks.x0; bx < blocks.x1; ++bx) {
                HeightSpan s = below.at(bx * 2, bz * 2);
                for (int k = 1; k < 4; ++k) {
                    const int x = bx * 2 + k % 2, z = bz * 2 + k / 2;
                    if (x >= below.width() || z >= below.depth()) continue;
                    s.low = std::min(s.low, below.at(x, z).low);
                    s.high = std::max(s.high, below.at(x, z).high);
                }
                levels_[n].at(bx, bz) = s;
            }
    }
}

HeightSpan HeightPyramid::spanOf(const Region& region) const {
    if (region.empty()) return whole();
    // Coarse enough that few blocks need a look.
    int n = 0;
    while (n + 1 < levels() && (kBlock << n) * 8 < std::max(region.width(), region.depth())) ++n;
    const int size = kBlock << n;
    HeightSpan s = span(n, std::min(std::max(region.x0, 0) / size, across(n) - 1),
                        std::min(std::max(region.z0, 0) / size, down(n) - 1));
    for (int bz = std::max(region.z0, 0) / size; bz <= std::min((region.z1 - 1) / size, down(n) - 1); ++bz)
        for (int bx = std::max(region.x0, 0) / size; bx <= std::min((region.x1 - 1) / size, across(n) - 1); ++bx)
            s = s.joined(span(n, bx, bz));
    return s;
}

}  // namespace jam
