// Even out: draws the ground towards the mean under the brush and stops before it is flat.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Moves each sample by share * falloff of its way to m + keep * (h0 - m), where h0 is the ground as the stroke found it
// and m its mean under the brush, weighted by the falloff. However often a stroke passes, about `keep` of the relief
// under the brush is left. share in [0, 1], keep in [0, 0.95]. Returns the samples it may have changed.
Region evenOutGround(const StampSite& site, const Dab& dab, float share, float keep);

}  // namespace jam
