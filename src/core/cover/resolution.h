// How fine cover is, for each sample of the ground.
#pragma once

#include "level/level.h"

namespace jam {

// Other cover resolution: finer samples lie on straight lines between the old ones; coarser ones keep every second or
// fourth, so that finer and back is an identity. Errors: the factor is not 1, 2 or 4, or cover would be too large.
Status changeCoverFactor(Level& level, int factor);
// The largest difference in weight, of 255, that one sample would show if cover went to this coarser factor and back.
int lossAtFactor(const Level& level, int factor);

}  // namespace jam
