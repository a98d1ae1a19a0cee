// Compiled once per processor level, with JAM_ROWS naming the set. Loops here use raw pointers and built-in
// types only: an inline function of the standard library compiled for a newer processor could be picked by
// the linker for the whole program. -ffp-contract=off keeps the bits equal between the sets.
#include "brush/rows.h"

namespace jam {
namespace {

float clamp01(float v) { return v < 0 ? 0 : v > 1 ? 1 : v; }

using Eight = float __attribute__((vector_size(32)));

// As curveOfRest(), in place.
template <Curve curve, class Number>
void bendRest(Number& q) {
    if (curve == Curve::bell) q = q * q * q;
    else if (curve != Curve::dome) q = q * q;
}

// f(i, share) along a row of a round dab that fades from its centre, with a vector of eight shares at a time, and the
// last ones one by one. Places are whole multiples of 1/256 sample, so that stepping along adds no error.
template <Curve curve, class F>
void eachRound(int n, float dx, float dz, float radius, F f) {
    const float perRadius2 = 1 / (radius * radius), middle = 1 - dz * dz * perRadius2;
    Eight x = {dx, dx + 1, dx + 2, dx + 3, dx + 4, dx + 5, dx + 6, dx + 7};
    int i = 0;
    for (; i + 8 <= n; i += 8, x += 8) {
        Eight q = middle - x * x * perRadius2;
        q = q > 0 ? q : Eight{};
        bendRest<curve>(q);
        f(i, q);
    }
    for (; i < n; ++i) {
        const float at = dx + static_cast<float>(i);
        float q = middle - at * at * perRadius2;
        q = q > 0 ? q : 0;
        bendRest<curve>(q);
        f(i, q);
    }
}

template <Curve curve>
void maskRow(float* __restrict mask, int n, float dx, float dz, float radius, float softness, float strength) {
    const float dz2 = dz * dz;
    if (!needsRoot(curve) && softness == 1)
        return eachRound<curve>(n, dx, dz, radius, [&](int i, const auto& share) {
            const auto made = strength * share;
            __builtin_memcpy(mask + i, &made, sizeof made);
        });
    const float soft = softness < 1e-4f ? 1e-4f : softness;
    const float perRadius = 1 / radius, perSoft = 1 / soft, shoulder = 1 - soft;
    for (int i = 0; i < n; ++i) {
        const float x = dx + static_cast<float>(i);
        const float share = __builtin_sqrtf(x * x + dz2) * perRadius;
        mask[i] = strength * curveAt(curve, clamp01((share - shoulder) * perSoft));
    }
}

void bentMask(float* __restrict out, int n, float dx, float dz, float radius, const Falloff& f, float strength) {
    const float soft = f.softness < 1e-4f ? 1e-4f : f.softness;
    const float perRadius = 1 / radius, perSoft = 1 / soft, shoulder = 1 - soft, dz2 = dz * dz;
    const BentCurve curve(f.bend);
    for (int i = 0; i < n; ++i) {
        const float x = dx + static_cast<float>(i);
        const float share = __builtin_sqrtf(x * x + dz2) * perRadius;
        out[i] = strength * curve.at(clamp01((share - shoulder) * perSoft));
    }
}

void mask(float* out, int n, float dx, float dz, float radius, const Falloff& f, float strength) {
    switch (f.curve) {
        case Curve::smooth: return maskRow<Curve::smooth>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::straight: return maskRow<Curve::straight>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::dome: return maskRow<Curve::dome>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::bell: return maskRow<Curve::bell>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::point: return maskRow<Curve::point>(out, n, dx, dz, radius, f.softness, strength);
        case Curve::bent: return bentMask(out, n, dx, dz, radius, f, strength);
    }
}

template <Curve curve>
void raiseRoundRow(float* __restrict ground, int n, float dx, float dz, float radius, float strength) {
    eachRound<curve>(n, dx, dz, radius, [&](int i, const auto& share) {
        auto made = share;
        __builtin_memcpy(&made, ground + i, sizeof made);
        made += strength * share;
        __builtin_memcpy(ground + i, &made, sizeof made);
    });
}

void raiseRound(float* ground, int n, float dx, float dz, float radius, Curve curve, float strength) {
    switch (curve) {
        case Curve::dome: return raiseRoundRow<Curve::dome>(ground, n, dx, dz, radius, strength);
        case Curve::bell: return raiseRoundRow<Curve::bell>(ground, n, dx, dz, radius, strength);
        // Curves that need a root come through a mask instead (shape/raise.cpp).
        case Curve::smooth:
        case Curve::straight:
        case Curve::point:
        case Curve::bent: return raiseRoundRow<Curve::smooth>(ground, n, dx, dz, radius, strength);
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

// What a slope of `d` metres sheds beyond the steepest that stays, signed.
float least(float a, float b) { return a < b ? a : b; }
float shed(float d, float most) {
    const float kept = least(d, most);
    return d - (kept > -most ? kept : -most);
}

void crumble(float* __restrict out, const float* a, const float* b, const float* c, int n, float side, float corner,
             float rate) {
    for (int i = 0; i < n; ++i) {
        const float h = b[i];
        const float sides = (shed(a[i] - h, side) + shed(c[i] - h, side)) +
                            (shed(b[i - 1] - h, side) + shed(b[i + 1] - h, side));
        const float corners = (shed(a[i - 1] - h, corner) + shed(c[i + 1] - h, corner)) +
                              (shed(a[i + 1] - h, corner) + shed(c[i - 1] - h, corner));
        out[i] = h + rate * (sides + corners);
    }
}

void crumbleMasked(float* __restrict out, const float* a, const float* b, const float* c, const float* ma,
                   const float* m, const float* mc, int n, float side, float corner, float rate) {
    for (int i = 0; i < n; ++i) {
        const float h = b[i], k = m[i];
        const float sides =
            (least(k, ma[i]) * shed(a[i] - h, side) + least(k, mc[i]) * shed(c[i] - h, side)) +
            (least(k, m[i - 1]) * shed(b[i - 1] - h, side) + least(k, m[i + 1]) * shed(b[i + 1] - h, side));
        const float corners =
            (least(k, ma[i - 1]) * shed(a[i - 1] - h, corner) + least(k, mc[i + 1]) * shed(c[i + 1] - h, corner)) +
            (least(k, ma[i + 1]) * shed(a[i + 1] - h, corner) + least(k, mc[i - 1]) * shed(c[i - 1] - h, corner));
        out[i] = h + rate * (sides + corners);
    }
}

float most(float a, float b) { return a > b ? a : b; }

void spread(float* __restrict out, const float* __restrict a, const float* __restrict h, const float* __restrict b,
            const float* __restrict ua, const float* __restrict u, const float* __restrict ub, int n) {
    for (int i = 0; i < n; ++i) {
        const float own = h[i];
        const float sides = u[i - 1] * (h[i - 1] - own) + u[i + 1] * (h[i + 1] - own) + ua[i] * (a[i] - own) +
                            ub[i] * (b[i] - own);
        const float corners = ua[i - 1] * (a[i - 1] - own) + ub[i + 1] * (b[i + 1] - own) +
                              ua[i + 1] * (a[i + 1] - own) + ub[i - 1] * (b[i - 1] - own);
        out[i] = own + u[i] * (0.125f * sides + 0.0625f * corners);
    }
}

void standOut(float* __restrict out, const float* __restrict a, const float* __restrict h, const float* __restrict b,
              int n) {
    for (int i = 0; i < n; ++i) {
        const float top = most(most(most(a[i - 1], a[i]), most(a[i + 1], h[i - 1])),
                               most(most(h[i + 1], b[i - 1]), most(b[i], b[i + 1]))),
                    foot = least(least(least(a[i - 1], a[i]), least(a[i + 1], h[i - 1])),
                                 least(least(h[i + 1], b[i - 1]), least(b[i], b[i + 1])));
        out[i] = most(h[i] - top, 0) + least(h[i] - foot, 0);
    }
}

void excess(float* __restrict standing, const float* __restrict was, const float* __restrict usable,
            const float* __restrict takers, int n) {
    for (int i = 0; i < n; ++i) {
        const float peak = most(standing[i] - most(was[i], 0), 0), pit = least(standing[i] - least(was[i], 0), 0);
        standing[i] = usable[i] * (peak + pit) / most(takers[i], 1);
    }
}

void shareOut(float* __restrict ground, const float* __restrict a, const float* __restrict e, const float* __restrict b,
              const float* __restrict usable, const float* __restrict takers, int n) {
    for (int i = 0; i < n; ++i)
        ground[i] += usable[i] * (a[i - 1] + a[i] + a[i + 1] + e[i - 1] + e[i + 1] + b[i - 1] + b[i] + b[i + 1]) -
                     e[i] * takers[i];
}

void bits(uint16_t* __restrict out, const float* __restrict m, int n) {
    for (int i = 0; i < n; ++i) out[i] = static_cast<uint16_t>(static_cast<int>(m[i] * 65535.0f + 0.995f));
}

// a * b / 65535 in 16 bits, which the processor multiplies sixteen at a time. Exact when either is 0 or 65535, never
// more than either, and at least 1 when neither is 0.
uint16_t product(uint16_t a, uint16_t b) {
    const uint16_t high = static_cast<uint16_t>((static_cast<uint32_t>(a) * b) >> 16);
    const uint16_t some = static_cast<uint16_t>((a < 1 ? a : 1) & (b < 1 ? b : 1));
    return static_cast<uint16_t>(high + some);
}

uint16_t covered(uint16_t now, uint16_t m, uint16_t target) {
    const uint16_t most = now > target ? now : target, way = static_cast<uint16_t>(most - now);
    return static_cast<uint16_t>(now + product(way, m));
}

uint16_t thinned(uint16_t now, uint16_t m, uint16_t target) {
    const uint16_t most = now > target ? now : target, way = static_cast<uint16_t>(most - target);
    return static_cast<uint16_t>(now - product(way, m));
}

void cover(uint16_t* __restrict cov, const uint16_t* __restrict m, int n, uint16_t target) {
    for (int i = 0; i < n; ++i) cov[i] = covered(cov[i], m[i], target);
}

void thin(uint16_t* __restrict cov, const uint16_t* __restrict m, int n, uint16_t target) {
    for (int i = 0; i < n; ++i) cov[i] = thinned(cov[i], m[i], target);
}

void weigh(const uint16_t* __restrict cov, int n, uint16_t* __restrict open, uint8_t* __restrict below,
           uint8_t* __restrict out) {
    for (int i = 0; i < n; ++i) {
        const uint16_t left = product(open[i], static_cast<uint16_t>(65535 - cov[i]));
        // left / 257, rounded
        const uint8_t edge = static_cast<uint8_t>(static_cast<uint16_t>(left - (left >> 8) + 128) >> 8);
        out[i] = static_cast<uint8_t>(below[i] - edge);
        below[i] = edge;
        open[i] = left;
    }
}

// A loop of known length is one or two vectors and no loop at all.
template <uint16_t (*step)(uint16_t, uint16_t, uint16_t)>
void moveRows(uint16_t* __restrict cov, const uint16_t* __restrict m, int maskRow, int n, int rows, uint16_t target) {
    for (int z = 0; z < rows; ++z, cov += kTileRow, m += maskRow)
        for (int x = 0; x < n; x += kLanes)
            for (int i = 0; i < kLanes; ++i) cov[x + i] = step(cov[x + i], m[x + i], target);
}

void coverRows(uint16_t* cov, const uint16_t* m, int maskRow, int n, int rows, uint16_t target) {
    moveRows<covered>(cov, m, maskRow, n, rows, target);
}

void thinRows(uint16_t* cov, const uint16_t* m, int maskRow, int n, int rows, uint16_t target) {
    moveRows<thinned>(cov, m, maskRow, n, rows, target);
}

void weighRows(const uint16_t* __restrict cov, int first, int end, int rows, uint16_t* __restrict open,
               uint8_t* __restrict below, uint8_t* __restrict out, ptrdiff_t outRow) {
    for (int z = 0; z < rows; ++z, cov += kTileRow, open += kTileRow, below += kTileRow, out += outRow)
        for (int x = first / kLanes * kLanes; x < end; x += kLanes) {
            if (x >= first && x + kLanes <= end) {
                weigh(cov + x, kLanes, open + x, below + x, out + (x - first));
                continue;
            }
            // What lies beside the columns that were asked for is not to be written.
            uint8_t some[kLanes];
            weigh(cov + x, kLanes, open + x, below + x, some);
            const int from = x < first ? first : x, to = x + kLanes < end ? x + kLanes : end;
            for (int i = from; i < to; ++i) out[i - first] = some[i - x];
        }
}

}  // namespace

#define JAM_NAME2(x) #x
#define JAM_NAME(x) JAM_NAME2(x)
extern const RowKernels JAM_ROWS;
const RowKernels JAM_ROWS = {
    JAM_NAME(JAM_ROWS), mask,   raiseRound, raise, flatten, smooth, blend, crumble,   crumbleMasked, spread,
    standOut,           excess, shareOut,   bits,  cover,   thin,   weigh, coverRows, thinRows,      weighRows};

}  // namespace jam
