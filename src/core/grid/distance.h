// How far every sample lies from the nearest one of a kind: exact Euclidean distances, in linear time (Felzenszwalb and
// Huttenlocher, "Distance Transforms of Sampled Functions", 2012).
#pragma once

#include <cmath>

#include "base/region.h"
#include "grid/view.h"

namespace jam {

// Squares of distances, in samples: goals come as 0 and all others as kNoGoal; the outcome lies in the same view.
constexpr float kNoGoal = 1e12f;
void distanceSquares(View<float> squares);

// Distances in samples to the nearest one for which is(x, z) holds, for `region`. Goals farther than `most` are not
// looked for, and neither are any outside of `bounds`.
template <class Is>
Raster<float> distancesTo(const Region& region, const Region& bounds, double most, Is is) {
    const Region wide = region.grown(static_cast<int>(std::ceil(most)) + 1).clipped(bounds);
    Raster<float> squares(wide.width(), wide.depth());
    for (int z = 0; z < wide.depth(); ++z)
        for (int x = 0; x < wide.width(); ++x) squares.at(x, z) = is(wide.x0 + x, wide.z0 + z) ? 0.f : kNoGoal;
    distanceSquares(squares.view());
    Raster<float> out(region.width(), region.depth());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x)
            out.at(x, z) = std::sqrt(squares.at(region.x0 - wide.x0 + x, region.z0 - wide.z0 + z));
    return out;
}

}  // namespace jam
