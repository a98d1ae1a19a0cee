#include "cover/rule_masks.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/noise.h"
#include "course/bake.h"
#include "cover/weights.h"
#include "grid/distance.h"
#include "level/ground.h"
#include "shape/smooth.h"

namespace jam {

namespace {

constexpr float kFlatGround = 3;  // degrees below which ground faces nowhere in particular

// 1 between from and to, falling to 0 over `fade` beyond them.
float within(float v, const Rule& r) {
    const float beyond = std::max(r.from - v, v - r.to);
    if (beyond <= 0) return 1;
    return r.fade > 0 ? smoothstep(1 - beyond / r.fade) : 0;
}

// The same round a circle of 360 degrees.
float withinCircle(float v, const Rule& r) {
    const auto turn = [](float a) { return a - 360 * std::floor(a / 360); };
    const float wide = r.to - r.from >= 360 ? 360 : turn(r.to - r.from), after = turn(v - r.from);
    if (after <= wide) return 1;
    const float beyond = std::min(after - wide, 360 - after);
    return r.fade > 0 ? smoothstep(1 - beyond / r.fade) : 0;
}

// The ground around a region of cover samples, looked at between its samples.
class Around {
public:
    Around(const Level& level, const Region& cover, int halo) : f_(level.coverFactor) {
        ground_ = {cover.x0 / f_ - halo, cover.z0 / f_ - halo, (cover.x1 - 1) / f_ + 2 + halo,
                   (cover.z1 - 1) / f_ + 2 + halo};
        heights_ = Raster<float>(ground_.width(), ground_.depth());
        readGroundBeyond(level, ground_, heights_.view());
    }
    Around smoothed(float sigma) const {
        Around out = *this;
        const int halo = boxReach(sigma);
        out.ground_ = {ground_.x0 + halo, ground_.z0 + halo, ground_.x1 - halo, ground_.z1 - halo};
        out.heights_ = Raster<float>(out.ground_.width(), out.ground_.depth());
        boxMean(heights_.view(), halo, sigma, out.heights_.view());
        return out;
    }
    // At a cover sample moved by whole ground samples.
    float at(int x, int z, int dx, int dz) const {
        const int gx = x / f_, gz = z / f_, u = x % f_, v = z % f_;
        const int c = gx + dx - ground_.x0, r = gz + dz - ground_.z0;
        if (u == 0 && v == 0) return heights_.at(c, r);
        const float a = static_cast<float>(u) / static_cast<float>(f_),
                    b = static_cast<float>(v) / static_cast<float>(f_);
        const float top = heights_.at(c, r) + a * (heights_.at(c + 1, r) - heights_.at(c, r));
        const float bottom = heights_.at(c, r + 1) + a * (heights_.at(c + 1, r + 1) - heights_.at(c, r + 1));
        return top + b * (bottom - top);
    }
    const Region& ground() const { return ground_; }

private:
    int f_;
    Region ground_;
    Raster<float> heights_;
};

float sigmaOf(const Rule& r, const Level& level) { return static_cast<float>(0.5 * r.reach / level.spacing); }
bool smooths(const Rule& r, const Level& level) { return sigmaOf(r, level) > 0.5f; }
int haloOf(const Rule& r, const Level& level) { return 2 + (smooths(r, level) ? boxReach(sigmaOf(r, level)) : 0); }

// Where a layer counts for the rules of another (readRules): 1 or 0.
Raster<uint8_t> layerSeen(const Level& level, uint32_t own, uint32_t layer, const Region& region) {
    Raster<uint8_t> seen(region.width(), region.depth(), 0);
    const int other = level.layerIndex(layer),
              self = own ? level.layerIndex(own) : static_cast<int>(level.layers.size());
    if (other < 0 || other == self) return seen;
    const Layer& l = level.layers[static_cast<size_t>(other)];
    if (other > self) {
        if (l.hidden) return seen;
        Raster<uint16_t> cover(region.width(), region.depth()), held(region.width(), region.depth(), kFullCover);
        l.coverage.read(region, cover.view());
        if (l.alive) l.held.read(region, held.view());
        for (int z = 0; z < region.depth(); ++z)
            for (int x = 0; x < region.width(); ++x)
                seen.at(x, z) = cover.at(x, z) > kFullCover / 2 && held.at(x, z) == kFullCover;
        return seen;
    }
    Level below = level;
    for (auto i = static_cast<size_t>(self); i < below.layers.size(); ++i) below.layers[i].hidden = true;
    std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(region.width(), region.depth()));
    std::vector<View<uint8_t>> planes;
    for (auto& p : rasters) planes.push_back(p.view());
    readWeights(below, region, planes);
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) seen.at(x, z) = rasters[static_cast<size_t>(other)].at(x, z) >= 128;
    return seen;
}

