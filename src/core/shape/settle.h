// What becomes of ground where loose matter came down drop by drop: it spreads, and nothing stands alone.
#pragma once

#include "grid/extents.h"
#include "grid/view.h"

namespace jam {

// `ground` and `start`, the ground before anything came down, are w x d samples, and so is `mask`, more than 0 where
// ground may be touched, with its extents. `fallen`, metres that came to rest, has a border of one sample of 0 around
// it. What has fallen spreads to the neighbours, twice; then what sticks out of all eight of them, up or down, more
// than it did at the start, is shared out among them, three times. Nothing enters or leaves what may be touched, and
// sums stay.
void settle(View<float> ground, View<const float> start, View<const float> fallen, View<const float> mask,
            const Extents& extents);

}  // namespace jam
