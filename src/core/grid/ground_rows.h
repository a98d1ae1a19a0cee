// The innermost loops over one row of the ground: composing strata, taking changes into one, what is known of
// blocks, means over neighbours, and what is read off a coarser lattice. Compiled for several processors like
// brush/rows.h; every variant gives the same bits.
#pragma once

#include <cstddef>

namespace jam {

// `count` rows of n samples, `apart` from one to the next. Those of a tile of heights lie kHeightsApart from each
// other.
struct RowBlock {
    float* first;
    std::ptrdiff_t apart;
    int n, count;
};
constexpr int kHeightsApart = 64;

struct GroundRows {
    // Of each sample h of a block: h = start + share * heights
    void (*begin)(const RowBlock& block, const float* heights, float share, float start);
    // h += share * heights
    void (*add)(const RowBlock& block, const float* heights, float share);
    // h = (1 - share * owned) * h + share * heights, so that what is owned altogether comes through to the bit
    void (*own)(const RowBlock& block, const float* heights, const float* owned, float share);
    // h stays within [lowest, highest]
    void (*keep)(const RowBlock& block, float lowest, float highest);
    // The same of a row, and says whether any sample differs from before[i], and whether any of before lies at the
    // range's border.
    struct Outcome {
        bool differs, held;
    };
    Outcome (*compare)(float* row, const float* before, int n, float lowest, float highest);
    // to[i] += (after[i] - before[i]) * perMetre
    void (*take)(float* to, const float* after, const float* before, int n, float perMetre);
    // low[i] and high[i] come to hold row[i] as well.
    void (*span)(float* low, float* high, const float* row, int n);
    // low[i] and high[i] come to hold those of the eight after them as well. n + 8 can be read and are changed.
    void (*nine)(float* low, float* high, int n);
    // Means over 2 * reach + 1 neighbours: out[i] is that of in[i .. i + 2 * reach]. Sums are of whole multiples of
    // 2^-24, exact below 2^28, so that they do not depend on where they began.
    void (*means)(float* out, const float* in, int n, int reach);
    // The same down many columns, row by row: `start` makes the sums take in a row, `slide` tells their means, each
    // times `per`, and lets one row enter and another leave.
    void (*start)(double* sums, const float* row, int n);
    void (*slide)(float* out, double* sums, const float* enters, const float* leaves, int n, double per);
    // Off a lattice: sample i lies `within` [0, 1) of its way from point cell[i] to the next. The cells ascend, and
    // kLatticeBeyond more points can be read than the last one needs.
    // out[i] = what lies between the two points
    void (*between)(float* out, const int* cell, const float* within, int n, const float* points);
    // sum[i] += one octave of gradient noise times `strength`: between the sides of its cell, slope * distance + rise,
    // by fade[i] (base/noise.h)
    void (*bumps)(float* sum, const int* cell, const float* within, const float* fade, int n, const float* slope,
                  const float* rise, float strength);
    // out[i] = ground[i] moved by its bump k = start + gain * (fills * noise[i], at most 1 either way), as far as it
    // does not stand out of mean[i] that way already
    void (*roughen)(float* out, const float* ground, const float* mean, const float* noise, int n, float fills,
                    float start, float gain);
};

constexpr int kLatticeBeyond = 8;

// The fastest set that this processor runs, and the one for the oldest, for comparison in tests.
const GroundRows& groundRows();
const GroundRows& plainGroundRows();

}  // namespace jam
