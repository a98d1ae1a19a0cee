// The shade that falls from what stands on the ground.
#pragma once

#include "dress/plantings.h"
#include "grid/view.h"

namespace jam {

constexpr float kLeastCasting = 0.6f;  // metres: what is lower casts none that would be seen

// Darkens the sunlight and the openness to the sky of the ground's samples, each 0 to 255, where tall things stand in
// the way: as an ellipse of their breadth, drawn out and moved away from the sun. Both views cover the level.
// Precondition: all tiles of `all` are worked out. What was darkened when it is cancelled is not told.
void castShade(const Plantings& all, const Sun& from, View<uint8_t> sun, View<uint8_t> open,
               const Context& context = {});

}  // namespace jam
