// Grey TIFF pictures of any common kind, as they come from elsewhere.
#pragma once

#include "files/disk.h"
#include "files/height_field.h"

namespace jam {

// The first picture of the file: one channel (of several equal ones the first); whole numbers of 8, 16 or 32 bits with
// or without a sign, floats of 32 or 64; strips or tiles; small or big files; packed any way that libtiff knows.
//
// What elevation data carry is read: the size of a pixel (in metres, feet or degrees; degrees at the middle of the
// picture), the unit of the heights, the value that means "no data" (such samples come as NaN, as do NaN and, where
// nothing is said and values have a sign, what meansNothing() says). Values are metres when they have a sign, are
// floats, or a size of pixel is given. Source: OGC GeoTIFF Standard 1.1 (19-008r4); the no-data value stands as text in
// tag 42113.
// Errors: not a TIFF, damaged, another kind, coloured, or out of range in size.
Result<HeightField> decodeGreyTiff(const Bytes& bytes, const std::string& name);

}  // namespace jam
