// Keeping work to the fence after it was done.
#pragma once

#include "level/level.h"

namespace jam {

// Brings back what `after` changed outside of the fence that is in force in it: every raster is mixed, by the fence,
// between what it was and what it became. Precondition: sameRaster(before, after).
void holdOutside(const Level& before, Level& after);

// How much ground sample (column, row) may be touched, [0, 1]; 1 without a fence in force.
inline float fenceShare(const Level& level, int column, int row) {
    return level.fenced ? static_cast<float>(level.fence.at(column, row)) / kInside : 1.f;
}

}  // namespace jam
