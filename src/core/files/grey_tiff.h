// Grey TIFF pictures of any common kind, as they come from elsewhere.
#pragma once

#include "files/disk.h"
#include "grid/view.h"

namespace jam {

struct GreyTiff {
    Raster<float> values;  // 0..255, 0..65535, or as they are
    int bits = 0;          // 8, 16, or 32 for floats
};

// The first picture of the file: one channel (of several equal ones the first), 8 or 16 bits or 32-bit float, strips or
// tiles, packed any way that libtiff knows. Errors: not a TIFF, damaged, another kind, coloured, or larger than
// maxSide.
Result<GreyTiff> decodeGreyTiff(const Bytes& bytes, const std::string& name, int maxSide);

}  // namespace jam
