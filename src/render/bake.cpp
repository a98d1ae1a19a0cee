#include "bake.h"

#include <glm/common.hpp>
#include <limits>

#include "bake_row.h"
#include "base/maths.h"
#include "base/noise.h"
#include "cover/lay.h"
#include "cover/wash.h"
#include "cover/weights.h"
#include "level/ground.h"

namespace jam {

namespace {

// Upward part of the normal above which less than a fiftieth is seen from the sides (about 18 degrees).
constexpr float kSteepUp = 0.95f;
constexpr float kOneTone = 0.2f;  // linear

// Twice, at scales that never repeat together, turned against each other: so nothing is seen to repeat.
float grainAt(const std::vector<float>& grain, double u, double v) {
    constexpr int n = MaterialMeans::kGrain;
    if (grain.empty()) return 0;
    const auto at = [&grain](double a, double b) {
        // Each repeat begins somewhere else, or the eye would find it again. Where two meet does not show: the grain is
        // about as fine as the samples.
        const int column = wholeBelow(a), row = wholeBelow(b);
        const uint32_t begins = hashPoint(column, row, 17);
        a += (begins & 0xffff) / 65536.0 - column, b += (begins >> 16) / 65536.0 - row;
        const auto x = static_cast<unsigned>(a * n) % n, y = static_cast<unsigned>(b * n) % n;
        return grain[y * n + x];
    };
    constexpr float kShare = 1.25f;
    return std::clamp(kShare * (at(u, v) + at(1.9 * u + 1.3 * v, 1.9 * v - 1.3 * u)), -1.f, 1.f);
}

// The layers and the wash along one row of samples.
class RowColours {
public:
    RowColours(const BakeSource& s, const Region& r)
        : source_(s), region_(r), planes_(s.level.layers.size(), Raster<uint8_t>(coverOf(r).width(), 1)),
          washes_(r.width(), 1) {
        for (auto& p : planes_) views_.push_back(p.view());
        const uint32_t within = layersWithin(s.level, coverOf(r));
        for (size_t i = 0; i < planes_.size(); ++i)
            if (within >> i & 1) present_.push_back(i);
    }

    void read(int z) {
        const int f = source_.level.coverFactor;
        const Region cover = coverOf(region_);
        if (present_.size() > 1) readWeights(source_.level, {cover.x0, z * f, cover.x1, z * f + 1}, views_);
        if (source_.washed) source_.level.wash.read({region_.x0, z, region_.x1, z + 1}, washes_.view());
    }

    // Of a sample of the row that was read, counted from the region's first. The colour of the ground before any light.
    glm::vec3 albedo(int x, double px, double pz) const {
        const float wandered = source_.wanders ? wanderAt(px, pz) : 0;
        const Wash wash = source_.washed ? washes_.at(x, 0) : Wash{};
        const float washed = static_cast<float>(wash.strength) / 65535;
        const glm::vec3 painted = wash.strength ? linear(wash) : glm::vec3(0);
        const auto own = [&](size_t k) {
            const LayerLook& look = source_.level.layers[k].look;
            const glm::vec3 hue(kWanderHue[0], kWanderHue[1], kWanderHue[2]);
            return glm::mix(source_.colours[k] * (1.f + hue * (look.variation * wandered)), painted,
                            look.wash * washed);
        };
        if (present_.size() == 1) return own(present_.front());
        glm::vec3 sum(0);
        for (const size_t k : present_)
            if (const uint8_t w = views_[k].at(x * source_.level.coverFactor, 0))
                sum += own(k) * (static_cast<float>(w) / 255.f);
        return sum;
    }

