// What becomes of ground where loose matter came down drop by drop: it spreads, and nothing stands alone.
#pragma once

#include "grid/view.h"

namespace jam {

// `ground` and `start`, the ground before anything came down, are w x d samples. `fallen`, metres that came to rest,
// and `usable`, 1 where ground may be touched and 0 elsewhere, have a border of one sample of 0 around them. What has
// fallen spreads to the neighbours, twice; then what sticks out of all eight of them, up or down, more than it did at
// the start, is shared out among them, three times. Nothing enters or leaves what may be touched, and sums stay.
void settle(View<float> ground, View<const float> start, View<const float> fallen, View<const float> usable);

}  // namespace jam
