// The layers that a course lays on itself and beside itself, by living rules: so that they follow it, and paint wins.
#pragma once

#include "level/level.h"

namespace jam {

// Lays `track` on the even part of a course and `verge` on its shoulders (0 for none), in place of what it laid there
// before. Layers that were painted keep their paint, and those that it did not lay their rules, even such as look at
// it. Nothing happens for layers that are protected, or the first, which covers everything. Precondition: `course` is
// one of the level.
void layOnCourse(Level& level, uint32_t course, uint32_t track, uint32_t verge);

}  // namespace jam
