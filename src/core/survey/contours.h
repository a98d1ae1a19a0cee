// Lines of equal altitude.
#pragma once

#include <vector>

#include "base/context.h"
#include "level/level.h"

namespace jam {

struct ContourPiece {
    float altitude;        // metres
    float x0, z0, x1, z1;  // metres
};

// Short straight pieces of the contours at whole multiples of `interval` metres, from the ground taken at every
// `step`-th sample (marching squares: Lorensen and Cline 1987, in two dimensions). Empty when cancelled.
std::vector<ContourPiece> contours(const Level& level, float interval, int step, const Context& context = {});

// A pleasant interval (1, 2 or 5 times a power of ten) that cuts `span` metres into about `wanted` bands.
float contourInterval(float span, int wanted);

}  // namespace jam
