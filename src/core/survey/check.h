// Does a level keep its promises?
#pragma once

#include <string>
#include <vector>

#include "base/context.h"
#include "level/level.h"

namespace jam {

// Every broken invariant as one plain sentence; empty when the level is sound. Looks at every sample.
std::vector<std::string> checkLevel(const Level& level, const Context& context = {});

}  // namespace jam
