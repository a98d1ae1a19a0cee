// Cost: the octaves of noise for each sample; the mean costs little, because wide ones are taken from every n-th
// sample.
#include "shape/noise_ground.h"

#include <cmath>

#include "base/noise.h"
#include "base/parallel.h"
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

float shaped(const Roughness& r, float noise) {
    const float n = noise * 1.7f;
    const float v = n < -1 ? -1 : n > 1 ? 1 : n;
    switch (r.way) {
        case NoiseSign::both: return r.amplitude * v;
        case NoiseSign::up: return r.amplitude * (0.5f + 0.5f * v);
        case NoiseSign::down: return r.amplitude * (0.5f * v - 0.5f);
    }
    return 0;
}

}  // namespace

float roughnessAt(const Roughness& r, double x, double z) {
    return shaped(r, fractalNoise(static_cast<float>(x / r.scale), static_cast<float>(z / r.scale), r.seed, r.octaves));
}

void roughen(View<const float> ground, int x0, int z0, const Level& level, const Roughness& r, View<float> out) {
    const Wide w = wideFor(level, r.scale);
    const int halo = noiseHalo(level, r), reach = boxReach(w.sigma), st = w.stride;
    // Lattice columns that the mean is needed at, on whole multiples of the stride wherever the window lies.
    const int c0 = floorDiv(x0, st), c1 = floorDiv(x0 + out.width - 1, st) + 1, r0 = floorDiv(z0, st),
              r1 = floorDiv(z0 + out.depth - 1, st) + 1;
    const Scratch coarse(c1 - c0 + 1 + 2 * reach, r1 - r0 + 1 + 2 * reach), mean(c1 - c0 + 1, r1 - r0 + 1);
    parallelFor(coarse.depth(), 64, [&](int first, int end) {
        for (int z = first; z < end; ++z) {
            const float* from = ground.row((r0 - reach + z) * st - z0 + halo) + (c0 - reach) * st - x0 + halo;
            float* to = coarse.view().row(z);
            for (int x = 0; x < coarse.width(); ++x) to[x] = from[x * st];
        }
    });
    boxMean(coarse.view(), reach, w.sigma, mean.view());
    // Where along a row each sample lies: on the lattice of the mean, and in the noise.
    const auto n = static_cast<size_t>(out.width);
    std::vector<int> cell(n);
    std::vector<float> within(n), along(n);
    for (size_t x = 0; x < n; ++x) {
        const int column = x0 + static_cast<int>(x), gx = column - c0 * st;
        cell[x] = gx / st;
        within[x] = static_cast<float>(gx - cell[x] * st) / static_cast<float>(st);
        along[x] = static_cast<float>((level.originX + column * level.spacing) / r.scale);
    }
    parallelFor(out.depth, 64, [&](int first, int end) {
        std::vector<float> noise(n);
        for (int z = first; z < end; ++z) {
            const int gz = z0 + z - r0 * st, cz = gz / st;
            const float v = static_cast<float>(gz - cz * st) / static_cast<float>(st);
            const float *above = mean.view().row(cz), *below = mean.view().row(cz + 1);
            const float* from = ground.row(z + halo) + halo;
            float* to = out.row(z);
            fractalNoiseRow(along.data(), out.width,
                            static_cast<float>((level.originZ + (z0 + z) * level.spacing) / r.scale), r.seed, r.octaves,
                            noise.data());
            for (size_t x = 0; x < n; ++x) {
                const int cx = cell[x];
                const float u = within[x];
                const float top = above[cx] + u * (above[cx + 1] - above[cx]);
                const float bottom = below[cx] + u * (below[cx + 1] - below[cx]);
                const float h = from[x], d = h - (top + v * (bottom - top));
                const float k = shaped(r, noise[x]);
                to[x] = k >= 0 ? h + std::min(k, std::max(k - d, 0.f)) : h + std::max(k, std::min(k - d, 0.f));
            }
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
