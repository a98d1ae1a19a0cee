// The ground below a height, as bits to be flooded.
#pragma once

#include "grid/bits.h"
#include "level/level.h"

namespace jam {

// Ground of a level below a height, strictly. What is read on the way is noted in `lowest`, when it is given: the
// lowest sample of each tile, by row and column of the tile.
Allowed groundBelow(const Level& level, float height, Raster<float>* lowest = nullptr);

}  // namespace jam
