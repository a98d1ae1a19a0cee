// The outline of a pool, for maps, drawing and hand over.
#pragma once

#include <array>
#include <vector>

#include "level/level.h"

namespace jam {

// Closed lines of (x, z) in metres where a pool's surface meets the ground, over the triangles that are drawn, with the
// water on the right (islands run the other way round). Where the pool ends without meeting ground (at the level's
// edge, at a leak) they run along its last samples. Lines of fewer than three points are left out; the first point is
// not repeated. By what stands there now: a pool below another one has none where that covers it.
using Outline = std::vector<std::array<double, 2>>;
std::vector<Outline> outlineOf(const Level& level, const Pool& pool);

}  // namespace jam
