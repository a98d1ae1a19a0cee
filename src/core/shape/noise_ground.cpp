// Cost: the octaves of noise for each sample; the mean costs little, because wide ones are taken from every n-th
// sample.
#include "shape/noise_ground.h"

#include <cmath>

#include "base/noise.h"
#include "base/parallel.h"
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

float roughnessAt(const Roughness& r, double x, double z) {
    const float n = fractalNoise(static_cast<float>(x / r.scale), static_cast<float>(z / r.scale), r.seed, r.octaves) *
                    1.7f;
    const float v = n < -1 ? -1 : n > 1 ? 1 : n;
    switch (r.way) {
        case NoiseSign::both: return r.amplitude * v;
        case NoiseSign::up: return r.amplitude * (0.5f + 0.5f * v);
        case NoiseSign::down: return r.amplitude * (0.5f * v - 0.5f);
    }
    return 0;
}

void roughen(View<const float> ground, int x0, int z0, const Level& level, const Roughness& r, View<float> out) {
    const Wide w = wideFor(level, r.scale);
    const int halo = noiseHalo(level, r), reach = boxReach(w.sigma), st = w.stride;
    // Lattice columns that the mean is needed at, on whole multiples of the stride wherever the window lies.
    const int c0 = floorDiv(x0, st), c1 = floorDiv(x0 + out.width - 1, st) + 1, r0 = floorDiv(z0, st),
              r1 = floorDiv(z0 + out.depth - 1, st) + 1;
    Raster<float> coarse(c1 - c0 + 1 + 2 * reach, r1 - r0 + 1 + 2 * reach), mean(c1 - c0 + 1, r1 - r0 + 1);
    for (int z = 0; z < coarse.depth(); ++z)
        for (int x = 0; x < coarse.width(); ++x)
            coarse.at(x, z) = ground.at((c0 - reach + x) * st - x0 + halo, (r0 - reach + z) * st - z0 + halo);
    boxMean(coarse.view(), reach, w.sigma, mean.view());
    parallelFor(out.depth, 64, [&](int first, int end) {
        for (int z = first; z < end; ++z)
            for (int x = 0; x < out.width; ++x) {
                const int gx = x0 + x - c0 * st, gz = z0 + z - r0 * st, cx = gx / st, cz = gz / st;
                const float u = static_cast<float>(gx - cx * st) / static_cast<float>(st),
                            v = static_cast<float>(gz - cz * st) / static_cast<float>(st);
                const float top = mean.at(cx, cz) + u * (mean.at(cx + 1, cz) - mean.at(cx, cz));
                const float bottom = mean.at(cx, cz + 1) + u * (mean.at(cx + 1, cz + 1) - mean.at(cx, cz + 1));
                const float h = ground.at(x + halo, z + halo), d = h - (top + v * (bottom - top));
                const float n = roughnessAt(r, level.originX + (x0 + x) * level.spacing,
                                            level.originZ + (z0 + z) * level.spacing);
                out.at(x, z) = n >= 0 ? h + std::min(n, std::max(n - d, 0.f)) : h + std::max(n, std::min(n - d, 0.f));
            }
    });
}

Region noiseGround(const StampSite& site, const Dab& dab, float share, const Roughness& roughness) {
    Raster<float> target(dab.region.width(), dab.region.depth());
    const int halo = noiseHalo(site.level, roughness);
    const auto prepare = [&](const Sculpture& s) {
        roughen(s.origin, dab.region.x0, dab.region.z0, site.level, roughness, target.view());
    };
    return sculpt(
        site, dab, {halo, true},
        [&](const Sculpture& s, int first, int end) { blendTowards(s, first, end, share, target.view()); }, prepare);
}

}  // namespace jam
