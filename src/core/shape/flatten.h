// Flatten: draws the ground towards one height.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Moves each sample by share * falloff of its way to `target` metres; with Earthwork::fill only upwards,
// with Earthwork::cut only downwards. share in [0, 1]. Returns the ground samples it may have changed.
Region flattenGround(const StampSite& site, const Dab& dab, float share, float target, Earthwork way);

}  // namespace jam
