// Flatten: draws the ground towards one height.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Moves each sample by share * falloff of its way to `target` metres; with FlattenWay::fill only upwards,
// with FlattenWay::cut only downwards. share in [0, 1]. Returns the ground samples it may have changed.
Region flattenGround(const Site& site, const Dab& dab, float share, float target, FlattenWay way);

}  // namespace jam
