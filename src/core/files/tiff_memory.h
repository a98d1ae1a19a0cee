// A growing TIFF file in memory, for the parts of this folder that use libtiff.
#pragma once

#include <tiffio.h>
#include <memory>

#include "files/disk.h"

namespace jam {

struct TiffMemory {
    Bytes bytes;
    toff_t at = 0;
};

struct TiffCloser {
    void operator()(TIFF* t) const { TIFFClose(t); }
};
using Tiff = std::unique_ptr<TIFF, TiffCloser>;

// Modes as TIFFOpen(). Null when it is not a TIFF. The memory outlives the file.
Tiff openTiff(TiffMemory& memory, const char* mode);

}  // namespace jam
