// Where streams run; parts of water/water.h that nobody else needs.
#pragma once

#include "water/water.h"

namespace jam {

// The course's stratum, while it shows and carves, or null.
const Stratum* bedOf(const Level& level, const Stream& stream);
// Works out where a stream runs: from its bed as far as its shoulders, where the ground lies below its surface. Tiles
// that come out the same stay shared.
void runStream(const Level& level, Stream& stream, const Context& context);

}  // namespace jam
