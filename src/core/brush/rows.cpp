// Compiled once per processor level, with JAM_ROWS naming the set. Loops here use raw pointers and built-in
// types only: an inline function of the standard library compiled for a newer processor could be picked by
// the linker for the whole program. -ffp-contract=off keeps the bits equal between the sets.
#include "brush/rows.h"

#ifdef __SSE2__
#include <immintrin.h>
#endif

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

// f(i, share) along a row of a dab that fades without a root, with a vector of eight shares at a time, and the last
// ones one by one.
template <Curve curve, class F>
void eachFading(const float* __restrict squares, int n, float rest, F f) {
    const auto eight = [&](int i) {
        Eight q;
        __builtin_memcpy(&q, squares + i, sizeof q);
        q = rest - q;
        q = q > 0 ? q : Eight{};
        bendRest<curve>(q);
        f(i, q);
    };
    int i = 0;
    for (; i + 16 <= n; i += 16) {
        eight(i);
        eight(i + 8);
    }
    for (; i + 8 <= n; i += 8) eight(i);
    for (; i < n; ++i) {
        float q = rest - squares[i];
        q = q > 0 ? q : 0;
        bendRest<curve>(q);
        f(i, q);
    }
}

template <Curve curve>
void fadeRow(float* __restrict mask, const float* __restrict squares, int n, float rest, float strength) {
    eachFading<curve>(squares, n, rest, [&](int i, const auto& share) {
        const auto made = strength * share;
        __builtin_memcpy(mask + i, &made, sizeof made);
    });
}

template <Curve curve>
void raiseFadingRow(float* __restrict ground, const float* __restrict squares, int n, float rest, float strength) {
    eachFading<curve>(squares, n, rest, [&](int i, const auto& share) {
        auto made = share;
        __builtin_memcpy(&made, ground + i, sizeof made);
        made += strength * share;
        __builtin_memcpy(ground + i, &made, sizeof made);
    });
}

void fade(float* mask, const float* squares, int n, float rest, Curve curve, float strength) {
    switch (curve) {
        case Curve::dome: return fadeRow<Curve::dome>(mask, squares, n, rest, strength);
        case Curve::bell: return fadeRow<Curve::bell>(mask, squares, n, rest, strength);
        default: return fadeRow<Curve::smooth>(mask, squares, n, rest, strength);
    }
}

void raiseFading(float* ground, const float* squares, int n, float rest, Curve curve, float strength) {
    switch (curve) {
        case Curve::dome: return raiseFadingRow<Curve::dome>(ground, squares, n, rest, strength);
        case Curve::bell: return raiseFadingRow<Curve::bell>(ground, squares, n, rest, strength);
        default: return raiseFadingRow<Curve::smooth>(ground, squares, n, rest, strength);
    }
}

