// The first half of looking at reach: the ground as a body finds it.
#pragma once

#include "walk/reach.h"

namespace jam {

// Heights, kinds (kFirm not told from kSteep yet) and cells. False when cancelled.
bool makeReachGround(const Level& level, const Body& body, int mostSamples, const Context& context,
                     ReachGround& ground);

}  // namespace jam
