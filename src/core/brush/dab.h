// One stamp of a brush in the samples of the raster that it works on.
#pragma once

#include "brush/falloff.h"
#include "level/level.h"

namespace jam {

struct Dab {
    double column = 0, row = 0;  // centre, in samples
    float radius = 1;            // in samples
    Falloff falloff;
    Region region;               // samples it may touch, inside the raster; empty when it misses
};

// `factor` 1 gives a dab on the ground, level.coverFactor one on the cover.
Dab dabOn(const Level& level, double x, double z, float radiusMetres, const Falloff& falloff, int factor);

// Strength times falloff for the samples [x0, x0 + n) of row z of the raster.
void dabMask(const Dab& dab, int x0, int z, int n, float strength, float* mask);

// The samples of row z inside `within` that the dab reaches, as a region of one row; the mask is 0 outside.
Region dabSpan(const Dab& dab, const Region& within, int z);

// Rows of a dab from which several threads pay off.
constexpr int kRowsPerThread = 192;

}  // namespace jam
