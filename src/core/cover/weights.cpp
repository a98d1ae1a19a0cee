// Cost: one multiply per layer and sample, in 16-bit fixed point, so the outcome is the same on every machine.
#include "cover/weights.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <numeric>

#include "brush/rows.h"
#include "grid/tally.h"
#include "level/cover_ground.h"
#include "level/opening.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<uint16_t>::kTile;
static_assert(kTile == kTileRow);

// The lowest layer that is not hidden takes all that is left, or the first when all are hidden.
size_t lowestShown(const Level& level) {
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (!level.layers[i].hidden) return i;
    return 0;
}

}  // namespace

void readWeights(const Level& level, const Region& region, const std::vector<View<uint8_t>>& planes) {
    const size_t floor = lowestShown(level);
    std::array<Weighed, kMaxLayers> shown;
    std::array<std::array<uint16_t, kTile>, kMaxLayers> even;  // a row of a layer that is the same everywhere
    level.layers.front().coverage.eachPart(region, [&](int tx, int tz, const Region& part) {
        const int n = part.width(), rows = part.depth(), px = part.x0 - region.x0, pz = part.z0 - region.z0;
        int count = 0;
        for (size_t i = level.layers.size(); i-- > 0;) {
            const View<uint8_t>& out = planes[i];
            const Layer& layer = level.layers[i];
            const uint16_t *tile = layer.coverage.tile(tx, tz), usual = layer.coverage.defaultValue();
            if (i != floor && (layer.hidden || i < floor || (!tile && usual == 0))) {
                for (int z = 0; z < rows; ++z) std::fill_n(out.row(pz + z) + px, n, uint8_t{0});
                continue;
            }
            Weighed& w = shown[static_cast<size_t>(count++)];
            w = {nullptr, 0, out.row(pz) + px, out.stride};
            if (i == floor) continue;
            if (!tile) even[i].fill(usual);
            w.cover = tile ? tile + (part.z0 % kTile) * kTile : even[i].data();
            w.coverRow = tile ? kTile : 0;
        }
        rowKernels().weighRows(shown.data(), count, part.x0 % kTile, part.x0 % kTile + n, rows);
    });
}

void readWeights16(const Level& level, const Region& region, const std::vector<View<uint16_t>>& planes) {
    const size_t floor = lowestShown(level);
    const int n = region.width();
    std::vector<uint16_t> open(static_cast<size_t>(n)), before(open.size());
    std::vector<uint8_t> below(open.size()), unused(open.size());
    Raster<uint16_t> cover(n, 1);
    for (int z = region.z0; z < region.z1; ++z) {
        std::fill(open.begin(), open.end(), kFullCover);
        for (size_t i = level.layers.size(); i-- > 0;) {
            uint16_t* out = planes[i].row(z - region.z0);
            if (i <= floor || level.layers[i].hidden) {
                std::fill_n(out, n, uint16_t{0});
                if (i == floor) std::copy(open.begin(), open.end(), out);
                continue;
            }
            level.layers[i].coverage.read({region.x0, z, region.x1, z + 1}, cover.view());
            before = open;
            rowKernels().weigh(cover.view().row(0), n, open.data(), below.data(), unused.data());
            std::transform(before.begin(), before.end(), open.begin(), out,
                           [](uint16_t a, uint16_t b) { return static_cast<uint16_t>(a - b); });
        }
    }
}

uint32_t layersWithin(const Level& level, const Region& region) {
    const size_t floor = lowestShown(level);
    const Region tiles = TiledGrid<uint16_t>::tilesOf(region);
    uint32_t bits = 1u << floor;
    for (size_t i = floor + 1; i < level.layers.size(); ++i) {
        const Layer& layer = level.layers[i];
        if (layer.hidden) continue;
        bool any = layer.coverage.defaultValue() != 0;
        for (int tz = tiles.z0; tz < tiles.z1 && !any; ++tz)
            for (int tx = tiles.x0; tx < tiles.x1 && !any; ++tx) any = layer.coverage.tile(tx, tz) != nullptr;
        if (any) bits |= 1u << i;
    }
    return bits;
}

std::array<uint8_t, kMaxLayers> weightsAt(const Level& level, int column, int row) {
    std::array<uint8_t, kMaxLayers> w{};
    std::vector<View<uint8_t>> planes;
    for (size_t i = 0; i < level.layers.size(); ++i) planes.push_back({&w[i], 1, 1, 1});
    readWeights(level, {column, row, column + 1, row + 1}, planes);
    return w;
}

std::array<float, kMaxLayers> mixAt(const Level& level, double x, double z) {
    const double cx = std::clamp(level.toColumn(x) * level.coverFactor, 0.0, level.coverColumns() - 1.0);
    const double cz = std::clamp(level.toRow(z) * level.coverFactor, 0.0, level.coverRows() - 1.0);
    const int c = std::min(static_cast<int>(cx), level.coverColumns() - 2);
    const int r = std::min(static_cast<int>(cz), level.coverRows() - 2);
    const double u = cx - c, v = cz - r;
    std::array<float, kMaxLayers> mix{};
    const double share[4] = {(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v};
    for (int k = 0; k < 4; ++k) {
        const auto w = weightsAt(level, c + k % 2, r + k / 2);
        for (size_t i = 0; i < mix.size(); ++i) mix[i] += static_cast<float>(share[k] * w[i] / 255.0);
    }
    return mix;
}

LayerTally tallyLayers(const Level& level, const Region& part) {
    LayerTally sums{};
    const int f = level.coverFactor;
    // Most tiles of a large level bear one layer alone.
    const uint32_t within = layersWithin(level, part);
    const bool gaps = mayHaveGaps(level, {part.x0 / f, part.z0 / f, part.x1 / f + 2, part.z1 / f + 2});
    if (std::has_single_bit(within) && !gaps) {
        sums[static_cast<size_t>(std::countr_zero(within))] = static_cast<uint32_t>(255 * part.area());
        return sums;
    }
    const auto nearest = [&](int x, int z) {
        return gapSample(level, groundUnder(x, f, level.columns), groundUnder(z, f, level.rows));
    };
    std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(part.width(), part.depth()));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    readWeights(level, part, planes);
    for (size_t i = 0; i < planes.size(); ++i)
        for (int z = 0; z < part.depth() && (within >> i & 1); ++z)
            for (int x = 0; x < part.width(); ++x)
                if (!gaps || nearest(part.x0 + x, part.z0 + z) < kGapEdge) sums[i] += planes[i].at(x, z);
    return sums;
}

std::array<double, kMaxLayers> sharesOf(const std::vector<LayerTally>& tallies) {
    std::array<double, kMaxLayers> shares{};
    for (const LayerTally& t : tallies)
        for (size_t i = 0; i < shares.size(); ++i) shares[i] += static_cast<double>(t[i]);
    // Weights sum to 255 at every sample, so all of them together are all the ground there is.
    const double all = std::accumulate(shares.begin(), shares.end(), 0.0);
    for (double& s : shares) s = all > 0 ? s / all : 0;
    return shares;
}

std::array<double, kMaxLayers> layerShares(const Level& level) {
    std::vector<LayerTally> tallies;
    tally(tallies, level.coverBounds(), level.coverBounds(), {},
          [&](const Region& tile) { return tallyLayers(level, tile); });
    return sharesOf(tallies);
}

}  // namespace jam
