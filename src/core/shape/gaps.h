// Gaps: making and closing openings, taking and adding land.
#pragma once

#include "brush/dab.h"

namespace jam {

// Takes the ground away below a dab, in one of the level's two masks: the edge runs where the dab's mask is half,
// however often the brush passes. The dab counts in ground samples. Returns the samples it may have changed.
Region takeGround(Level& level, const Dab& dab, Gaps Level::*mask);
// Brings it back, with the edge in the same place.
Region giveGround(Level& level, const Dab& dab, Gaps Level::*mask);

// Takes or gives the ground inside the fence, or outside of it; all of it when no fence is in force and `outside` is
// false.
void fillGaps(Level& level, Gaps Level::*mask, bool take, bool outside);

}  // namespace jam
