// The ground along a straight line: what the section draws.
#pragma once

#include <vector>

#include "level/level.h"

namespace jam {

// Altitudes in metres at `count` evenly spaced points from (x0, z0) to (x1, z1); NaN outside the level.
// Precondition: count >= 2.
std::vector<float> groundProfile(const Level& level, double x0, double z0, double x1, double z1, int count);

}  // namespace jam
