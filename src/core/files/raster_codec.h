// How the samples of a raster are kept in the level file, by their type. A raster of a new type needs one more of each.
#pragma once

#include "files/disk.h"
#include "files/float_tiff.h"
#include "files/png.h"
#include "level/level.h"

namespace jam {

template <class T>
std::string rasterEnding();
template <>
inline std::string rasterEnding<float>() {
    return ".tif";
}
template <>
inline std::string rasterEnding<uint8_t>() {
    return ".png";
}
template <>
inline std::string rasterEnding<uint16_t>() {
    return ".png";
}
template <>
inline std::string rasterEnding<Wash>() {
    return ".png";
}

// float: tiled TIFF; uint8_t: PNG of one 8-bit channel; uint16_t: PNG of one 16-bit channel; Wash: PNG of four 16-bit
// channels.
Result<Bytes> encodeRaster(const TiledGrid<float>& grid);
Result<Bytes> encodeRaster(const TiledGrid<uint8_t>& grid);
Result<Bytes> encodeRaster(const TiledGrid<uint16_t>& grid);
Result<Bytes> encodeRaster(const TiledGrid<Wash>& grid);

// `name` stands in messages. Errors: damaged, or of another size or kind.
template <class T>
Result<TiledGrid<T>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, T usual);
template <>
Result<TiledGrid<float>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, float usual);
template <>
Result<TiledGrid<uint8_t>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows,
                                        uint8_t usual);
template <>
Result<TiledGrid<uint16_t>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows,
                                         uint16_t usual);
template <>
Result<TiledGrid<Wash>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, Wash usual);

}  // namespace jam
