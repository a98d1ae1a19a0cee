// Pictures at another size.
#pragma once

#include "files/png.h"

namespace jam {

// Bilinear, or the mean of what falls into a sample when smaller. Precondition: sides of at least 1.
Pixels resized(const Pixels& picture, int width, int height);

}  // namespace jam
