// Heights from OpenEXR pictures.
#pragma once

#include "files/png.h"
#include "grid/view.h"

namespace jam {

// One channel as floats: Y, Z, height, or the first by name that is not alpha. Errors: not an OpenEXR scan-line or
// tiled picture, damaged, or larger than maxSide along a side (tested before memory is taken).
Result<Raster<float>> decodeExr(const Bytes& bytes, const std::string& name, int maxSide);

// Red, green and blue (or one channel for all three) as a picture of 8 bits. `light`: the numbers are linear light, and
// are stored as sRGB; otherwise as they are, 0 to 1. What lies beyond is held at 0 and 1. Errors as above.
Result<Pixels> decodeExrPicture(const Bytes& bytes, const std::string& name, int maxSide, bool light);

}  // namespace jam
