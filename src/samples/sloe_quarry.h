// Sloe Quarry, the second example: a small level that does not pass. A lookout is cut off on its stack of stone, a lime
// pit can be fallen into and not left, and through a gap in the rim one gets out of the level.
#pragma once

#include "level/level.h"

namespace jam::samples {

Result<Level> makeSloeQuarry(const std::vector<Layer>& layers);

}  // namespace jam::samples
