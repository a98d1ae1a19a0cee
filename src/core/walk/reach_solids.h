// What stands on the ground, as a body that looks for ways finds it.
#pragma once

#include "walk/reach.h"

namespace jam {

// Takes what bars the body out of ground that is made already (makeReachGround): heights and cells.
//
// - Samples on what bars the body, and so near that a step past them would touch it when it is as long as samples lie
//   apart, are raised to its top: flights must clear it. Shorter things are flown over. A triangle on top of one that
//   carries can be stood on when a jump gets there from the ground.
// - Of a triangle elsewhere the three corners hang together as long as the body, as wide as it is, gets from one to the
//   others within its cell: looked at in steps of at most kFineStep metres, kFineSteps to a cell at most. One trunk in
//   a cell bars nothing; a wall through it does.
// False when cancelled.
bool putSolids(const Level& level, const Body& body, const Context& context, ReachGround& ground);
constexpr double kFineStep = 0.25;
constexpr int kFineSteps = 16;

}  // namespace jam
