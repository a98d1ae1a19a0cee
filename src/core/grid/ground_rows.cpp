// Compiled once per processor level, with JAM_GROUND_ROWS naming the set. As in brush/rows.cpp there is nothing here
// but raw pointers and built-in types.
#include "grid/ground_rows.h"

#ifdef __AVX2__
#include <immintrin.h>
#endif

namespace jam {
namespace {

float kept(float h, float lowest, float highest) {
    const float up = h < lowest ? lowest : h;
    return up > highest ? highest : up;
}

// f(row of the block, first sample of that row in a tile)
template <class F>
void eachRow(const RowBlock& block, F f) {
    for (int z = 0; z < block.count; ++z) f(block.first + z * block.apart, z * kHeightsApart);
}

void begin(const RowBlock& block, const float* __restrict heights, float share, float start) {
    eachRow(block, [=, n = block.n](float* __restrict row, int at) {
        for (int i = 0; i < n; ++i) row[i] = start + share * heights[at + i];
    });
}

void add(const RowBlock& block, const float* __restrict heights, float share) {
    eachRow(block, [=, n = block.n](float* __restrict row, int at) {
        for (int i = 0; i < n; ++i) row[i] += share * heights[at + i];
    });
}

void own(const RowBlock& block, const float* __restrict heights, const float* __restrict owned, float share) {
    eachRow(block, [=, n = block.n](float* __restrict row, int at) {
        for (int i = 0; i < n; ++i) row[i] = (1 - share * owned[at + i]) * row[i] + share * heights[at + i];
    });
}

void keep(const RowBlock& block, float lowest, float highest) {
    eachRow(block, [=, n = block.n](float* row, int) {
        for (int i = 0; i < n; ++i) row[i] = kept(row[i], lowest, highest);
    });
}

GroundRows::Outcome compare(float* __restrict row, const float* __restrict before, int n, float lowest, float highest) {
    int differs = 0, held = 0;
    for (int i = 0; i < n; ++i) {
        row[i] = kept(row[i], lowest, highest);
        differs |= row[i] != before[i];
        held |= (before[i] <= lowest) | (before[i] >= highest);
    }
    return {differs != 0, held != 0};
}

void take(float* __restrict to, const float* __restrict after, const float* __restrict before, int n, float perMetre) {
    for (int i = 0; i < n; ++i) to[i] += (after[i] - before[i]) * perMetre;
}

void span(float* __restrict low, float* __restrict high, const float* __restrict row, int n) {
    for (int i = 0; i < n; ++i) {
        low[i] = row[i] < low[i] ? row[i] : low[i];
        high[i] = row[i] > high[i] ? row[i] : high[i];
    }
}

// Each comes to hold what is `step` further as well; that is read before it changes.
template <int step>
void join(float* __restrict low, float* __restrict high, int n) {
    for (int i = 0; i < n; ++i) {
        low[i] = low[i + step] < low[i] ? low[i + step] : low[i];
        high[i] = high[i + step] > high[i] ? high[i + step] : high[i];
    }
}

// Of two, of four, of eight, and the ninth.
void nine(float* low, float* high, int n) {
    join<1>(low, high, n + 7);
    join<2>(low, high, n + 5);
    join<4>(low, high, n + 1);
    join<1>(low, high, n);
}

// Rounded to a multiple of 2^-24.
double grained(float v) {
    constexpr double kMagic = 6755399441055744.0 / 16777216.0;  // 1.5 * 2^52 * 2^-24
    return (static_cast<double>(v) + kMagic) - kMagic;
}

void start(double* __restrict sums, const float* __restrict row, int n) {
    for (int i = 0; i < n; ++i) sums[i] += grained(row[i]);
}

void slide(float* __restrict out, double* __restrict sums, const float* __restrict enters,
           const float* __restrict leaves, int n, double per) {
    for (int i = 0; i < n; ++i) {
        out[i] = static_cast<float>(sums[i] * per);
        sums[i] += grained(enters[i]) - grained(leaves[i]);
    }
}

void means(float* __restrict out, const float* __restrict in, int n, int reach) {
    const int wide = 2 * reach + 1;
    const double per = 1.0 / wide;
    double sum = 0;
    for (int i = 0; i < wide; ++i) sum += grained(in[i]);
    // In three loops, so that all but the summing goes in whole vectors.
    constexpr int kAtOnce = 64;
    double step[kAtOnce], sums[kAtOnce];
    int i = 0;
    for (; i + kAtOnce < n; i += kAtOnce) {
        for (int k = 0; k < kAtOnce; ++k) step[k] = grained(in[i + k + wide]) - grained(in[i + k]);
        // Sums are exact, so that no sum need wait for the one before.
        for (int k = 0; k < kAtOnce; k += 4) {
            const double two = step[k] + step[k + 1], three = two + step[k + 2], four = three + step[k + 3];
            sums[k] = sum, sums[k + 1] = sum + step[k], sums[k + 2] = sum + two, sums[k + 3] = sum + three;
            sum += four;
        }
        for (int k = 0; k < kAtOnce; ++k) out[i + k] = static_cast<float>(sums[k] * per);
    }
    for (; i < n; ++i) {
        out[i] = static_cast<float>(sum * per);
        if (i + 1 < n) sum += grained(in[i + wide]) - grained(in[i]);
    }
}

float mixed(float a, float b, float share) { return a + share * (b - a); }

float bump(float u, float fade, const float* slope, const float* rise, float strength) {
    const float left = slope[0] * u + rise[0], right = slope[1] * (u - 1.f) + rise[1];
    return strength * mixed(left, right, fade);
}

#ifdef __AVX2__
// Eight samples next to each other mostly lie within eight points next to each other, which one instruction hands out;
// fetching each by its own address is slow.
struct Eight {
    int first;
    __m256i left, right;
};
bool nextToEachOther(const int* cell) { return cell[7] - cell[0] < 7; }
Eight eightOf(const int* cell) {
    const __m256i left = _mm256_sub_epi32(_mm256_loadu_si256(reinterpret_cast<const __m256i*>(cell)),
                                          _mm256_set1_epi32(cell[0]));
    return {cell[0], left, _mm256_add_epi32(left, _mm256_set1_epi32(1))};
}
__m256 mixedEight(__m256 a, __m256 b, __m256 share) {
    return _mm256_add_ps(a, _mm256_mul_ps(share, _mm256_sub_ps(b, a)));
}
#endif

void between(float* __restrict out, const int* __restrict cell, const float* __restrict within, int n,
             const float* __restrict points) {
    const auto one = [&](int k) { out[k] = mixed(points[cell[k]], points[cell[k] + 1], within[k]); };
    int i = 0;
#ifdef __AVX2__
    for (; i + 8 <= n; i += 8) {
        if (!nextToEachOther(cell + i)) {
            for (int k = i; k < i + 8; ++k) one(k);
            continue;
        }
        const Eight e = eightOf(cell + i);
        const __m256 p = _mm256_loadu_ps(points + e.first);
        _mm256_storeu_ps(out + i, mixedEight(_mm256_permutevar8x32_ps(p, e.left), _mm256_permutevar8x32_ps(p, e.right),
                                             _mm256_loadu_ps(within + i)));
    }
#endif
    for (; i < n; ++i) one(i);
}

void bumps(float* __restrict sum, const int* __restrict cell, const float* __restrict within,
           const float* __restrict fade, int n, const float* __restrict slope, const float* __restrict rise,
           float strength) {
    const auto one = [&](int k) { sum[k] += bump(within[k], fade[k], slope + cell[k], rise + cell[k], strength); };
    int i = 0;
#ifdef __AVX2__
    const __m256 unit = _mm256_set1_ps(1.f), strong = _mm256_set1_ps(strength);
    for (; i + 8 <= n; i += 8) {
        if (!nextToEachOther(cell + i)) {
            for (int k = i; k < i + 8; ++k) one(k);
            continue;
        }
        const Eight e = eightOf(cell + i);
        const __m256 s = _mm256_loadu_ps(slope + e.first), r = _mm256_loadu_ps(rise + e.first),
                     u = _mm256_loadu_ps(within + i);
        const __m256 left = _mm256_add_ps(_mm256_mul_ps(_mm256_permutevar8x32_ps(s, e.left), u),
                                          _mm256_permutevar8x32_ps(r, e.left)),
                     right = _mm256_add_ps(_mm256_mul_ps(_mm256_permutevar8x32_ps(s, e.right), _mm256_sub_ps(u, unit)),
                                           _mm256_permutevar8x32_ps(r, e.right)),
                     bump = mixedEight(left, right, _mm256_loadu_ps(fade + i));
        _mm256_storeu_ps(sum + i, _mm256_add_ps(_mm256_loadu_ps(sum + i), _mm256_mul_ps(strong, bump)));
    }
#endif
    for (; i < n; ++i) one(i);
}

void roughen(float* __restrict out, const float* __restrict ground, const float* __restrict mean,
             const float* __restrict noise, int n, float fills, float start, float gain) {
    for (int i = 0; i < n; ++i) {
        const float h = ground[i], k = start + gain * kept(noise[i] * fills, -1, 1), left = k - (h - mean[i]);
        const float rise = left < 0 ? 0 : left, fall = left > 0 ? 0 : left;
        const float up = rise > k ? k : rise, down = fall < k ? k : fall;
        out[i] = h + (k >= 0 ? up : down);
    }
}

}  // namespace

extern const GroundRows JAM_GROUND_ROWS;
const GroundRows JAM_GROUND_ROWS = {begin, add,   own,   keep,  compare, take,  span,
                                    nine,  means, start, slide, between, bumps, roughen};

}  // namespace jam
