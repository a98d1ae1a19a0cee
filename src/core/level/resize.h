// Another size or spacing for a whole level: every stratum and every layer's coverage goes along.
#pragma once

#include "base/context.h"
#include "level/level.h"

namespace jam {

// The same ground with other samples: bicubic (Keys, "Cubic convolution interpolation", 1981); where samples become
// fewer the kernel is widened by as much, so that nothing shimmers. The level keeps its north-west corner and covers
// (columns - 1) x spacing metres; beyond the old ground its edge is repeated.
// Errors: size or spacing out of range, or cancelled.
Result<Level> resampleLevel(const Level& level, int columns, int rows, double spacing, const Context& context = {});

// Another piece of the raster: `piece` counts samples of the level and may reach beyond it. Samples inside stay exactly
// as they are; the ground outside lies at the start height, with the first layer on it. Spots that are cut off go,
// pools stay where any of them is left, and so do all posts of courses, with a height of their own where they had the
// ground's.
Result<Level> cropLevel(const Level& level, const Region& piece, const Context& context = {});

}  // namespace jam