    // How bright it is by its layers' pictures, 128 for their mean.
    uint8_t grain(int x, double px, double pz) const { return static_cast<uint8_t>(128 + 127 * grained(x, px, pz)); }

private:
    float grained(int x, double px, double pz) const {
        if (source_.grains.empty()) return 0;
        const auto own = [&](size_t k) {
            return grainAt(*source_.grains[k], px * source_.perMetre[k], pz * source_.perMetre[k]);
        };
        if (present_.size() == 1) return own(present_.front());
        float sum = 0;
        for (const size_t k : present_)
            if (const uint8_t w = views_[k].at(x * source_.level.coverFactor, 0))
                sum += own(k) * (static_cast<float>(w) / 255.f);
        return sum;
    }

    // Neighbours mostly share their colour, which is dear to work out.
    glm::vec3 linear(const Wash& w) const {
        if (w.red != last_.red || w.green != last_.green || w.blue != last_.blue) {
            const std::array<float, 3> c = washLight(w);
            last_ = w;
            lastLinear_ = {c[0], c[1], c[2]};
        }
        return lastLinear_;
    }
    Region coverOf(const Region& r) const {
        const int f = source_.level.coverFactor;
        return {r.x0 * f, r.z0 * f, (r.x1 - 1) * f + 1, (r.z1 - 1) * f + 1};
    }

