// The innermost loops of all brushes, over one row of samples. They are compiled for several processors and
// picked once at start; every variant gives the same bits, because none may fuse or reorder the arithmetic.
#pragma once

#include <cstddef>
#include <cstdint>

#include "brush/falloff.h"

namespace jam {

constexpr int kLanes = 16, kTileRow = 64;  // samples

// A layer whose weights are wanted in some rows of a tile.
struct Weighed {
    const uint16_t* cover;  // from the first column of the tile; the lowest has none, it takes all that is left
    ptrdiff_t coverRow;     // from row to row; 0 where all are alike
    uint8_t* out;           // weights of the columns that are wanted, from the first of them
    ptrdiff_t outRow;
};

struct RowKernels {
    const char* name;

    // mask[i] = strength * falloff at a sample that lies (dx + i, dz) samples from the brush's centre.
    void (*mask)(float* mask, int n, float dx, float dz, float radius, const Falloff& falloff, float strength);
    // The same for falloffs that fade without a root (fadesWithoutRoot()), where rows have much in common: squares[i]
    // is the square of the sample's distance across, in radii, and rest is 1 less that of its distance along.
    void (*fade)(float* mask, const float* squares, int n, float rest, Curve curve, float strength);
    // ground[i] += strength * falloff, likewise, without a mask in between
    void (*raiseFading)(float* ground, const float* squares, int n, float rest, Curve curve, float strength);
    // ground[i] += mask[i]
    void (*raise)(float* ground, const float* mask, int n);
    // ground[i] += mask[i] * (target - ground[i]); only upwards with fill, only downwards with cut
    void (*flatten)(float* ground, const float* mask, int n, float target, bool fill, bool cut);
    // out[i] = middle[i] + mask[i] * (binomial 3 x 3 mean around it - middle[i]); rows reach one sample to each side
    void (*smooth)(float* out, const float* above, const float* middle, const float* below, const float* mask, int n);
    // out[i] = ground[i] + mask[i] * (mean[i] - ground[i])
    void (*blend)(float* out, const float* ground, const float* mean, const float* mask, int n);
    // One row of thermal erosion: out[i] = here[i] + rate * what slides in from its eight neighbours. Between two
    // samples slides what their difference exceeds `side` (`corner` diagonally) by, each way alike, so nothing is lost.
    // Rows reach one sample to each side.
    void (*crumble)(float* out, const float* above, const float* here, const float* below, int n, float side,
                    float corner, float rate);
    // The same through a mask: between two samples slides the smaller mask's share.
    void (*crumbleMasked)(float* out, const float* above, const float* here, const float* below, const float* maskAbove,
                          const float* mask, const float* maskBelow, int n, float side, float corner, float rate);
    // What came down spreads: out[i] = here[i] moved towards its neighbours, a half of the way straight and a quarter
    // diagonally, by those alone where usable is 1 (elsewhere 0). Rows reach one sample to each side.
    void (*spread)(float* out, const float* above, const float* here, const float* below, const float* usableAbove,
                   const float* usable, const float* usableBelow, int n);
    // out[i] = how far here[i] stands out of all eight neighbours: > 0 a peak, < 0 a pit. Rows reach one to each side.
    void (*standOut)(float* out, const float* above, const float* here, const float* below, int n);
    // out[i] = what each of takers[i] neighbours gets of that, as far as it is more than `was`; 0 where not usable.
    void (*excess)(float* out, const float* above, const float* here, const float* below, const float* was,
                   const float* usable, const float* takers, int n);
    // ground[i] takes the excess of its eight neighbours where it is usable, and gives its own. Rows of excess reach
    // one sample to each side.
    void (*shareOut)(float* ground, const float* above, const float* here, const float* below, const float* usable,
                     const float* takers, int n);
    // out[i] = mask[i] in [0, 1] as 0..65535, rounded up, so that a little is never nothing.
    void (*bits)(uint16_t* out, const float* mask, int n);
    // cover[i] moves by mask[i] / 65535 of its way up to `target`, at least one step where mask > 0; never down.
    void (*cover)(uint16_t* cover, const uint16_t* mask, int n, uint16_t target);
    // cover[i] moves by mask[i] / 65535 of its way down to `target`, at least one step where mask > 0; never up.
    void (*thin)(uint16_t* cover, const uint16_t* mask, int n, uint16_t target);
    // One layer of the stack, from the top: open[i] (0..65535) is what the layers so far let through, below[i] its
    // rounding to 0..255. Both go down by what this layer covers; out[i] receives its weight.
    void (*weigh)(const uint16_t* cover, int n, uint16_t* open, uint8_t* below, uint8_t* out);

    // The same for many rows of a tile, in whole vectors: rows of cover lie kTileRow apart, those of the mask maskRow.
    // n is a multiple of kLanes.
    void (*coverRows)(uint16_t* cover, const uint16_t* mask, int maskRow, int n, int rows, uint16_t target);
    void (*thinRows)(uint16_t* cover, const uint16_t* mask, int maskRow, int n, int rows, uint16_t target);
    // All layers of a stack, from the top, over columns [first, end) of the rows of a tile.
    void (*weighRows)(const Weighed* layers, int count, int first, int end, int rows);
};

// The fastest set that this processor runs.
const RowKernels& rowKernels();
// The set for the oldest processor, for comparison in tests and benchmarks.
const RowKernels& plainRowKernels();

}  // namespace jam