// The water over cover samples: between ground samples a place is wet with whichever of the corners around it is.
class WaterOver {
public:
    WaterOver(const Level& level, const Region& cover) : ground_(level, cover, 1), f_(level.coverFactor) {
        at_ = Region{cover.x0 / f_, cover.z0 / f_, (cover.x1 - 1) / f_ + 2, (cover.z1 - 1) / f_ + 2}.clipped(
            level.bounds());
        water_ = Raster<Wet>(at_.width(), at_.depth());
        level.water.read(at_, water_.view());
    }
    // kDry where nothing stands above the ground.
    float surface(int x, int z) const {
        const int c = x / f_ - at_.x0, r = z / f_ - at_.z0, right = x % f_ ? 1 : 0, low = z % f_ ? 1 : 0;
        float best = kDry;
        for (const int dz : {0, low})
            for (const int dx : {0, right}) best = std::max(best, water_.at(c + dx, r + dz).surface);
        return best > height(x, z) ? best : kDry;
    }
    float height(int x, int z) const { return ground_.at(x, z, 0, 0); }
    bool wet(int x, int z) const { return surface(x, z) > kDry; }

private:
    Around ground_;
    int f_;
    Region at_;
    Raster<Wet> water_;
};

// The greatest of each row's, then of each column's samples within `by`.
void spreadGreatest(Raster<float>& values, int by) {
    const int w = values.width(), d = values.depth();
    Raster<float> once(w, d);
    for (int z = 0; z < d; ++z)
        for (int x = 0; x < w; ++x) {
            const float* row = values.view().row(z);
            once.at(x, z) = *std::max_element(row + std::max(x - by, 0), row + std::min(x + by + 1, w));
        }
    for (int z = 0; z < d; ++z)
        for (int x = 0; x < w; ++x) {
            float most = kDry;
            for (int k = std::max(z - by, 0); k < std::min(z + by + 1, d); ++k) most = std::max(most, once.at(x, k));
            values.at(x, z) = most;
        }
}

