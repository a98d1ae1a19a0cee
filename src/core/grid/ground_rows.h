// The innermost loops over one row of the ground: composing strata, taking changes into one, and what is known of
// blocks. Compiled for several processors like brush/rows.h; every variant gives the same bits.
#pragma once

namespace jam {

struct GroundRows {
    // row[i] = start + share * heights[i]
    void (*begin)(float* row, const float* heights, int n, float share, float start);
    // row[i] += share * heights[i]
    void (*add)(float* row, const float* heights, int n, float share);
    // row[i] = (1 - share * owned[i]) * row[i] + share * heights[i], so that what is owned altogether comes through to
    // the bit
    void (*own)(float* row, const float* heights, const float* owned, int n, float share);
    // row[i] stays within [lowest, highest]
    void (*keep)(float* row, int n, float lowest, float highest);
    // The same, and says whether any sample differs from before[i], and whether any of before lies at the range's
    // border.
    struct Outcome {
        bool differs, held;
    };
    Outcome (*compare)(float* row, const float* before, int n, float lowest, float highest);
    // to[i] += (after[i] - before[i]) * perMetre
    void (*take)(float* to, const float* after, const float* before, int n, float perMetre);
    // low[i] and high[i] come to hold row[i] as well.
    void (*span)(float* low, float* high, const float* row, int n);
};

// The fastest set that this processor runs, and the one for the oldest, for comparison in tests.
const GroundRows& groundRows();
const GroundRows& plainGroundRows();

}  // namespace jam
