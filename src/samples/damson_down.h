// Damson Down, the demo level: a soapbox-cart downhill course through terraced berry orchards.
#pragma once

#include "level/level.h"

namespace jam::samples {

// Made by strokes through the core, as a designer would make it. `layers` are the sample layers, `wall` the
// piece of wall that is repeated along terraces (stonework.h).
Result<Level> makeDamsonDown(const std::vector<Layer>& layers, const Level& wall);

}  // namespace jam::samples
