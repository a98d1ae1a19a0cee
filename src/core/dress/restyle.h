// Turns what stands under a brush into another kind, and leaves it where it is.
#pragma once

#include "brush/dab.h"
#include "dress/plantings.h"

namespace jam {

// Of what stood when the stroke began (`stood`), under a dab, as many as share * falloff says become one of `kind`,
// where they stand and turned as they are, as singles: a planting's place in the pattern is taken for good. `of` is
// the id of the kind that is turned, 0 for every other. `stamp`: which one of the stroke it is; each draws anew.
// Nothing happens to kinds that are protected or hidden, and no more once there are kMaxSingles. Returns the cover
// samples that it may have changed.
Region restyle(Level& level, const Dab& dab, float share, uint32_t kind, uint32_t of, Plantings& stood, int stamp);

}  // namespace jam
