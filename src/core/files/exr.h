// Heights from OpenEXR pictures.
#pragma once

#include "files/disk.h"
#include "grid/view.h"

namespace jam {

// One channel as floats: Y, Z, height, or the first by name that is not alpha. Errors: not an OpenEXR scan-line or tiled
// picture, damaged, or larger than maxSide along a side (tested before memory is taken).
Result<Raster<float>> decodeExr(const Bytes& bytes, const std::string& name, int maxSide);

}  // namespace jam
