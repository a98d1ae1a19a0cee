#include "survey/stretch.h"

#include <algorithm>
#include <cmath>

#include "cover/weights.h"
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

double stretchedShare(const Level& level, double limit, const Context& context) {
    constexpr int kBand = 64;
    long over = 0, counted = 0;
    const bool gaps = hasGaps(level);
    Raster<uint8_t> gap(gaps ? level.columns : 0, gaps ? kBand : 0);
    Raster<float> band(level.columns, kBand);
    for (int z = 0; z < level.rows; z += kBand) {
        if (context.cancelled()) return 0;
        const Region r{0, z, level.columns, std::min(z + kBand, level.rows)};
        readStretch(level, r, band.view());
        if (gaps) readGaps(level, r, gap.view());
        for (int y = 0; y < r.depth(); ++y)
            for (int x = 0; x < r.width(); ++x) {
                if (gaps && gap.at(x, y) > kGapEdge) continue;
                over += band.at(x, y) > limit;
                ++counted;
            }
    }
    return counted > 0 ? static_cast<double>(over) / static_cast<double>(counted) : 0;
}

}  // namespace jam
