// Heights as lossless 32-bit float TIFF: 256 x 256 tiles, floating-point predictor, Zstandard or Deflate.
#pragma once

#include <string>

#include "files/disk.h"
#include "grid/tiled_grid.h"

namespace jam {

// Tiles that are absent in the grid are not stored in the file either (a sparse tiled TIFF); readers show 0.
// Precondition: the grid's default value is 0.
Result<Bytes> encodeFloatTiff(const TiledGrid<float>& grid);

// Errors: not a TIFF, damaged, another size, not one 32-bit float channel, or a height that is not finite.
Result<TiledGrid<float>> decodeFloatTiff(const Bytes& bytes, const std::string& name, int columns, int rows);

}  // namespace jam
