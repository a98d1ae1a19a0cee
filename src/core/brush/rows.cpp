// Compiled once per processor level, with JAM_ROWS naming the set. Loops here use raw pointers and built-in
// types only: an inline function of the standard library compiled for a newer processor could be picked by
// the linker for the whole program. -ffp-contract=off keeps the bits equal between the sets.
#include "brush/rows.h"

namespace jam {
namespace {

float clamp01(float v) { return v < 0 ? 0 : v > 1 ? 1 : v; }

template <Curve curve>
void maskRow(float* __restrict mask, int n, float dx, float dz, float radius, float softness, float strength) {
    const float perRadius = 1 / radius, perSoft = 1 / (softness < 1e-4f ? 1e-4f : softness);
    const float shoulder = 1 - (softness < 1e-4f ? 1e-4f : softness);
    const float dz2 = dz * dz;
    for (int i = 0; i < n; ++i) {
        const float x = dx + static_cast<float>(i);
        const float share = __builtin_sqrtf(x * x + dz2) * perRadius;
        const float t = clamp01((share - shoulder) * perSoft);
        mask[i] = strength * curveAt(curve, t);
    }
}

void mask(float* out, int n, float dx, float dz, float radius, const Falloff& f, float strength) {
    switch (f.curve) {
        case Curve::smooth: return maskRow<Curve::smooth>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::straight: return maskRow<Curve::straight>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::dome: return maskRow<Curve::dome>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::bell: return maskRow<Curve::bell>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::point: return maskRow<Curve::point>(out, n, dx, dz, radius, f.softness, strength);
    }
}

void raise(float* __restrict ground, const float* __restrict m, int n) {
    for (int i = 0; i < n; ++i) ground[i] += m[i];
}

void flatten(float* __restrict ground, const float* __restrict m, int n, float target, bool fill, bool cut) {
    const float most = fill ? 1e9f : 0, least = cut ? -1e9f : 0;
    for (int i = 0; i < n; ++i) {
        float d = target - ground[i];
        d = d > most ? most : d < least ? least : d;
        ground[i] += m[i] * d;
    }
}

void smooth(float* __restrict out, const float* a, const float* b, const float* c, const float* m, int n) {
    for (int i = 0; i < n; ++i) {
        const float corners = (a[i - 1] + a[i + 1]) + (c[i - 1] + c[i + 1]);
        const float sides = (a[i] + c[i]) + (b[i - 1] + b[i + 1]);
        const float mean = 0.0625f * corners + 0.125f * sides + 0.25f * b[i];
        out[i] = b[i] + m[i] * (mean - b[i]);
    }
}

void blend(float* __restrict out, const float* ground, const float* mean, const float* m, int n) {
    for (int i = 0; i < n; ++i) out[i] = ground[i] + m[i] * (mean[i] - ground[i]);
}

// Where the mask is not nothing, coverage moves by at least one step, so that no strength stalls.
float atLeastOne(float step, float way) {
    const float some = step < 1 ? 1 : step;
    return step > 0 ? (some < way ? some : way) : 0;
}

void cover(uint16_t* __restrict cov, const float* __restrict m, int n, float target) {
    for (int i = 0; i < n; ++i) {
        const float now = cov[i];
        const float way = target > now ? target - now : 0;
        cov[i] = static_cast<uint16_t>(static_cast<int>(now + atLeastOne(m[i] * way, way) + 0.5f));
    }
}

void thin(uint16_t* __restrict cov, const float* __restrict m, int n, float target) {
    for (int i = 0; i < n; ++i) {
        const float now = cov[i];
        const float way = now > target ? now - target : 0;
        cov[i] = static_cast<uint16_t>(static_cast<int>(now - atLeastOne(m[i] * way, way) + 0.5f));
    }
}

// x / 65535 rounded, exact for products of two 16-bit numbers.
uint32_t per65535(uint32_t x) {
    const uint32_t y = x + 32767u;
    return (y + 1 + (y >> 16)) >> 16;
}

void weigh(const uint16_t* __restrict cov, int n, uint32_t* __restrict open, uint8_t* __restrict below, uint8_t* __restrict out) {
    for (int i = 0; i < n; ++i) {
        const uint32_t left = per65535(open[i] * (65535u - cov[i]));
        const uint8_t edge = static_cast<uint8_t>(per65535(left * 255u));
        out[i] = static_cast<uint8_t>(below[i] - edge);
        below[i] = edge;
        open[i] = left;
    }
}

}  // namespace

#define JAM_NAME2(x) #x
#define JAM_NAME(x) JAM_NAME2(x)
extern const RowKernels JAM_ROWS;
const RowKernels JAM_ROWS = {JAM_NAME(JAM_ROWS), mask, raise, flatten, smooth, blend, cover, thin, weigh};

}  // namespace jam
