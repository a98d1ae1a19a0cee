#include "cover/blend.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/noise.h"
#include "cover/lay.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "shape/smooth.h"

namespace jam {

namespace {

uint16_t moved(uint16_t now, float goal, float mask) {
    const float way = goal - static_cast<float>(now);
    if (mask <= 0 || std::abs(way) < 0.5f) return now;
    // Rounded away from where it is, so that a little is never nothing, but never beyond the goal.
    const float step = std::min(std::ceil(std::abs(way) * mask - 0.005f), std::round(std::abs(way)));
    return static_cast<uint16_t>(std::clamp(static_cast<float>(now) + (way > 0 ? step : -step), 0.f, 65535.f));
}

bool changeable(const Level& level, size_t i) { return i > 0 && !level.layers[i].hidden && !level.layers[i].locked; }

// Moves a layer's coverage below the dab towards goal(x, z, now).
template <class Goal>
void moveCover(TiledGrid<uint16_t>& grid, const Dab& dab, float share, Goal goal) {
    Raster<uint16_t> cover(dab.region.width(), dab.region.depth());
    grid.read(dab.region, cover.view());
    eachDabSample(dab, share, [&](int x, int z, float mask) {
        uint16_t& c = cover.at(x - dab.region.x0, z - dab.region.z0);
        c = moved(c, goal(x, z, c), mask);
    });
    grid.write(dab.region, cover.view());
}

bool present(const TiledGrid<uint16_t>& grid, const Region& region) {
    bool any = grid.defaultValue() != 0;
    grid.eachPart(region, [&](int tx, int tz, const Region&) { any |= grid.tile(tx, tz) != nullptr; });
    return any;
}

}  // namespace

Region softenCover(Level& level, const Dab& dab, float share, float sigma) {
    if (dab.region.empty()) return {};
    const float used = std::max(sigma, 0.5f);
    const int halo = boxReach(used);
    const Region wide = dab.region.grown(halo), inside = wide.clipped(level.coverBounds());
    Raster<uint16_t> cover(inside.width(), inside.depth());
    Raster<float> around(wide.width(), wide.depth()), mean(dab.region.width(), dab.region.depth());
    for (size_t i = 1; i < level.layers.size(); ++i) {
        TiledGrid<uint16_t>& grid = level.layers[i].coverage;
        if (!changeable(level, i) || !present(grid, inside)) continue;
        grid.read(inside, cover.view());
        for (int z = 0; z < wide.depth(); ++z)
            for (int x = 0; x < wide.width(); ++x)
                around.at(x, z) = cover.at(std::clamp(wide.x0 + x, inside.x0, inside.x1 - 1) - inside.x0,
                                           std::clamp(wide.z0 + z, inside.z0, inside.z1 - 1) - inside.z0);
        boxMean(around.view(), halo, used, mean.view());
        moveCover(grid, dab, share,
                  [&](int x, int z, uint16_t) { return mean.at(x - dab.region.x0, z - dab.region.z0); });
    }
    return dab.region;
}

CoverMix coverMixAt(const Level& level, double x, double z) {
    const int c = std::clamp(static_cast<int>(std::lround(level.toColumn(x) * level.coverFactor)), 0,
                             level.coverColumns() - 1);
    const int r = std::clamp(static_cast<int>(std::lround(level.toRow(z) * level.coverFactor)), 0,
                             level.coverRows() - 1);
    CoverMix mix;
    for (const Layer& l : level.layers) mix.push_back(l.coverage.at(c, r));
    return mix;
}

Region carryCover(Level& level, const Dab& dab, float share, const CoverMix& mix) {
    if (dab.region.empty()) return {};
    for (size_t i = 1; i < level.layers.size() && i < mix.size(); ++i) {
        TiledGrid<uint16_t>& grid = level.layers[i].coverage;
        if (!changeable(level, i) || (mix[i] == 0 && !present(grid, dab.region))) continue;
        moveCover(grid, dab, share, [goal = static_cast<float>(mix[i])](int, int, uint16_t) { return goal; });
    }
    return dab.region;
}

Region breakUpCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer,
                    const BreakPattern& pattern) {
    const int index = level.layerIndex(layer);
    if (dab.region.empty() || index < 0 || !changeable(level, static_cast<size_t>(index))) return {};
    Raster<uint16_t> was(dab.region.width(), dab.region.depth());
    origin.layers[static_cast<size_t>(origin.layerIndex(layer))].coverage.read(dab.region, was.view());
    moveCover(level.layers[static_cast<size_t>(index)].coverage, dab, share, [&](int x, int z, uint16_t now) {
        const float c = was.at(x - dab.region.x0, z - dab.region.z0) / 65535.0f;
        if (c <= 0 || c >= 1) return static_cast<float>(now);
        // The pattern shifts the threshold of what shows; the more of the layer there is, the more survives.
        const float t = std::clamp(0.5f + 2.5f * (c - 0.5f + 0.5f * pattern(x, z)), 0.f, 1.f);
        return 65535 * t * t * (3 - 2 * t);
    });
    return dab.region;
}

