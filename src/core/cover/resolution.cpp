#include "cover/resolution.h"

#include <algorithm>

#include "cover/weights.h"
#include "level/rasters.h"

namespace jam {

namespace {

constexpr int kBandRows = 64;

TiledGrid<uint16_t> regridded(const TiledGrid<uint16_t>& from, int columns, int rows) {
    TiledGrid<uint16_t> to(columns, rows, from.defaultValue());
    if (from.presentTiles() == 0) return to;
    const int finer = (columns - 1) / (from.columns() - 1), coarser = (from.columns() - 1) / (columns - 1);
    Raster<uint16_t> above(from.columns(), 1), below(from.columns(), 1), out(columns, 1);
    const auto read = [&](int z, Raster<uint16_t>& row) { from.read({0, z, from.columns(), z + 1}, row.view()); };
    for (int z = 0; z < rows; ++z) {
        if (finer <= 1) {
            read(z * coarser, above);
            for (int x = 0; x < columns; ++x) out.at(x, 0) = above.at(x * coarser, 0);
        } else {
            const int z0 = z / finer, v = z % finer;
            read(z0, above);
            read(std::min(z0 + 1, from.rows() - 1), below);
            for (int x = 0; x < columns; ++x) {
                const int x0 = x / finer, u = x % finer, x1 = std::min(x0 + 1, from.columns() - 1);
                const long sum = static_cast<long>(finer - v) * ((finer - u) * above.at(x0, 0) + u * above.at(x1, 0)) +
                                 static_cast<long>(v) * ((finer - u) * below.at(x0, 0) + u * below.at(x1, 0));
                out.at(x, 0) = static_cast<uint16_t>((sum + finer * finer / 2) / (finer * finer));
            }
        }
        to.write({0, z, columns, z + 1}, out.view());
    }
    return to;
}

}  // namespace

Status changeCoverFactor(Level& level, int factor) {
    if (factor != 1 && factor != 2 && factor != 4)
        return Error{"", "cover factor", "it is " + std::to_string(factor), "choose 1, 2 or 4"};
    const int columns = (level.columns - 1) * factor + 1, rows = (level.rows - 1) * factor + 1;
    if (std::max(columns, rows) > kMaxSamples)
        return Error{"", "cover factor",
                     "cover would be " + std::to_string(std::max(columns, rows)) + " samples long, more than " +
                         std::to_string(kMaxSamples),
                     "choose a smaller factor"};
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t, auto& grid) {
        if constexpr (std::is_same_v<typename std::remove_cvref_t<decltype(kind)>::Sample, uint16_t>)
            if (kind.resolution == Resolution::cover && grid.columns() > 0) grid = regridded(grid, columns, rows);
    });
    level.coverFactor = factor;
    return {};
}

int lossAtFactor(const Level& level, int factor) {
    Level there = level;
    if (!changeCoverFactor(there, factor) || !changeCoverFactor(there, level.coverFactor)) return 255;
    int most = 0;
    const size_t n = level.layers.size();
    std::vector<Raster<uint8_t>> a(n, Raster<uint8_t>(level.coverColumns(), kBandRows)), b = a;
    for (int z0 = 0; z0 < level.coverRows(); z0 += kBandRows) {
        const Region band{0, z0, level.coverColumns(), std::min(z0 + kBandRows, level.coverRows())};
        std::vector<View<uint8_t>> pa, pb;
        for (size_t i = 0; i < n; ++i) pa.push_back(a[i].view()), pb.push_back(b[i].view());
        readWeights(level, band, pa);
        readWeights(there, band, pb);
        for (size_t i = 0; i < n; ++i)
            for (int z = 0; z < band.depth(); ++z)
                for (int x = 0; x < band.width(); ++x) most = std::max(most, std::abs(a[i].at(x, z) - b[i].at(x, z)));
    }
    return most;
}

}  // namespace jam
