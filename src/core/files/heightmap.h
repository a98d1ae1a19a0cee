// Heightmaps, whatever format they come in; files/field_level.h makes levels of them.
#pragma once

#include <filesystem>
#include <optional>

#include "files/png.h"
#include "files/raw_field.h"
#include "level/level.h"

namespace jam {

// Reads PNG 8/16, TIFF (files/grey_tiff.h), OpenEXR (Y, Z, or the first channel) or ASCII grid (files/ascii_grid.h),
// told apart by their first bytes; anything else is raw (files/raw_field.h) and needs `layout`. Holes are filled
// (fillHoles, files/height_field.h). Errors: unreadable, damaged, coloured, sizes out of range, nothing but holes,
// values that are infinite, or raw without a layout.
Result<HeightField> readHeightField(const std::filesystem::path& path, const std::optional<RawLayout>& layout = {});
Result<HeightField> decodeHeightField(const Bytes& bytes, const std::string& name,
                                      const std::optional<RawLayout>& layout = {});
// True when the file's first bytes belong to none of the formats that describe themselves.
bool looksRaw(const Bytes& bytes);

}  // namespace jam