// What one rule gives, [0, 1].
void readRule(const Level& level, uint32_t own, const Rule& r, const Region& region, View<float> out) {
    const auto each = [&](auto f) {
        for (int z = region.z0; z < region.z1; ++z)
            for (int x = region.x0; x < region.x1; ++x) out.at(x - region.x0, z - region.z0) = r.strength * f(x, z);
    };
    // By the distance to samples for which `is` holds; those farther than `most` samples are not looked for.
    const auto near = [&](double most, auto is) {
        const Raster<float> away = distancesTo(region, level.coverBounds(), most, is);
        each([&](int x, int z) {
            return within(static_cast<float>(away.at(x - region.x0, z - region.z0) * level.coverSpacing()), r);
        });
    };
    const double spacing = level.spacing;
    switch (r.kind) {
        case RuleKind::slope:
        case RuleKind::facing: {
            Around ground(level, region, haloOf(r, level));
            if (smooths(r, level)) ground = ground.smoothed(sigmaOf(r, level));
            return each([&](int x, int z) {
                const double east = (ground.at(x, z, 1, 0) - ground.at(x, z, -1, 0)) / (2 * spacing),
                             south = (ground.at(x, z, 0, 1) - ground.at(x, z, 0, -1)) / (2 * spacing);
                const auto slope = static_cast<float>(std::atan(std::hypot(east, south)) * kDegrees);
                if (r.kind == RuleKind::slope) return within(slope, r);
                // Down the slope, clockwise from north (-Z).
                const auto towards = static_cast<float>(std::atan2(-east, south) * kDegrees);
                return withinCircle(towards, r) * smoothstep(slope / kFlatGround);
            });
        }
        case RuleKind::altitude: {
            const Around ground(level, region, 1);
            return each([&](int x, int z) { return within(ground.at(x, z, 0, 0), r); });
        }
        case RuleKind::curvature: {
            // How far above or below its surroundings, in shares of a sixteenth of the reach.
            const Around ground(level, region, haloOf(r, level));
            const float sigma = std::max(sigmaOf(r, level), 0.51f), full = static_cast<float>(2 * sigma * spacing) / 16;
            const Around mean = ground.smoothed(smooths(r, level) ? sigma : 0.51f);
            return each([&](int x, int z) {
                return within(std::clamp((ground.at(x, z, 0, 0) - mean.at(x, z, 0, 0)) / full, -1.f, 1.f), r);
            });
        }
        case RuleKind::layer: {
            const double most = (r.to + r.fade) / level.coverSpacing();
            const Region wide = region.grown(static_cast<int>(std::ceil(most)) + 1).clipped(level.coverBounds());
            const Raster<uint8_t> shows = layerSeen(level, own, r.layer, wide);
            return near(most, [&](int x, int z) { return shows.at(x - wide.x0, z - wide.z0) != 0; });
        }
        case RuleKind::low: {
            const double most = (r.to + r.fade) / level.coverSpacing();
            const Region wide = region.grown(static_cast<int>(std::ceil(most)) + 1).clipped(level.coverBounds());
            const Around ground(level, wide, 1);
            return near(most, [&](int x, int z) { return ground.at(x, z, 0, 0) < r.level; });
        }
        case RuleKind::course: {
            const int place = level.stratumIndex(r.layer);
            Raster<float> away(region.width(), region.depth(), kFarFromCourse);
            if (place >= 0 && level.strata[static_cast<size_t>(place)].course &&
                level.strata[static_cast<size_t>(place)].visible)
                courseDistances(level, static_cast<size_t>(place), r.to + r.fade, region, away.view());
            return each([&](int x, int z) { return within(away.at(x - region.x0, z - region.z0), r); });
        }
        case RuleKind::depth: {
            const WaterOver water(level, region);
            return each([&](int x, int z) {
                return water.wet(x, z) ? within(water.surface(x, z) - water.height(x, z), r) : 0;
            });
        }
        case RuleKind::shore: {
            const double step = level.coverSpacing(), most = ruleReach(r) / step + 1;
            const Region wide = region.grown(static_cast<int>(std::ceil(most)) + 1).clipped(level.coverBounds());
            const WaterOver water(level, wide);
            const Raster<float> toWet = distancesTo(region, level.coverBounds(), most,
                                                    [&](int x, int z) { return water.wet(x, z); }),
                                toDry = distancesTo(region, level.coverBounds(), most,
                                                    [&](int x, int z) { return !water.wet(x, z); });
            // The outline lies about half way between the last wet sample and the first dry one.
            return each([&](int x, int z) {
                const float out = toWet.at(x - region.x0, z - region.z0), in = toDry.at(x - region.x0, z - region.z0);
                return within(static_cast<float>((out > 0 ? out - 0.5f : 0.5f - in) * step), r);
            });
        }
        case RuleKind::above: {
            const double most = r.reach / level.coverSpacing();
            const int by = static_cast<int>(std::ceil(most)) + 1;
            const Region wide = region.grown(by).clipped(level.coverBounds());
            const WaterOver water(level, wide);
            const Raster<float> away = distancesTo(region, level.coverBounds(), most,
                                                   [&](int x, int z) { return water.wet(x, z); });
            Raster<float> highest(wide.width(), wide.depth());
            for (int z = 0; z < wide.depth(); ++z)
                for (int x = 0; x < wide.width(); ++x) highest.at(x, z) = water.surface(wide.x0 + x, wide.z0 + z);
            spreadGreatest(highest, by);
            return each([&](int x, int z) {
                const float surface = highest.at(x - wide.x0, z - wide.z0);
                const double far = away.at(x - region.x0, z - region.z0);
                if (water.wet(x, z) || surface == kDry || far > most) return 0.f;
                // It ends softly where it is no longer looked for.
                return within(std::max(water.height(x, z) - surface, 0.f), r) *
                       smoothstep(static_cast<float>(4 * (1 - far / std::max(most, 1e-6))));
            });
        }
        case RuleKind::noise:
            return each([&](int x, int z) {
                const auto px = static_cast<float>((level.originX + x * level.coverSpacing()) / r.scale),
                           pz = static_cast<float>((level.originZ + z * level.coverSpacing()) / r.scale);
                // Spread evenly by the normal distribution that fractal noise comes near to.
                return within(0.5f * std::erfc(-fractalNoise(px, pz, r.seed, 4, 0.55f) / (0.186f * 1.41421356f)), r);
            });
    }
}

}  // namespace

