// Raise and lower: adds the brush's profile to the ground.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Adds `metres` (negative lowers) times the falloff. Returns the ground samples it may have changed.
Region raiseGround(const StampSite& site, const Dab& dab, float metres);

}  // namespace jam
