#include "survey/stretch.h"

#include <algorithm>
#include <cmath>

#include "cover/weights.h"
#include "grid/tally.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

void readStretch(const Level& level, const Region& region, View<float> out) {
    const int f = level.coverFactor, width = (region.width() - 1) * f + 1;
    Raster<float> h(region.width() + 2, region.depth() + 2);
    readGroundBeyond(level, {region.x0 - 1, region.z0 - 1, region.x1 + 1, region.z1 + 1}, h.view());
    std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(width, 1));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    const double per = 1 / (2 * level.spacing);
    for (int z = 0; z < region.depth(); ++z) {
        const int row = (region.z0 + z) * f;
        readWeights(level, {region.x0 * f, row, region.x0 * f + width, row + 1}, planes);
        for (int x = 0; x < region.width(); ++x) {
            const double east = (h.at(x + 2, z + 1) - h.at(x, z + 1)) * per,
                         south = (h.at(x + 1, z + 2) - h.at(x + 1, z)) * per;
            const double up = 1 / std::sqrt(1 + east * east + south * south), nx = std::abs(east) * up,
                         nz = std::abs(south) * up;
            double flat = 0;
            for (size_t i = 0; i < level.layers.size(); ++i)
                if (!level.layers[i].sides) flat += planes[i].at(x * f, 0) / 255.0;
            const auto pow4 = [](double v) { return v * v * v * v; };
            const double sides = (nx * nx * nx + up * up * up + nz * nz * nz) / (pow4(nx) + pow4(up) + pow4(nz));
            out.at(x, z) = static_cast<float>(std::min(flat / up + (1 - flat) * sides - 1, double{kMostStretch}));
        }
    }
}

StretchTally tallyStretch(const Level& level, const Region& part, float limit) {
    Raster<float> stretch(part.width(), part.depth());
    readStretch(level, part, stretch.view());
    const bool gaps = mayHaveGaps(level, part);
    Raster<uint8_t> gap;
    if (gaps) gap = Raster<uint8_t>(part.width(), part.depth()), readGaps(level, part, gap.view());
    StretchTally t{};
    for (int z = 0; z < part.depth(); ++z)
        for (int x = 0; x < part.width(); ++x) {
            if (gaps && gap.at(x, z) > kGapEdge) continue;
            t.over = static_cast<uint16_t>(t.over + (stretch.at(x, z) > limit));
            ++t.counted;
        }
    return t;
}

double shareOf(const std::vector<StretchTally>& tallies) {
    double over = 0, counted = 0;
    for (const StretchTally& t : tallies) over += t.over, counted += t.counted;
    return counted > 0 ? over / counted : 0;
}

double stretchedShare(const Level& level, float limit, const Context& context) {
    std::vector<StretchTally> tallies;
    tally(tallies, level.bounds(), level.bounds(), context,
          [&](const Region& tile) { return tallyStretch(level, tile, limit); });
    return context.cancelled() ? 0 : shareOf(tallies);
}

}  // namespace jam
