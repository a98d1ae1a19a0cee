// Cost: the octaves of noise for each sample; the mean costs little, because wide ones are taken from every n-th
// sample.
#include "shape/noise_ground.h"

#include <cmath>

#include "base/noise.h"
#include "base/parallel.h"
#include "grid/ground_rows.h"
#include "grid/noise_rows.h"
#include "grid/scratch.h"
#include "shape/smooth.h"

namespace jam {

namespace {

// The mean as wide as the bumps, looked up on a lattice of every `stride`-th sample so that its cost is bounded.
struct Wide {
    int stride;
    float sigma;  // in strides
    int halo;     // in strides, with one for interpolation
};

constexpr double kWidestMean = 64;  // samples; keeps the window that a stamp reads small

Wide wideFor(const Level& level, float scale) {
    const double sigma = std::clamp(0.5 * scale / level.spacing, 1.0, kWidestMean);
    const int stride = std::max(1, static_cast<int>(sigma / 12));
    Wide w{stride, static_cast<float>(sigma / stride), 0};
    w.halo = boxReach(w.sigma) + 2;
    return w;
}

int floorDiv(int a, int b) { return a >= 0 ? a / b : -((-a + b - 1) / b); }

}  // namespace

int noiseHalo(const Level& level, const Roughness& roughness) {
    const Wide w = wideFor(level, roughness.scale);
    return (w.halo + 1) * w.stride;
}

namespace {

// Noise seldom comes near its ends; so much more fills them.
constexpr float kNoiseFills = 1.7f;

// What noise of [-1, 1] comes to: start + gain * n.
struct Shaping {
    float start, gain;

    explicit Shaping(const Roughness& r)
        : start(r.way == NoiseSign::both ? 0
                : r.way == NoiseSign::up ? 0.5f * r.amplitude
                                         : -0.5f * r.amplitude),
          gain(r.way == NoiseSign::both ? r.amplitude : 0.5f * r.amplitude) {}
};

}  // namespace

float roughnessAt(const Roughness& r, double x, double z) {
    const Shaping s(r);
    const float n = fractalNoise(static_cast<float>(x / r.scale), static_cast<float>(z / r.scale), r.seed, r.octaves);
    return s.start + s.gain * std::clamp(n * kNoiseFills, -1.f, 1.f);
}

namespace {

// The mean around every sample of a window.
class MeanAround {
public:
    // `ground` has `halo` samples more than the window on each side, whose corner is sample (x0, z0).
    MeanAround(View<const float> ground, int halo, const Wide& wide, int x0, int z0, int width, int depth)
        // Lattice columns that it is needed at, on whole multiples of the stride wherever the window lies.
        : st_(wide.stride), c0_(floorDiv(x0, st_)), r0_(floorDiv(z0, st_)), z0_(z0),
          mean_(floorDiv(x0 + width - 1, st_) + 2 - c0_, floorDiv(z0 + depth - 1, st_) + 2 - r0_) {
        const int reach = boxReach(wide.sigma), w = mean_.width() + 2 * reach, d = mean_.depth() + 2 * reach;
        if (st_ == 1) {
            boxMean(ground.part(halo - reach, halo - reach, w, d), reach, wide.sigma, mean_.view());
            return;
        }
        const Scratch coarse(w, d);
        parallelFor(d, 64, [&](int first, int end) {
            for (int z = first; z < end; ++z) {
                const float* from = ground.row((r0_ - reach + z) * st_ - z0 + halo) + (c0_ - reach) * st_ - x0 + halo;
                float* to = coarse.view().row(z);
                for (int x = 0; x < w; ++x) to[x] = from[x * st_];
            }
        });
        boxMean(coarse.view(), reach, wide.sigma, mean_.view());
        for (int x = 0; x < width; ++x) {
            const int gx = x0 + x - c0_ * st_;
            cell_.push_back(gx / st_);
            within_.push_back(static_cast<float>(gx % st_) / static_cast<float>(st_));
        }
    }
    // Along row z of the window; lies in `room` where it has to be put together.
    const float* row(int z, std::vector<float>& room) const {
        const int gz = z0_ + z - r0_ * st_, cz = gz / st_;
        const float *above = mean_.view().row(cz), *below = mean_.view().row(cz + 1);
        if (st_ == 1) return above;
        const float v = static_cast<float>(gz % st_) / static_cast<float>(st_);
        const int n = static_cast<int>(cell_.size()), points = mean_.width();
        room.resize(static_cast<size_t>(n + points + kLatticeBeyond));
        float* between = room.data() + n;
        for (int c = 0; c < points; ++c) between[c] = above[c] + v * (below[c] - above[c]);
        groundRows().between(room.data(), cell_.data(), within_.data(), n, between);
        return room.data();
    }

private:
    int st_, c0_, r0_, z0_;
    Scratch mean_;  // at the lattice's points
    std::vector<int> cell_;
    std::vector<float> within_;  // where along a row each sample lies
};

}  // namespace

void roughen(View<const float> ground, int x0, int z0, const Level& level, const Roughness& r, View<float> out) {
    const int halo = noiseHalo(level, r);
    const MeanAround mean(ground, halo, wideFor(level, r.scale), x0, z0, out.width, out.depth);
    const auto n = static_cast<size_t>(out.width);
    std::vector<float> along(n);
    for (size_t x = 0; x < n; ++x)
        along[x] = static_cast<float>((level.originX + (x0 + static_cast<int>(x)) * level.spacing) / r.scale);
    const NoiseRows columns(along.data(), out.width, r.seed, r.octaves);
    const Shaping shaping(r);
    parallelFor(out.depth, 64, [&](int first, int end) {
        NoiseRows bumps = columns;
        std::vector<float> noise(n), room;
        for (int z = first; z < end; ++z) {
            bumps.row(static_cast<float>((level.originZ + (z0 + z) * level.spacing) / r.scale), noise.data());
            groundRows().roughen(out.row(z), ground.row(z + halo) + halo, mean.row(z, room), noise.data(), out.width,
                                 kNoiseFills, shaping.start, shaping.gain);
        }
    });
}

Region noiseGround(const StampSite& site, const Dab& dab, float share, const Roughness& roughness) {
    const Scratch target(dab.region.width(), dab.region.depth());
    const int halo = noiseHalo(site.level, roughness);
    const auto prepare = [&](const Sculpture& s) {
        roughen(s.origin, dab.region.x0, dab.region.z0, site.level, roughness, target.view());
    };
    return sculpt(
        site, dab, {halo, true},
        [&](const Sculpture& s, int first, int end) { blendTowards(s, first, end, share, target.view()); }, prepare);
}

}  // namespace jam