    const BakeSource& source_;
    Region region_;
    std::vector<size_t> present_;  // layers that may have any weight
    std::vector<Raster<uint8_t>> planes_;
    std::vector<View<uint8_t>> views_;
    Raster<Wash> washes_;
    mutable Wash last_;  // black
    mutable glm::vec3 lastLinear_{0};
};

// Slanting lines over what lies inside the fence, as a factor of all light: the ground stays to be seen between them.
float hatching(const Level& level, int x, int z) {
    const uint16_t inside = level.fence.at(x, z);
    if (inside == 0) return 1;
    constexpr int kEvery = 10, kWide = 2;  // samples from line to line, and of a line
    constexpr float kTakes = 0.7f;         // less would be lost on steep rock
    return (x + z) % kEvery < kWide ? 1 - kTakes * static_cast<float>(inside) / kInside : 1;
}

bool anyWater(const Level& level, const Region& r) {
    bool any = false;
    level.water.eachPart(r, [&](int tx, int tz, const Region&) { any |= level.water.tile(tx, tz) != nullptr; });
    return any;
}

// Wet ground is darker, as a factor of all light: under water, and a hand's breadth above its shore.
class Wetness {
public:
    Wetness(const BakeSource& s, const Region& r) : around_(r.grown(kWetReach).clipped(s.level.bounds())) {
        if (!s.wets || !anyWater(s.level, around_)) return;
        water_ = Raster<Wet>(around_.width(), around_.depth());
        s.level.water.read(around_, water_.view());
    }
    // Multiplies light[i], of every `every`-th sample of a row from column x0 on; `heights` begins with x0's.
    void multiply(int x0, int z, int every, const float* heights, std::vector<float>& light) const {
        constexpr float kWet = 0.72f, kRises = 0.35f;  // metres that the wet rises above the surface
        if (water_.width() == 0) return;
        // The highest surface of the water about each sample is what wets it most.
        constexpr float kNone = -std::numeric_limits<float>::infinity();
        const auto higher = [](float a, float b) { return a < b ? b : a; };
        std::vector<float> along(static_cast<size_t>(around_.width()), kNone);
        for (const int row : {z - kWetReach, z, z + kWetReach}) {
            if (row < around_.z0 || row >= around_.z1) continue;
            const Wet* w = water_.view().row(row - around_.z0);
            for (size_t x = 0; x < along.size(); ++x) along[x] = higher(along[x], w[x].wet() ? w[x].surface : kNone);
        }
        const auto at = [&](int x) { return x < 0 || x >= around_.width() ? kNone : along[static_cast<size_t>(x)]; };
        for (size_t i = 0; i < light.size(); ++i) {
            const int own = static_cast<int>(i) * every, x = x0 + own - around_.x0;
            const float surface = higher(higher(at(x - kWetReach), at(x + kWetReach)), at(x));
            const float least = std::clamp(heights[own] - surface, 0.f, kRises);
            light[i] *= 1 - (1 - kWet) * smoothstep(1 - least / kRises);
        }
    }

private:
    Region around_;
    Raster<Wet> water_;  // of `around_`, empty where all is dry
};

}  // namespace

BakeSource::BakeSource(const Level& l, const std::vector<MaterialMeans>& materials, const LightLook& look, Shade s,
                       const ReliefLook& r)
    : level(l), light(look), shade(std::move(s)), relief(l, r, l.sun.azimuth), headroom(headroomOf(r)),
      washed(l.wash.presentTiles() > 0 && !r.oneTone), wanders(false), wets(l.water.presentTiles() > 0) {
    light.sun *= headroom, light.sky *= headroom;
    even = r.oneTone;
    if (r.oneTone) {
        colours.assign(l.layers.size(), glm::vec3(kOneTone));
        return;
    }
    for (size_t k = 0; k < l.layers.size(); ++k) {
        const std::array<float, 3> tint = tintOf(l.layers[k].look);
        const std::array<float, 3>& mean = materials[k].linear;
        colours.push_back(glm::vec3(mean[0] * tint[0], mean[1] * tint[1], mean[2] * tint[2]));
        grains.push_back(&materials[k].grain);
        perMetre.push_back(static_cast<float>(1 / (l.layers[k].tileSize * l.layers[k].look.farTimes)));
        wanders |= l.layers[k].look.variation > 0;
    }
}

namespace {

float evenness(const BakeSource& s, double px, double pz) { return s.even ? 1.f : unevenness(px, pz); }

// The ground's own colours along a row, of every `stride`-th sample of a region.
class GroundRow {
public:
    GroundRow(const BakeSource& s, const Region& r, int stride)
        : source_(s), region_(r), stride_(stride), layers_(s, r) {
        const auto n = static_cast<size_t>((r.width() + stride - 1) / stride);
        for (std::vector<float>* v : {&red_, &green_, &blue_}) v->resize(n);
        grain_.resize(n);
    }
    // Until the next row.
    BakeRow::Ground at(int z) {
        const Level& l = source_.level;
        layers_.read(z);
        for (size_t i = 0; i < grain_.size(); ++i) {
            const int x = static_cast<int>(i) * stride_;
            const double px = l.originX + (region_.x0 + x) * l.spacing, pz = l.originZ + z * l.spacing;
            const glm::vec3 albedo = layers_.albedo(x, px, pz);
            red_[i] = albedo.x, green_[i] = albedo.y, blue_[i] = albedo.z;
            grain_[i] = layers_.grain(x, px, pz);
        }
        return {red_.data(), green_.data(), blue_.data(), grain_.data()};
    }

private:
    const BakeSource& source_;
    Region region_;
    int stride_;
    RowColours layers_;
    std::vector<float> red_, green_, blue_;
    std::vector<uint8_t> grain_;
};

// The same of what is kept, for a stride of 1.
BakeRow::Ground rowOf(const TileColours& kept, int column, int row) {
    const size_t i = TileColours::at(column, row);
    return {&kept.red[i], &kept.green[i], &kept.blue[i], &kept.grain[i]};
}

// The blocks of a tile that a region takes and that are not known yet.
void learn(const BakeSource& s, const Region& r, TileColours& kept) {
    constexpr int kBlock = Baked::kBlock, kSide = TileColours::kSide, kAcross = kSide / kBlock;
    for (int z = r.z0; z < r.z1; z += kBlock)
        for (int x = r.x0; x < r.x1; x += kBlock) {
            const int bit = z % kSide / kBlock * kAcross + x % kSide / kBlock;
            if (kept.known >> bit & 1) continue;
            kept.known = static_cast<uint16_t>(kept.known | 1u << bit);
            const Region block = Region{x, z, x + kBlock, z + kBlock}.clipped(s.level.bounds());
            GroundRow colours(s, block, 1);
            for (int bz = block.z0; bz < block.z1; ++bz) {
                const BakeRow::Ground row = colours.at(bz);
                const size_t i = TileColours::at(block.x0, bz);
                std::copy_n(row.red, block.width(), &kept.red[i]);
                std::copy_n(row.green, block.width(), &kept.green[i]);
                std::copy_n(row.blue, block.width(), &kept.blue[i]);
                std::copy_n(row.grain, block.width(), &kept.grain[i]);
                const double pz = s.level.originZ + bz * s.level.spacing;
                for (int bx = block.x0; bx < block.x1; ++bx)
                    kept.even[TileColours::at(bx, bz)] = evenness(s, s.level.originX + bx * s.level.spacing, pz);
            }
        }
}

}  // namespace

Baked bake(const BakeSource& s, const Region& asked, int stride, bool surface, TileColours* kept) {
    constexpr int kBlock = Baked::kBlock;
    const Level& level = s.level;
    const auto down = [](int v) { return v / kBlock * kBlock; };
    Baked out;
    out.region =
        Region{down(asked.x0), down(asked.z0), down(asked.x1 + kBlock - 1), down(asked.z1 + kBlock - 1)}.clipped(
            level.bounds());
    const Region& r = out.region;
    const auto count = [](int samples, int every) { return (samples + every - 1) / every; };
    if (surface) out.surface = Raster<uint32_t>(r.width(), r.depth());
    out.lit = Raster<uint32_t>(count(r.width(), stride), count(r.depth(), stride));
    out.steep = Raster<uint8_t>(count(r.width(), kBlock), count(r.depth(), kBlock), uint8_t{0});
    std::optional<GroundRow> colours;
    if (kept) learn(s, r, *kept);
    else colours.emplace(s, r, stride);
    const float per = static_cast<float>(1 / (2 * level.spacing));
    const int every = surface ? 1 : stride;
    const int reach = s.relief.reach();
    Raster<float> heights(r.width() + 2 * reach, r.depth() + 2 * reach);
    readGroundBeyond(level, r.grown(reach), heights.view());
    const View<const float> around = heights.view();
    const View<const float> h = around.part(reach - 1, reach - 1, r.width() + 2, r.depth() + 2);
    const Wetness wetness(s, r);
    BakeRow row(count(r.width(), every));
    const auto shadeOf = [&](const std::shared_ptr<const Raster<uint8_t>>& shade, int z) {
        return shade ? shade->view().row(z) + r.x0 : nullptr;
    };
    for (int z = r.z0; z < r.z1; z += every) {
        const float* middle = h.row(z - r.z0 + 1);
        row.slopes(h.row(z - r.z0), middle, h.row(z - r.z0 + 2), every, per);
        for (size_t i = 0; i < row.up.size(); ++i)
            if (row.up[i] < kSteepUp) out.steep.at(static_cast<int>(i) * every / kBlock, (z - r.z0) / kBlock) = 1;
        // Unevenness of the ground scales all light, so it goes with sun and sky.
        for (size_t i = 0; i < row.even.size(); ++i) {
            const int x = r.x0 + static_cast<int>(i) * every;
            row.even[i] = (kept ? kept->even[TileColours::at(x, z)]
                                : evenness(s, level.originX + x * level.spacing, level.originZ + z * level.spacing)) /
                          s.headroom;
            if (s.hatched) row.even[i] *= hatching(level, x, z);
        }
        wetness.multiply(r.x0, z, every, middle + 1, row.even);
        s.relief.multiply(around, reach, z - r.z0 + reach, every, row.even);
        row.shadeSun(shadeOf(s.shade.sun, z), every);
        row.shadeSky(shadeOf(s.shade.open, z), every);
        if (surface) row.surface(out.surface.view().row(z - r.z0));
        if ((z - r.z0) % stride) continue;
        row.lit(s.light, kept ? rowOf(*kept, r.x0, z) : colours->at(z), stride / every,
                out.lit.view().row((z - r.z0) / stride));
    }
    return out;
}

}  // namespace jam
