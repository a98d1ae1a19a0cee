// Restore: brings the ground back to what it was.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Moves each sample by share * falloff of its way to the ground of `reference`, which has the same raster, or to its
// start height when there is none. Returns the samples it may have changed.
Region restoreGround(const StampSite& site, const Dab& dab, float share, const Level* reference);

}  // namespace jam