double ruleReach(const Rule& r) {
    switch (r.kind) {
        case RuleKind::slope:
        case RuleKind::facing:
        case RuleKind::curvature: return 3 * r.reach;
        case RuleKind::layer:
        case RuleKind::course:
        case RuleKind::low: return r.to + r.fade;
        case RuleKind::shore: return std::max(std::abs(r.from), std::abs(r.to)) + r.fade;
        case RuleKind::above: return r.reach;
        case RuleKind::depth:
        case RuleKind::altitude:
        case RuleKind::noise: return 0;
    }
    return 0;
}

TileSet overGround(const Level& level, const TileSet& ground) {
    return ground.finer(level.coverFactor).clipped(level.coverBounds());
}

namespace {

// Before the first rule the layer lies everywhere or nowhere.
bool beginsFull(const std::vector<Rule>& rules) { return !rules.empty() && rules.front().way != RuleEffect::add; }

}  // namespace

TileSet whereItCounts(const Level& level, const Rule& r) {
    if (r.way == RuleEffect::only) return level.coverBounds();
    const double reach = ruleReach(r) + 2 * level.spacing;
    if (r.kind == RuleKind::course) {
        const int place = level.stratumIndex(r.layer);
        // A course beyond the level's edge may reach into it.
        return place < 0 ? TileSet() : overGround(level, nearEvenPart(level, static_cast<size_t>(place), reach));
    }
    if (r.kind == RuleKind::depth || r.kind == RuleKind::shore || r.kind == RuleKind::above)
        return overGround(level, presentTiles(level.water))
            .grown(static_cast<int>(std::ceil(reach / level.coverSpacing())), level.coverBounds());
    return level.coverBounds();
}

TileSet rulesDiffer(const Level& level, const std::vector<Rule>& before, const std::vector<Rule>& after) {
    if (beginsFull(before) != beginsFull(after)) return level.coverBounds();
    // Rules that both begin with and end with give the same in both.
    const size_t shorter = std::min(before.size(), after.size());
    size_t first = 0, last = 0;
    while (first < shorter && before[first] == after[first]) ++first;
    while (last < shorter - first && before[before.size() - 1 - last] == after[after.size() - 1 - last]) ++last;
    TileSet all;
    for (const auto* rules : {&before, &after})
        for (size_t i = first; i < rules->size() - last; ++i) all.add(whereItCounts(level, (*rules)[i]));
    return all;
}

void readRules(const Level& level, uint32_t own, const std::vector<Rule>& rules, const Region& region,
               View<float> out) {
    for (int z = 0; z < region.depth(); ++z) std::fill_n(out.row(z), region.width(), beginsFull(rules) ? 1.f : 0.f);
    Raster<float> one(region.width(), region.depth());
    for (const Rule& r : rules) {
        readRule(level, own, r, region, one.view());
        for (int z = 0; z < region.depth(); ++z)
            for (int x = 0; x < region.width(); ++x) {
                float& c = out.at(x, z);
                const float m = one.at(x, z);
                switch (r.way) {
                    case RuleEffect::add: c += (1 - c) * m; break;
                    case RuleEffect::only: c *= 1 - r.strength + m; break;  // m has the strength in it
                    case RuleEffect::never: c *= 1 - m; break;
                }
            }
    }
}

}  // namespace jam
