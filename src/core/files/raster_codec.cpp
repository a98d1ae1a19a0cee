#include "files/raster_codec.h"

namespace jam {

namespace {

// A PNG of so many 16-bit channels and exactly this size.
Result<Pixels> decodeDeep(const Bytes& bytes, const std::string& name, int columns, int rows, int channels,
                          const char* words) {
    Result<Pixels> picture = decodePng(bytes, name, kMaxSamples);
    if (!picture) return picture;
    const Pixels& p = picture.value();
    if (p.width != columns || p.height != rows || p.channels != channels || p.bits != 16)
        return Error{
            name, "size",
            std::string("it is not ") + words + " of " + std::to_string(columns) + " x " + std::to_string(rows),
            "use the file that belongs to this level"};
    return picture;
}

}  // namespace

Result<Bytes> encodeRaster(const TiledGrid<float>& grid) { return encodeFloatTiff(grid); }

Result<Bytes> encodeRaster(const TiledGrid<uint16_t>& grid) {
    Pixels p{grid.columns(), grid.rows(), 1, 16, {}};
    p.samples.resize(static_cast<size_t>(p.width) * static_cast<size_t>(p.height));
    grid.read(grid.bounds(), {p.samples.data(), p.width, p.height, p.width});
    return encodePng(p, 1);
}

Result<Bytes> encodeRaster(const TiledGrid<Wash>& grid) {
    Pixels p{grid.columns(), grid.rows(), 4, 16, {}};
    p.samples.reserve(static_cast<size_t>(p.width) * static_cast<size_t>(p.height) * 4);
    Raster<Wash> row(p.width, 1);
    for (int z = 0; z < p.height; ++z) {
        grid.read({0, z, p.width, z + 1}, row.view());
        for (int x = 0; x < p.width; ++x) {
            const Wash& w = row.at(x, 0);
            p.samples.insert(p.samples.end(), {w.red, w.green, w.blue, w.strength});
        }
    }
    return encodePng(p, 1);
}

template <>
Result<TiledGrid<float>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, float) {
    return decodeFloatTiff(bytes, name, columns, rows);
}

template <>
Result<TiledGrid<uint16_t>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows,
                                         uint16_t usual) {
    const Result<Pixels> picture = decodeDeep(bytes, name, columns, rows, 1, "one 16-bit channel");
    if (!picture) return picture.error();
    const Pixels& p = picture.value();
    TiledGrid<uint16_t> grid(p.width, p.height, usual);
    grid.write(grid.bounds(), {p.samples.data(), p.width, p.height, p.width});
    return grid;
}

template <>
Result<TiledGrid<Wash>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, Wash usual) {
    const Result<Pixels> picture = decodeDeep(bytes, name, columns, rows, 4, "four 16-bit channels");
    if (!picture) return picture.error();
    const Pixels& p = picture.value();
    TiledGrid<Wash> grid(p.width, p.height, usual);
    Raster<Wash> row(p.width, 1);
    for (int z = 0; z < p.height; ++z) {
        for (int x = 0; x < p.width; ++x) row.at(x, 0) = {p.at(x, z, 0), p.at(x, z, 1), p.at(x, z, 2), p.at(x, z, 3)};
        grid.write({0, z, p.width, z + 1}, row.view());
    }
    return grid;
}

}  // namespace jam
