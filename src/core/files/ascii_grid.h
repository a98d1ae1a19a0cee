// ASCII grids: a header in words, and heights as text.
#pragma once

#include "files/disk.h"
#include "files/height_field.h"

namespace jam {

bool isAsciiGrid(const Bytes& bytes);

// ncols, nrows, xllcorner or xllcenter, cellsize (or dx and dy), nodata_value, in any order and case, then rows from
// north to south. Numbers have a decimal point whatever the locale, and may be scientific. Without a value (NaN) are
// samples that equal nodata_value, nan in any spelling, and, when there is no nodata_value, what meansNothing() says.
// Errors: an unknown line, sizes out of range, a number that is none, or too few.
Result<HeightField> decodeAsciiGrid(const Bytes& bytes, const std::string& name);

}  // namespace jam
