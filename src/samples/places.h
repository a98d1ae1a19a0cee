// What is played at Damson Down: where one begins, where one ends, and the bank that keeps one in.
#pragma once

#include "level/level.h"

namespace jam::samples {

// Banks up the level's edge wherever one could walk off it, and puts down the spots, two of them on pads.
Result<Level> makePlayable(Level level);

}  // namespace jam::samples