BreakPattern noisePattern(const Level& level, float scale, uint32_t seed) {
    return [x0 = level.originX, z0 = level.originZ, spacing = level.coverSpacing(), scale, seed](int x, int z) {
        const auto px = static_cast<float>((x0 + x * spacing) / scale),
                   pz = static_cast<float>((z0 + z * spacing) / scale);
        return 1.6f * fractalNoise(px, pz, seed, 4, 0.6f);
    };
}

BreakPattern tipPattern(const Dab& dab) {
    return [rows = DabRows(dab)](int x, int z) {
        float mask = 0;
        rows.mask(x, z, 1, 1, &mask);
        return 2 * mask - 1;
    };
}

BreakPattern heightPattern(const Level& level, const Layer& layer, const Raster<float>& height) {
    return [x0 = level.originX, z0 = level.originZ, spacing = level.coverSpacing(), &layer, &height](int x, int z) {
        const Place p = placeOn(layer, x0 + x * spacing, z0 + z * spacing);
        const auto at = [](double v, int n) { return std::min(static_cast<int>((v - std::floor(v)) * n), n - 1); };
        return 2 * height.at(at(p.u, height.width()), at(p.v, height.depth())) - 1;
    };
}

void limitPaint(const Level& level, const Region& region, const PaintWhere& where, View<float> shares) {
    const auto soft = [](double v, const std::optional<float>& from, const std::optional<float>& to, float fade) {
        double allowed = 1;
        if (from) allowed = std::min(allowed, (v - *from) / fade + 0.5);
        if (to) allowed = std::min(allowed, (*to - v) / fade + 0.5);
        return static_cast<float>(std::clamp(allowed, 0.0, 1.0));
    };
    if (where.slopeFrom || where.slopeTo || where.altitudeFrom || where.altitudeTo) {
        // The ground below, one sample wider, looked at between its samples where cover is finer.
        const int f = level.coverFactor;
        const Region ground{region.x0 / f - 1, region.z0 / f - 1, (region.x1 - 1) / f + 3, (region.z1 - 1) / f + 3};
        Raster<float> h(ground.width(), ground.depth());
        readGroundBeyond(level, ground, h.view());
        const auto at = [&](double c, double r) {
            const int x = std::clamp(static_cast<int>(c), 0, h.width() - 2),
                      z = std::clamp(static_cast<int>(r), 0, h.depth() - 2);
            const double u = c - x, v = r - z;
            return (1 - v) * ((1 - u) * h.at(x, z) + u * h.at(x + 1, z)) +
                   v * ((1 - u) * h.at(x, z + 1) + u * h.at(x + 1, z + 1));
        };
        for (int z = region.z0; z < region.z1; ++z)
            for (int x = region.x0; x < region.x1; ++x) {
                float& share = shares.at(x - region.x0, z - region.z0);
                if (share == 0) continue;
                const double c = static_cast<double>(x) / f - ground.x0, r = static_cast<double>(z) / f - ground.z0;
                const double east = (at(c + 1, r) - at(c - 1, r)) / (2 * level.spacing),
                             south = (at(c, r + 1) - at(c, r - 1)) / (2 * level.spacing);
                share *= soft(std::atan(std::hypot(east, south)) * kDegrees, where.slopeFrom, where.slopeTo,
                              kFadeDegrees) *
                         soft(at(c, r), where.altitudeFrom, where.altitudeTo, kFadeMetres);
            }
    }
    const int on = where.onLayer ? level.layerIndex(where.onLayer) : -1,
              off = where.offLayer ? level.layerIndex(where.offLayer) : -1;
    if (on < 0 && off < 0) return;
    std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(region.width(), region.depth()));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    readWeights(level, region, planes);
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) {
            if (on >= 0) shares.at(x, z) *= planes[static_cast<size_t>(on)].at(x, z) / 255.0f;
            if (off >= 0) shares.at(x, z) *= 1 - planes[static_cast<size_t>(off)].at(x, z) / 255.0f;
        }
}

}  // namespace jam
