// Pull to slope: limits how steep the ground is.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Moves each sample by share * falloff of its way to ground that is nowhere steeper than `degrees`, [1, 85].
// Earthwork::cut takes the highest such ground below the present one, fill the lowest above it, both their mean.
// Returns the samples it may have changed.
Region limitSlope(const StampSite& site, const Dab& dab, float share, float degrees, Earthwork way);

// The envelopes themselves, in place: the greatest function below `ground` (or with `above`, the least one above it)
// whose rise between two samples is at most `tangent` times their distance. Distances are counted along the sides, the
// diagonals and the knight's moves of the raster (Borgefors, "Distance transformations in digital images", 1986), and
// taken short by as much as that overestimates, so that no direction comes out steeper.
void slopeEnvelope(View<float> ground, double spacing, double tangent, bool above);

}  // namespace jam
