#include "survey/slope.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/maths.h"
#include "base/parallel.h"
#include "grid/tally.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

// Squared gradient of one row times (8 spacing)^2.
void steepnessRow(const float* a, const float* b, const float* c, int n, float* out) {
    for (int i = 0; i < n; ++i) {
        const float east = (a[i + 1] + 2 * b[i + 1] + c[i + 1]) - (a[i - 1] + 2 * b[i - 1] + c[i - 1]);
        const float south = (c[i - 1] + 2 * c[i] + c[i + 1]) - (a[i - 1] + 2 * a[i] + a[i + 1]);
        out[i] = east * east + south * south;
    }
}

// Arc tangent in degrees for t >= 0, within 0.0002 degrees (Abramowitz and Stegun 4.4.49), without branches.
float atanDegrees(float t) {
    const float big = t > 1 ? 1.0f : 0.0f;
    const float x = big != 0 ? 1 / t : t;
    const float q = x * x;
    float p = 0.0028662257f;
    p = p * q - 0.0161657367f;
    p = p * q + 0.0429096138f;
    p = p * q - 0.0752896400f;
    p = p * q + 0.1065626393f;
    p = p * q - 0.1420889944f;
    p = p * q + 0.1999355085f;
    p = p * q - 0.3333314528f;
    const float angle = kDegrees * (x + x * q * p);
    return big != 0 ? 90 - angle : angle;
}

// Slopes in degrees of what lies one sample inside of `around`.
void slopes(View<const float> around, float scale, View<float> out) {
    for (int z = 0; z < out.depth; ++z) {
        float* to = out.row(z);
        steepnessRow(around.row(z) + 1, around.row(z + 1) + 1, around.row(z + 2) + 1, out.width, to);
        for (int i = 0; i < out.width; ++i) to[i] = atanDegrees(std::sqrt(to[i]) * scale);
    }
}

}  // namespace

void readSlope(const Level& level, const Region& region, View<float> out) {
    const float scale = static_cast<float>(1 / (8 * level.spacing));
    constexpr int kBand = 32;
    parallelFor((region.depth() + kBand - 1) / kBand, 1, [&](int first, int end) {
        Raster<float> heights(region.width() + 2, kBand + 2);
        for (int band = first; band < end; ++band) {
            const int z0 = band * kBand, z1 = std::min(z0 + kBand, region.depth());
            const Region rows{region.x0, region.z0 + z0, region.x1, region.z0 + z1};
            readGroundBeyond(level, rows.grown(1), heights.view());
            slopes(heights.view(), scale, out.part(0, z0, region.width(), z1 - z0));
        }
    });
}

Gradient gradientAt(const Level& level, double x, double z) {
    const double s = level.spacing;
    const double x0 = std::max(x - s, level.originX), x1 = std::min(x + s, level.originX + level.width());
    const double z0 = std::max(z - s, level.originZ), z1 = std::min(z + s, level.originZ + level.depth());
    return {(altitudeAt(level, x1, z) - altitudeAt(level, x0, z)) / std::max(x1 - x0, 1e-9),
            (altitudeAt(level, x, z1) - altitudeAt(level, x, z0)) / std::max(z1 - z0, 1e-9)};
}

double slopeAt(const Level& level, double x, double z) {
    const Gradient g = gradientAt(level, x, z);
    return std::atan(std::hypot(g.east, g.south)) * kDegrees;
}

GroundTally tallyGround(const Level& level, const Region& part) {
    constexpr int kTile = TiledGrid<float>::kTile;
    Raster<float> around(part.width() + 2, part.depth() + 2), slope(part.width(), part.depth());
    readGroundBeyond(level, part.grown(1), around.view());
    slopes(around.view(), static_cast<float>(1 / (8 * level.spacing)), slope.view());
    Raster<uint8_t> gap;
    const bool gaps = mayHaveGaps(level, part);
    if (gaps) gap = Raster<uint8_t>(part.width(), part.depth()), readGaps(level, part, gap.view());
    GroundTally t{std::numeric_limits<float>::max(), -std::numeric_limits<float>::max(), -1, part.x0, part.z0, 0, 0};
    static_assert(kTile * kTile <= std::numeric_limits<uint16_t>::max());
    for (int z = 0; z < part.depth(); ++z)
        for (int x = 0; x < part.width(); ++x) {
            if (gaps && gap.at(x, z) > kGapEdge) continue;
            const float h = around.at(x + 1, z + 1), steep = slope.at(x, z);
            ++t.counted;
            t.lowest = std::min(t.lowest, h);
            t.highest = std::max(t.highest, h);
            t.sum += h;
            ++t.slopes[static_cast<size_t>(std::clamp(static_cast<int>(steep), 0, 89))];
            if (steep <= t.steepest) continue;
            t.steepest = steep;
            t.steepestColumn = part.x0 + x, t.steepestRow = part.z0 + z;
        }
    return t;
}

GroundFigures figuresOf(const Level& level, const std::vector<GroundTally>& tallies, const Context& context) {
    GroundFigures all;
    all.lowest = std::numeric_limits<float>::max(), all.highest = -all.lowest;
    all.steepest = -1;
    const GroundTally* steepest = nullptr;
    for (const GroundTally& t : tallies) {
        if (!t.counted) continue;
        all.counted += t.counted;
        all.lowest = std::min(all.lowest, t.lowest);
        all.highest = std::max(all.highest, t.highest);
        all.mean += t.sum;
        for (size_t i = 0; i < all.slopes.size(); ++i) all.slopes[i] += t.slopes[i];
        if (!steepest || t.steepest > steepest->steepest) steepest = &t;
    }
    if (!steepest) {
        Level whole = level;
        whole.opening = whole.noLand = whole.hatches = Gaps(level.columns, level.rows, 0);
        GroundFigures surface = surveyGround(whole, context);
        surface.counted = 0;
        return surface;
    }
    all.steepest = steepest->steepest;
    all.steepestX = level.originX + level.spacing * steepest->steepestColumn;
    all.steepestZ = level.originZ + level.spacing * steepest->steepestRow;
    all.mean /= all.counted;
    for (double& share : all.slopes) share /= all.counted;
    return all;
}

GroundFigures surveyGround(const Level& level, const Context& context) {
    std::vector<GroundTally> tallies;
    tally(tallies, level.bounds(), level.bounds(), context,
          [&](const Region& tile) { return tallyGround(level, tile); });
    return context.cancelled() ? GroundFigures{} : figuresOf(level, tallies, context);
}

double GroundFigures::atMost(double degrees) const {
    double share = 0;
    for (size_t i = 0; i < slopes.size(); ++i)
        share += slopes[i] * std::clamp(degrees - static_cast<double>(i), 0.0, 1.0);
    return share;
}

}  // namespace jam