template <Curve curve>
void maskRow(float* __restrict mask, int n, float dx, float dz, float radius, float softness, float strength) {
    const float dz2 = dz * dz;
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

// How far a sample stands out of all eight around it.
float standing(const float* __restrict a, const float* __restrict h, const float* __restrict b, int i) {
    const float top = most(most(most(a[i - 1], a[i]), most(a[i + 1], h[i - 1])),
                           most(most(h[i + 1], b[i - 1]), most(b[i], b[i + 1]))),
                foot = least(least(least(a[i - 1], a[i]), least(a[i + 1], h[i - 1])),
                             least(least(h[i + 1], b[i - 1]), least(b[i], b[i + 1])));
    return most(h[i] - top, 0) + least(h[i] - foot, 0);
}

void standOut(float* __restrict out, const float* __restrict a, const float* __restrict h, const float* __restrict b,
              int n) {
    for (int i = 0; i < n; ++i) out[i] = standing(a, h, b, i);
}

void excess(float* __restrict out, const float* __restrict a, const float* __restrict h, const float* __restrict b,
            const float* __restrict was, const float* __restrict usable, const float* __restrict takers, int n) {
    for (int i = 0; i < n; ++i) {
        const float now = standing(a, h, b, i);
        const float peak = most(now - most(was[i], 0), 0), pit = least(now - least(was[i], 0), 0);
        out[i] = usable[i] * (peak + pit) / most(takers[i], 1);
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

// As many samples of coverage as this processor takes at a time.
#ifdef __AVX2__
constexpr int kStep = 16;
#else
constexpr int kStep = 8;
#endif
static_assert(kLanes % kStep == 0);
using Lanes = uint16_t __attribute__((vector_size(2 * kStep)));

Lanes load(const uint16_t* from) {
    Lanes v;
    __builtin_memcpy(&v, from, sizeof v);
    return v;
}
void store(uint16_t* to, Lanes v) { __builtin_memcpy(to, &v, sizeof v); }

// a * b >> 16. Processors do that in one step, but compilers see it in loops over single numbers alone.
uint16_t high(uint16_t a, uint16_t b) { return static_cast<uint16_t>((static_cast<uint32_t>(a) * b) >> 16); }
Lanes high(Lanes a, Lanes b) {
#if defined(__AVX2__)
    return reinterpret_cast<Lanes>(_mm256_mulhi_epu16(reinterpret_cast<__m256i>(a), reinterpret_cast<__m256i>(b)));
#elif defined(__SSE2__)
    return reinterpret_cast<Lanes>(_mm_mulhi_epu16(reinterpret_cast<__m128i>(a), reinterpret_cast<__m128i>(b)));
#else
    using Wide = uint32_t __attribute__((vector_size(4 * kStep)));
    return __builtin_convertvector((__builtin_convertvector(a, Wide) * __builtin_convertvector(b, Wide)) >> 16, Lanes);
#endif
}

// How far a is above b, or 0; likewise.
uint16_t beyond(uint16_t a, uint16_t b) { return static_cast<uint16_t>(a > b ? a - b : 0); }
Lanes beyond(Lanes a, Lanes b) {
#if defined(__AVX2__)
    return reinterpret_cast<Lanes>(_mm256_subs_epu16(reinterpret_cast<__m256i>(a), reinterpret_cast<__m256i>(b)));
#elif defined(__SSE2__)
    return reinterpret_cast<Lanes>(_mm_subs_epu16(reinterpret_cast<__m128i>(a), reinterpret_cast<__m128i>(b)));
#else
    return (a > b ? a : b) - b;
#endif
}

Lanes lesser(Lanes a, Lanes b) { return a < b ? a : b; }

// a * b / 65535 in 16 bits. Exact when either is 0 or 65535, never more than either, and at least 1 when neither is 0.
uint16_t product(uint16_t a, uint16_t b) { return static_cast<uint16_t>(high(a, b) + (a && b)); }
Lanes product(Lanes a, Lanes b) { return high(a, b) + lesser(lesser(a, b), Lanes{} + uint16_t{1}); }

template <class Number>
Number covered(Number now, Number m, Number target) {
    return static_cast<Number>(now + product(beyond(target, now), m));
}

template <class Number>
Number thinned(Number now, Number m, Number target) {
    return static_cast<Number>(now - product(beyond(now, target), m));
}

// What stays open below a layer, and that as 0..255: divided by 257, rounded.
template <class Number>
Number openBelow(Number open, Number cover) {
    return product(open, static_cast<Number>(65535 - cover));
}
template <class Number>
Number edgeOf(Number open) {
    return static_cast<Number>(static_cast<Number>(open - (open >> 8) + 128) >> 8);
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
        open[i] = openBelow(open[i], cov[i]);
        const auto edge = static_cast<uint8_t>(edgeOf(open[i]));
        out[i] = static_cast<uint8_t>(below[i] - edge);
        below[i] = edge;
    }
}

template <Lanes (*step)(Lanes, Lanes, Lanes)>
void moveRows(uint16_t* __restrict cov, const uint16_t* __restrict m, int maskRow, int n, int rows, uint16_t target) {
    const Lanes to = Lanes{} + target;
    for (int z = 0; z < rows; ++z, cov += kTileRow, m += maskRow)
        for (int x = 0; x < n; x += kStep) store(cov + x, step(load(cov + x), load(m + x), to));
}

void coverRows(uint16_t* cov, const uint16_t* m, int maskRow, int n, int rows, uint16_t target) {
    moveRows<covered<Lanes>>(cov, m, maskRow, n, rows, target);
}

void thinRows(uint16_t* cov, const uint16_t* m, int maskRow, int n, int rows, uint16_t target) {
    moveRows<thinned<Lanes>>(cov, m, maskRow, n, rows, target);
}

// Numbers up to 255, as bytes.
void storeBytes(uint8_t* to, Lanes v) {
    using Bytes = uint8_t __attribute__((vector_size(kStep)));
    const Bytes bytes = __builtin_convertvector(v, Bytes);
    __builtin_memcpy(to, &bytes, sizeof bytes);
}
#ifdef __AVX2__
void storeBytes(uint8_t* to, Lanes v, Lanes next) {
    const __m256i halves = _mm256_packus_epi16(reinterpret_cast<__m256i>(v), reinterpret_cast<__m256i>(next)),
                  bytes = _mm256_permute4x64_epi64(halves, 0b11'01'10'00);
    __builtin_memcpy(to, &bytes, sizeof bytes);
}
#else
void storeBytes(uint8_t* to, Lanes v, Lanes next) {
    storeBytes(to, v);
    storeBytes(to + kStep, next);
}
#endif

// Two vectors at a time, or the only one.
template <int vectors>
void storeAll(uint8_t* to, const Lanes* v) {
    if constexpr (vectors == 1) storeBytes(to, v[0]);
    else
        for (int k = 0; k < vectors; k += 2) storeBytes(to + k * kStep, v[k], v[k + 1]);
}

// The stack in `vectors` times kStep columns of row z, from `x` on; store(layer, weights) puts away what one weighs.
template <int vectors, class Store>
void weighBlock(const Weighed* layers, int count, int x, int z, Store store) {
    // Both stay in registers from the top layer to the lowest.
    Lanes open[vectors], below[vectors];
    for (int k = 0; k < vectors; ++k) open[k] = Lanes{} + uint16_t{65535}, below[k] = Lanes{} + uint16_t{255};
    for (int i = 0; i + 1 < count; ++i) {
        const uint16_t* cover = layers[i].cover + z * layers[i].coverRow + x;
        Lanes weight[vectors];
        for (int k = 0; k < vectors; ++k) {
            open[k] = openBelow(open[k], load(cover + k * kStep));
            const Lanes edge = edgeOf(open[k]);
            weight[k] = below[k] - edge;
            below[k] = edge;
        }
        store(layers[i].out + z * layers[i].outRow, weight);
    }
    store(layers[count - 1].out + z * layers[count - 1].outRow, below);
}

// All columns of row z, in blocks that may overlap: what a column weighs does not depend on where its block begins.
template <int vectors>
void weighRow(const Weighed* layers, int count, int first, int n, int z) {
    constexpr int kBlock = vectors * kStep;
    for (int x = 0; x < n; x += kBlock) {
        const int at = x + kBlock < n ? x : n - kBlock;
        weighBlock<vectors>(layers, count, first + at, z,
                            [at](uint8_t* out, const Lanes* w) { storeAll<vectors>(out + at, w); });
    }
}

// The n first bytes, fewer than 16, by its binary digits: a loop would become a call.
template <int bytes>
void storeDigit(uint8_t*& to, const uint8_t*& from, int n) {
    if (!(n & bytes)) return;
    __builtin_memcpy(to, from, bytes);
    to += bytes, from += bytes;
}
void storeFew(uint8_t* to, const uint8_t* from, int n) {
    storeDigit<8>(to, from, n), storeDigit<4>(to, from, n), storeDigit<2>(to, from, n), storeDigit<1>(to, from, n);
}

// Fewer columns than one vector has.
void weighFew(const Weighed* layers, int count, int first, int n, int z) {
    const int from = first < kTileRow - kStep ? first : kTileRow - kStep;
    weighBlock<1>(layers, count, from, z, [=](uint8_t* out, const Lanes* w) {
        uint8_t all[kLanes] = {};
        storeBytes(all, w[0]);
        storeFew(out, all + (first - from), n);
    });
}

void weighRows(const Weighed* layers, int count, int first, int end, int rows) {
    const int n = end - first;
    const auto row = n >= 4 * kStep ? weighRow<4> : n >= 2 * kStep ? weighRow<2> : n >= kStep ? weighRow<1> : weighFew;
    for (int z = 0; z < rows; ++z) row(layers, count, first, n, z);
}

}  // namespace

#define JAM_NAME2(x) #x
#define JAM_NAME(x) JAM_NAME2(x)
extern const RowKernels JAM_ROWS;
const RowKernels JAM_ROWS = {
    JAM_NAME(JAM_ROWS), mask,     fade,     raiseFading, raise,    flatten, smooth, blend, crumble,
    crumbleMasked,      spread,   standOut, excess,      shareOut, bits,    cover,  thin,  weigh,
    coverRows,          thinRows, weighRows};

}  // namespace jam
