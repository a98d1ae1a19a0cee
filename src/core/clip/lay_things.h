// What a clip has beside its rasters, as it is set down: kinds, singles, pools.
#pragma once

#include <functional>

#include "clip/set_down.h"

namespace jam {

// Takes metres from a clip's corner to the map.
using OntoMap = std::function<MapPlace(double east, double south)>;

// Of each kind of the clip, the id of the level's of the same name; one that it lacks and that stands in the clip is
// added. 0 for those that the level need not know. Errors: there is no room for another.
Result<std::vector<uint32_t>> fitKinds(Level& level, const Level& clip);

// Those of the clip in place of those of the same kinds that lie under it. `covered`: whether the clip lies over a
// place of the level, where the fence lets it. Those that were in a group are in one of their own. Errors: there are
// too many.
Status laySingles(Level& level, const Level& clip, const std::vector<uint32_t>& kinds, const Placement& place,
                  const OntoMap& onMap, const std::function<bool(double x, double z)>& covered);

// Its pools, as they were over its ground. Those that would come to lie beside the level, or out of its range, stay
// away. Errors: there are too many.
Status layPools(Level& level, const Level& clip, const Placement& place, const OntoMap& onMap);

}  // namespace jam
