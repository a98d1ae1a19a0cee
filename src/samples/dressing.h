// What stands on Damson Down.
#pragma once

#include "level/level.h"

namespace jam::samples {

// Trees in rows where soil was turned for them, tufts, reeds and stones where rules put them, bales and rails where
// carts leave the course, and the two houses. Errors: of the level's limits.
Status dressDown(Level& level);

}  // namespace jam::samples
