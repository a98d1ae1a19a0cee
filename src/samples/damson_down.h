// Damson Down, the demo level: a soapbox-cart downhill course through terraced berry orchards.
#pragma once

#include "level/level.h"

namespace jam::samples {

// Made by strokes through the core, as a designer would make it. `layers` are the sample layers.
Result<Level> makeDamsonDown(const std::vector<Layer>& layers);

}  // namespace jam::samples
