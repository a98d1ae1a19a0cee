#include "cover/rules.h"

#include <algorithm>
#include <cmath>

#include "base/noise.h"
#include "brush/rows.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "shape/smooth.h"

namespace jam {

namespace {

constexpr double kDegrees = 57.29577951308232;
constexpr float kFlatGround = 3;  // degrees below which ground faces nowhere in particular
constexpr int kBandRows = 128;

float smooth(float t) {
    t = std::clamp(t, 0.f, 1.f);
    return t * t * (3 - 2 * t);
}

// 1 between from and to, falling to 0 over `fade` beyond them.
float within(float v, const Rule& r) {
    const float beyond = std::max(r.from - v, v - r.to);
    if (beyond <= 0) return 1;
    return r.fade > 0 ? smooth(1 - beyond / r.fade) : 0;
}

// The same round a circle of 360 degrees.
float withinCircle(float v, const Rule& r) {
    const auto turn = [](float a) { return a - 360 * std::floor(a / 360); };
    const float wide = r.to - r.from >= 360 ? 360 : turn(r.to - r.from), after = turn(v - r.from);
    if (after <= wide) return 1;
    const float beyond = std::min(after - wide, 360 - after);
    return r.fade > 0 ? smooth(1 - beyond / r.fade) : 0;
}

// The ground around a region of cover samples, looked at between its samples.
class Around {
public:
    Around(const Level& level, const Region& cover, int halo) : f_(level.coverFactor) {
        ground_ = {cover.x0 / f_ - halo, cover.z0 / f_ - halo, (cover.x1 - 1) / f_ + 2 + halo, (cover.z1 - 1) / f_ + 2 + halo};
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
        const float a = static_cast<float>(u) / static_cast<float>(f_), b = static_cast<float>(v) / static_cast<float>(f_);
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

// Distance in metres to the nearest sample for which `is` holds, up to `most`, for `region` (of samples `spacing` apart, with
// the same margin read around it): exact, in two passes of lower envelopes (Felzenszwalb and Huttenlocher, "Distance
// Transforms of Sampled Functions", 2012).
template <class Is>
Raster<float> nearness(const Region& region, const Region& bounds, double spacing, double most, Is is) {
    const int margin = static_cast<int>(std::ceil(most / spacing)) + 1;
    const Region wide = region.grown(margin).clipped(bounds);
    constexpr float kFar = 1e12f;
    Raster<float> squares(wide.width(), wide.depth());
    for (int z = 0; z < wide.depth(); ++z)
        for (int x = 0; x < wide.width(); ++x) squares.at(x, z) = is(wide.x0 + x, wide.z0 + z) ? 0.f : kFar;
    const int longest = std::max(wide.width(), wide.depth());
    std::vector<float> line(static_cast<size_t>(longest)), out(line.size());
    std::vector<int> places(line.size());
    std::vector<double> bordersAt(line.size() + 1);
    const auto envelope = [&](int n) {
        int k = 0;
        places[0] = 0;
        bordersAt[0] = -1e18, bordersAt[1] = 1e18;
        const auto meet = [&](int p, int q) {
            return ((line[static_cast<size_t>(q)] + static_cast<double>(q) * q) - (line[static_cast<size_t>(p)] + static_cast<double>(p) * p)) / (2.0 * (q - p));
        };
        for (int q = 1; q < n; ++q) {
            double s = meet(places[static_cast<size_t>(k)], q);
            while (s <= bordersAt[static_cast<size_t>(k)]) s = meet(places[static_cast<size_t>(--k)], q);
            places[static_cast<size_t>(++k)] = q;
            bordersAt[static_cast<size_t>(k)] = s;
            bordersAt[static_cast<size_t>(k) + 1] = 1e18;
        }
        for (int q = 0, i = 0; q < n; ++q) {
            while (bordersAt[static_cast<size_t>(i) + 1] < q) ++i;
            const int p = places[static_cast<size_t>(i)];
            out[static_cast<size_t>(q)] = static_cast<float>(static_cast<double>(q - p) * (q - p) + line[static_cast<size_t>(p)]);
        }
    };
    for (int x = 0; x < wide.width(); ++x) {
        for (int z = 0; z < wide.depth(); ++z) line[static_cast<size_t>(z)] = squares.at(x, z);
        envelope(wide.depth());
        for (int z = 0; z < wide.depth(); ++z) squares.at(x, z) = out[static_cast<size_t>(z)];
    }
    Raster<float> metres(region.width(), region.depth());
    for (int z = 0; z < region.depth(); ++z) {
        std::copy_n(squares.view().row(region.z0 + z - wide.z0), wide.width(), line.begin());
        envelope(wide.width());
        for (int x = 0; x < region.width(); ++x)
            metres.at(x, z) = static_cast<float>(std::sqrt(out[static_cast<size_t>(region.x0 + x - wide.x0)]) * spacing);
    }
    return metres;
}

// What one rule gives, [0, 1].
void readRule(const Level& level, const Rule& r, const Region& region, View<float> out) {
    const auto each = [&](auto f) {
        for (int z = region.z0; z < region.z1; ++z)
            for (int x = region.x0; x < region.x1; ++x) out.at(x - region.x0, z - region.z0) = r.strength * f(x, z);
    };
    const double spacing = level.spacing;
    switch (r.kind) {
        case RuleKind::slope: case RuleKind::facing: {
            Around ground(level, region, haloOf(r, level));
            if (smooths(r, level)) ground = ground.smoothed(sigmaOf(r, level));
            return each([&](int x, int z) {
                const double east = (ground.at(x, z, 1, 0) - ground.at(x, z, -1, 0)) / (2 * spacing), south = (ground.at(x, z, 0, 1) - ground.at(x, z, 0, -1)) / (2 * spacing);
                const auto slope = static_cast<float>(std::atan(std::hypot(east, south)) * kDegrees);
                if (r.kind == RuleKind::slope) return within(slope, r);
                // Down the slope, clockwise from north (-Z).
                const auto towards = static_cast<float>(std::atan2(-east, south) * kDegrees);
                return withinCircle(towards, r) * smooth(slope / kFlatGround);
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
            return each([&](int x, int z) { return within(std::clamp((ground.at(x, z, 0, 0) - mean.at(x, z, 0, 0)) / full, -1.f, 1.f), r); });
        }
        case RuleKind::layer: {
            const int other = level.layerIndex(r.layer);
            if (other < 0) return each([](int, int) { return 0.f; });
            const double most = r.to + r.fade;
            const Region bounds = level.coverBounds(), wide = region.grown(static_cast<int>(std::ceil(most / level.coverSpacing())) + 1).clipped(bounds);
            std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(wide.width(), wide.depth()));
            std::vector<View<uint8_t>> planes;
            for (auto& p : rasters) planes.push_back(p.view());
            readWeights(level, wide, planes);
            const Raster<float> metres = nearness(region, bounds, level.coverSpacing(), most, [&](int x, int z) { return planes[static_cast<size_t>(other)].at(x - wide.x0, z - wide.z0) >= 128; });
            return each([&](int x, int z) { return within(metres.at(x - region.x0, z - region.z0), r); });
        }
        case RuleKind::low: {
            const double most = r.to + r.fade;
            const Around ground(level, region.grown((static_cast<int>(std::ceil(most / spacing)) + 2) * level.coverFactor).clipped(level.coverBounds()), 1);
            const Raster<float> metres = nearness(region, level.coverBounds(), level.coverSpacing(), most, [&](int x, int z) { return ground.at(x, z, 0, 0) < r.level; });
            return each([&](int x, int z) { return within(metres.at(x - region.x0, z - region.z0), r); });
        }
        case RuleKind::noise:
            return each([&](int x, int z) {
                const auto px = static_cast<float>((level.originX + x * level.coverSpacing()) / r.scale), pz = static_cast<float>((level.originZ + z * level.coverSpacing()) / r.scale);
                // Spread evenly by the normal distribution that fractal noise comes near to.
                return within(0.5f * std::erfc(-fractalNoise(px, pz, r.seed, 4, 0.55f) / (0.186f * 1.41421356f)), r);
            });
    }
}

bool changeable(const Level& level, int index) { return index > 0 && !level.layers[static_cast<size_t>(index)].locked; }

template <class F>
bool eachBand(const Region& region, const Context& context, F f) {
    for (int z = region.z0; z < region.z1; z += kBandRows) {
        if (context.cancelled()) return false;
        f(Region{region.x0, z, region.x1, std::min(z + kBandRows, region.z1)});
        context.report(static_cast<double>(z - region.z0) / region.depth());
    }
    return true;
}

uint16_t stored(float share) { return static_cast<uint16_t>(std::lround(std::clamp(share, 0.f, 1.f) * 65535)); }

// Moves the base to what the rules give now, and the coverage with it as far as the hand does not hold it.
bool runAgain(Level& level, int index, const Region& region, const Context& context) {
    Layer& layer = level.layers[static_cast<size_t>(index)];
    return eachBand(region, context, [&](const Region& band) {
        Raster<float> given(band.width(), band.depth());
        readRules(level, layer.rules, band, given.view());
        Raster<uint16_t> base(band.width(), band.depth()), held = base, cover = base;
        layer.base.read(band, base.view());
        layer.held.read(band, held.view());
        layer.coverage.read(band, cover.view());
        for (int z = 0; z < band.depth(); ++z)
            for (int x = 0; x < band.width(); ++x) {
                const uint16_t next = stored(given.at(x, z));
                const float free = 1 - held.at(x, z) / 65535.0f;
                const float moved = static_cast<float>(cover.at(x, z)) + (static_cast<float>(next) - static_cast<float>(base.at(x, z))) * free;
                cover.at(x, z) = held.at(x, z) == 0 ? next : static_cast<uint16_t>(std::clamp(std::round(moved), 0.f, 65535.f));
                base.at(x, z) = next;
            }
        layer.base.write(band, base.view());
        layer.coverage.write(band, cover.view());
    });
}

// Cover samples over ground samples.
TileSet coverOver(const Level& level, const TileSet& ground) { return ground.finer(level.coverFactor).clipped(level.coverBounds()); }

// Moves what the hand holds below a dab towards a goal.
void changeHeld(Layer& layer, const Dab& dab, float share, void (*kernel)(uint16_t*, const uint16_t*, int, uint16_t), uint16_t goal) {
    Raster<uint16_t> held(dab.region.width(), dab.region.depth());
    layer.held.read(dab.region, held.view());
    std::vector<float> mask(static_cast<size_t>(dab.region.width()));
    std::vector<uint16_t> bits(mask.size());
    for (int z = dab.region.z0; z < dab.region.z1; ++z) {
        const Region span = dabSpan(dab, dab.region, z);
        if (span.empty()) continue;
        dabMask(dab, span.x0, z, span.width(), share, mask.data());
        rowKernels().bits(bits.data(), mask.data(), span.width());
        kernel(&held.at(span.x0 - dab.region.x0, z - dab.region.z0), bits.data(), span.width(), goal);
    }
    layer.held.write(dab.region, held.view());
}

bool looksAtCover(const Rule& r) { return r.kind == RuleKind::layer; }

}  // namespace

double ruleReach(const Rule& r) {
    switch (r.kind) {
        case RuleKind::slope: case RuleKind::facing: case RuleKind::curvature: return 3 * r.reach;
        case RuleKind::layer: case RuleKind::low: return r.to + r.fade;
        case RuleKind::altitude: case RuleKind::noise: return 0;
    }
    return 0;
}

void readRules(const Level& level, const std::vector<Rule>& rules, const Region& region, View<float> out) {
    const bool adds = !rules.empty() && rules.front().way == RuleEffect::add;
    for (int z = 0; z < region.depth(); ++z) std::fill_n(out.row(z), region.width(), adds || rules.empty() ? 0.f : 1.f);
    Raster<float> one(region.width(), region.depth());
    for (const Rule& r : rules) {
        readRule(level, r, region, one.view());
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

bool bakeRules(Level& level, uint32_t layer, const Context& context) {
    const int index = level.layerIndex(layer);
    if (!changeable(level, index)) return true;
    const Level origin = level;
    Layer& l = level.layers[static_cast<size_t>(index)];
    const bool done = eachBand(level.coverBounds(), context, [&](const Region& band) {
        Raster<float> given(band.width(), band.depth());
        Raster<uint16_t> cover(band.width(), band.depth());
        readRules(origin, l.rules, band, given.view());
        for (int z = 0; z < band.depth(); ++z) std::transform(given.view().row(z), given.view().row(z) + band.width(), cover.view().row(z), stored);
        l.coverage.write(band, cover.view());
    });
    if (!done) level = origin;
    return done;
}

Region ruleCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer) {
    const int index = level.layerIndex(layer);
    if (dab.region.empty() || !changeable(level, index)) return {};
    Layer& l = level.layers[static_cast<size_t>(index)];
    Raster<float> given(dab.region.width(), dab.region.depth());
    Raster<uint16_t> cover(dab.region.width(), dab.region.depth());
    readRules(origin, l.rules, dab.region, given.view());
    l.coverage.read(dab.region, cover.view());
    eachDabSample(dab, share, [&](int x, int z, float mask) {
        uint16_t& c = cover.at(x - dab.region.x0, z - dab.region.z0);
        const float way = given.at(x - dab.region.x0, z - dab.region.z0) * 65535 - c, step = way * mask;
        // At least one step, so that the finest share still gets there.
        if (step != 0 && std::abs(way) >= 0.5f) c = static_cast<uint16_t>(c + std::lround(std::copysign(std::max(std::abs(step), 0.5f), step)));
    });
    l.coverage.write(dab.region, cover.view());
    if (l.alive) changeHeld(l, dab, share, rowKernels().thin, 0);
    return dab.region;
}

void wakeRules(Level& level, uint32_t layer, bool keepPaint) {
    const int index = level.layerIndex(layer);
    if (!changeable(level, index) || level.layers[static_cast<size_t>(index)].alive) return;
    Layer& l = level.layers[static_cast<size_t>(index)];
    l.alive = true;
    l.base = l.held = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    if (!keepPaint) {
        runAgain(level, index, level.coverBounds(), {});
        return;
    }
    // What differs from the rules was painted: wholly where much, less where little.
    eachBand(level.coverBounds(), {}, [&](const Region& band) {
        Raster<float> given(band.width(), band.depth());
        Raster<uint16_t> base(band.width(), band.depth()), held = base, cover = base;
        readRules(level, l.rules, band, given.view());
        l.coverage.read(band, cover.view());
        for (int z = 0; z < band.depth(); ++z)
            for (int x = 0; x < band.width(); ++x) {
                base.at(x, z) = stored(given.at(x, z));
                held.at(x, z) = static_cast<uint16_t>(std::min(8 * std::abs(cover.at(x, z) - base.at(x, z)), 65535));
            }
        l.base.write(band, base.view());
        l.held.write(band, held.view());
    });
}

void restRules(Level& level, uint32_t layer) {
    Layer* l = level.layer(layer);
    if (!l) return;
    l->alive = false;
    l->base = l->held = {};
}

TileSet refreshLayer(Level& level, uint32_t layer, const Context& context) {
    const int index = level.layerIndex(layer);
    if (!changeable(level, index) || !level.layers[static_cast<size_t>(index)].alive) return {};
    runAgain(level, index, level.coverBounds(), context);
    return level.coverBounds();
}

TileSet refreshRules(Level& level, const Change& change, const Context& context) {
    TileSet made;
    for (size_t i = 1; i < level.layers.size() && !context.cancelled(); ++i) {
        const Layer& l = level.layers[i];
        if (!l.alive || l.locked) continue;
        TileSet again;
        for (const Rule& r : l.rules) {
            if (r.kind == RuleKind::noise) continue;
            TileSet seen = coverOver(level, change.ground);
            if (looksAtCover(r)) seen.add(change.cover), seen.add(made);
            const int far = static_cast<int>(std::ceil((ruleReach(r) + 3 * level.spacing) / level.coverSpacing()));
            again.add(seen.grown(far, level.coverBounds()));
        }
        for (const Region& spot : again.spots()) runAgain(level, static_cast<int>(i), spot, context);
        made.add(again);
    }
    return made;
}

void holdByHand(Layer& layer, const Dab& dab, float share) {
    if (layer.alive && !dab.region.empty()) changeHeld(layer, dab, share, rowKernels().cover, kFullCover);
}

}  // namespace jam
