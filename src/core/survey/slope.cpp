#include "survey/slope.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/maths.h"
#include "base/parallel.h"
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
            const View<float> h = heights.view();
            for (int z = z0; z < z1; ++z) {
                float* to = out.row(z);
                steepnessRow(h.row(z - z0) + 1, h.row(z - z0 + 1) + 1, h.row(z - z0 + 2) + 1, region.width(), to);
                for (int i = 0; i < region.width(); ++i) to[i] = atanDegrees(std::sqrt(to[i]) * scale);
            }
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

GroundFigures surveyGround(const Level& level, const Context& context) {
    constexpr int kBand = 64;
    const int bands = (level.rows + kBand - 1) / kBand;
    const bool gaps = hasGaps(level);
    std::vector<GroundFigures> found(static_cast<size_t>(bands));
    parallelFor(bands, 1, [&](int first, int end) {
        Raster<float> slope(level.columns, kBand), heights(level.columns, kBand);
        Raster<uint8_t> gap(gaps ? level.columns : 0, gaps ? kBand : 0);
        for (int band = first; band < end && !context.cancelled(); ++band) {
            const Region rows{0, band * kBand, level.columns, std::min((band + 1) * kBand, level.rows)};
            readSlope(level, rows, slope.view());
            readGround(level, rows, heights.view());
            GroundFigures& r = found[static_cast<size_t>(band)];
            if (gaps) readGaps(level, rows, gap.view());
            r.lowest = std::numeric_limits<float>::max(), r.highest = -r.lowest;
            r.steepest = -1;
            for (int z = 0; z < rows.depth(); ++z)
                for (int x = 0; x < rows.width(); ++x) {
                    if (gaps && gap.at(x, z) > kGapEdge) continue;
                    r.counted += 1;
                    r.lowest = std::min(r.lowest, heights.at(x, z));
                    r.highest = std::max(r.highest, heights.at(x, z));
                    r.mean += heights.at(x, z);
                    r.slopes[static_cast<size_t>(std::clamp(static_cast<int>(slope.at(x, z)), 0, 89))] += 1;
                    if (slope.at(x, z) <= r.steepest) continue;
                    r.steepest = slope.at(x, z);
                    r.steepestX = level.originX + level.spacing * x;
                    r.steepestZ = level.originZ + level.spacing * (rows.z0 + z);
                }
        }
    });
    if (context.cancelled()) return {};
    GroundFigures all = found.front();
    all.mean = all.counted = 0;
    all.slopes = {};
    for (const GroundFigures& r : found) all.counted += r.counted;
    if (all.counted == 0) {
        Level whole = level;
        whole.opening = whole.noLand = Gaps(level.columns, level.rows, 0);
        GroundFigures surface = surveyGround(whole, context);
        surface.counted = 0;
        return surface;
    }
    const double per = 1 / all.counted;
    for (const GroundFigures& r : found) {
        all.lowest = std::min(all.lowest, r.lowest);
        all.highest = std::max(all.highest, r.highest);
        all.mean += r.mean * per;
        for (size_t i = 0; i < all.slopes.size(); ++i) all.slopes[i] += r.slopes[i] * per;
        if (r.steepest > all.steepest)
            all.steepest = r.steepest, all.steepestX = r.steepestX, all.steepestZ = r.steepestZ;
    }
    return all;
}

double GroundFigures::atMost(double degrees) const {
    double share = 0;
    for (size_t i = 0; i < slopes.size(); ++i)
        share += slopes[i] * std::clamp(degrees - static_cast<double>(i), 0.0, 1.0);
    return share;
}

}  // namespace jam
