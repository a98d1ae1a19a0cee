// Lifting or scaling everything that has an altitude: the ground, and with it all that would otherwise be left standing
// in it or over it.
#pragma once

#include "base/context.h"
#include "level/level.h"

namespace jam {

// A height h becomes scale * h + lift.
struct Altitudes {
    double scale = 1;  // > 0
    double lift = 0;   // metres

    double of(double height) const { return scale * height + lift; }
};

// The start height, the level's range, strata, borders, posts with a height (over the ground those of banks; below it
// how deep a bed is sunk), pads, pools, and the altitudes that rules ask for. So ground that meets the range still
// does, and no sample is rounded that is only lifted: the start height moves under it. Whatever follows does so with
// the commit. Errors: the range or a height would leave what a level may have (base/range.h names it), or cancelled.
Result<Level> moveAltitudes(const Level& level, const Altitudes& map, const Context& context = {});

// Posts, pads and pools that lie inside the fence that is in force, each by as much as the fence holds of its place;
// ground that was moved likewise is the caller's. Heights stay within the level's range.
void moveInsideFence(Level& level, const Altitudes& map);

}  // namespace jam
