// Openings, and whether anybody gets to them.
#pragma once

#include <vector>

#include "base/context.h"
#include "level/level.h"

namespace jam {

struct FoundOpening {
    double x = 0, z = 0;   // metres, a place of its rim; where it is reached, if it is
    double area = 0;       // square metres
    bool reached = false;  // ground beside it belongs to the level's largest piece of connected ground that is no
                           // steeper than what can be walked
};

// Every hole in the land, the largest first: cells that touch at a side are one. What is no land is none, and neither
// is a hole that only borders on that. Connected ground goes from cell to cell over their sides. Slopes are those of
// the triangles that are drawn. O(n), and nothing at all in a level without openings. Empty when cancelled.
std::vector<FoundOpening> surveyOpenings(const Level& level, float walkableDegrees, const Context& context = {});

}  // namespace jam
