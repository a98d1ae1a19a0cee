// What a designer does with the strata of a level. Places count from the bottom.
#pragma once

#include "level/level.h"

namespace jam {

// An empty stratum over the one at `place` (at the bottom for -1); returns its id.
// Precondition: fewer than kMaxStrata.
uint32_t addStratum(Level& level, const std::string& name, int place);
// Moves a stratum to another place in the order, which ends with the list. Errors: it is gone.
Status moveStratum(Level& level, uint32_t id, int to);
// A copy right over it. It begins hidden, because ground that is added twice stands twice as high; gives its id.
// Errors: it is gone, a footprint, or there is no room for another.
Result<uint32_t> duplicateStratum(Level& level, uint32_t id);
// Errors: it is gone, protected, or the last one that brushes can shape. Brushes go to the one below then.
Status removeStratum(Level& level, uint32_t id);
// Puts a stratum or course into the one below it; the composed ground stays, within rounding.
// Errors: it is gone, nothing below, one of them hidden or protected, or the lower one a course or a border.
Status mergeStratumDown(Level& level, uint32_t id);
// What changed the ground from `before` to `now`, put into another stratum than it went to; the composed ground stays,
// within rounding, where courses above let it through. Errors: nothing to move, or `target` cannot be shaped.
// Precondition: sameRaster(now, before).
Result<Level> moveShaping(const Level& now, const Level& before, uint32_t target);

}  // namespace jam
