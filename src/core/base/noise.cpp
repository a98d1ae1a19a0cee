// A row of noise, lattice cell by lattice cell: within one the directions at its corners stay, and what is left is a
// polynomial.
#include "base/noise.h"

#include <algorithm>
#include <vector>

namespace jam {

namespace {

struct CellSide {
    NoiseArrow top, bottom;
};

// sum[i] += strength * gradientNoise(x[i], z, seed), in the same order of arithmetic.
void addOctave(const float* x, int n, float z, uint32_t seed, float strength, float* sum) {
    const auto& all = noiseArrows();
    const float fz = std::floor(z), v = z - fz;
    const int iz = static_cast<int>(fz);
    const float b = v * v * v * (v * (v * 6 - 15) + 10);
    const auto side = [&](int ix) {
        return CellSide{all[hashPoint(ix, iz, seed) >> 24], all[hashPoint(ix, iz + 1, seed) >> 24]};
    };
    CellSide left{}, right{};
    int known = 0;  // the cell whose right side `right` is, when any
    for (int i = 0; i < n;) {
        const float fx = std::floor(x[i]), beyond = fx + 1;
        const int ix = static_cast<int>(fx);
        left = i > 0 && ix == known + 1 ? right : side(ix);
        right = side(ix + 1);
        known = ix;
        const CellSide l = left, r = right;
        int end = i;
        while (end < n && x[end] < beyond) ++end;
        const float topV = v - 0.f, bottomV = v - 1.f;
        for (; i < end; ++i) {
            const float u = x[i] - fx, u1 = u - 1.f;
            const float a = u * u * u * (u * (u * 6 - 15) + 10);
            const float c00 = l.top.x * u + l.top.z * topV, c10 = r.top.x * u1 + r.top.z * topV;
            const float c01 = l.bottom.x * u + l.bottom.z * bottomV, c11 = r.bottom.x * u1 + r.bottom.z * bottomV;
            const float top = c00 + a * (c10 - c00), bottom = c01 + a * (c11 - c01);
            sum[i] += strength * (1.4142f * (top + b * (bottom - top)));
        }
    }
}

}  // namespace

void fractalNoiseRow(const float* x, int n, float z, uint32_t seed, int octaves, float* out) {
    constexpr float kGain = 0.5f;
    std::vector<float> finer(x, x + n);
    std::fill_n(out, n, 0.f);
    float strength = 1, total = 0;
    for (int k = 0; k < octaves; ++k) {
        addOctave(finer.data(), n, z, seed + static_cast<uint32_t>(k) * 101u, strength, out);
        total += strength;
        strength *= kGain;
        for (float& v : finer) v *= 2;
        z *= 2;
    }
    for (int i = 0; i < n; ++i) out[i] /= total;
}

}  // namespace jam
