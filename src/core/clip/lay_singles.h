// What stands in a clip, as it is set down: its kinds among the level's, and its singles.
#pragma once

#include <functional>

#include "clip/set_down.h"

namespace jam {

// Of each kind of the clip, the id of the level's of the same name; one that it lacks and that stands in the clip is
// added. 0 for those that the level need not know. Errors: there is no room for another.
Result<std::vector<uint32_t>> fitKinds(Level& level, const Level& clip);

// Those of the clip in place of those of the same kinds that lie under it. `onMap` takes metres from the clip's corner;
// `covered`: whether the clip lies over a place of the level, where the fence lets it. Those that were in a group are
// in one of their own. Errors: there are too many.
Status laySingles(Level& level, const Level& clip, const std::vector<uint32_t>& kinds, const Placement& place,
                  const std::function<MapPlace(double east, double south)>& onMap,
                  const std::function<bool(double x, double z)>& covered);

}  // namespace jam
