#include "files/raster_codec.h"

#include <algorithm>

namespace jam {

namespace {

// Rasters pass through these a row at a time: whole, a large level's would need a gigabyte beside the level.

template <class Row>
Result<Bytes> encodeDeep(const PngShape& shape, const Row& rowOf) {
    Bytes out;
    PngWriter writer(
        shape, [&out](const uint8_t* from, size_t n) { out.insert(out.end(), from, from + n); }, 1);
    for (int z = 0; z < shape.height; ++z) writer.row(rowOf(z));
    if (const Status s = writer.finish(); !s) return s.error();
    return out;
}

// A PNG of so many channels and bits and exactly this size, into a grid; `put(row, samples)` fills a row of it.
template <class T, class Put>
Result<TiledGrid<T>> decodeDeep(const Bytes& bytes, const std::string& name, const PngShape& wanted, const char* words,
                                T usual, const Put& put) {
    TiledGrid<T> grid(wanted.width, wanted.height, usual);
    constexpr int kBand = TiledGrid<T>::kTile;  // whole tiles at a time: each is written once
    Raster<T> band(wanted.width, kBand);
    const Status read = readPngRows(
        bytes, name, kMaxSamples,
        [&](const PngShape& s) -> Status {
            if (s.width == wanted.width && s.height == wanted.height && s.channels == wanted.channels &&
                s.bits == wanted.bits)
                return {};
            return Error{name, "size",
                         std::string("it is not ") + words + " of " + std::to_string(wanted.width) + " x " +
                             std::to_string(wanted.height),
                         "use the file that belongs to this level"};
        },
        [&](int z, const uint16_t* samples) {
            put(band.view().row(z % kBand), samples);
            if (z % kBand != kBand - 1 && z != wanted.height - 1) return;
            const int top = z / kBand * kBand;
            grid.write({0, top, wanted.width, z + 1}, band.view().part(0, 0, wanted.width, z + 1 - top));
        });
    if (!read) return read.error();
    return grid;
}

}  // namespace

Result<Bytes> encodeRaster(const TiledGrid<float>& grid) { return encodeFloatTiff(grid); }

Result<Bytes> encodeRaster(const TiledGrid<uint8_t>& grid) {
    Raster<uint8_t> row(grid.columns(), 1);
    std::vector<uint16_t> samples(static_cast<size_t>(grid.columns()));
    return encodeDeep({grid.columns(), grid.rows(), 1, 8}, [&](int z) {
        grid.read({0, z, grid.columns(), z + 1}, row.view());
        std::copy_n(row.view().data, grid.columns(), samples.begin());
        return samples.data();
    });
}

Result<Bytes> encodeRaster(const TiledGrid<uint16_t>& grid) {
    Raster<uint16_t> row(grid.columns(), 1);
    return encodeDeep({grid.columns(), grid.rows(), 1, 16}, [&](int z) {
        grid.read({0, z, grid.columns(), z + 1}, row.view());
        return row.view().data;
    });
}

Result<Bytes> encodeRaster(const TiledGrid<Wash>& grid) {
    Raster<Wash> row(grid.columns(), 1);
    std::vector<uint16_t> samples;
    return encodeDeep({grid.columns(), grid.rows(), 4, 16}, [&](int z) {
        grid.read({0, z, grid.columns(), z + 1}, row.view());
        samples.clear();
        for (int x = 0; x < grid.columns(); ++x) {
            const Wash& w = row.at(x, 0);
            samples.insert(samples.end(), {w.red, w.green, w.blue, w.strength});
        }
        return samples.data();
    });
}

template <>
Result<TiledGrid<float>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, float) {
    return decodeFloatTiff(bytes, name, columns, rows);
}

template <>
Result<TiledGrid<uint8_t>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows,
                                        uint8_t usual) {
    return decodeDeep<uint8_t>(bytes, name, {columns, rows, 1, 8}, "one 8-bit channel", usual,
                               [columns](uint8_t* row, const uint16_t* samples) {
                                   for (int x = 0; x < columns; ++x) row[x] = static_cast<uint8_t>(samples[x]);
                               });
}

template <>
Result<TiledGrid<uint16_t>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows,
                                         uint16_t usual) {
    return decodeDeep<uint16_t>(
        bytes, name, {columns, rows, 1, 16}, "one 16-bit channel", usual,
        [columns](uint16_t* row, const uint16_t* samples) { std::copy_n(samples, columns, row); });
}

template <>
Result<TiledGrid<Wash>> decodeRaster(const Bytes& bytes, const std::string& name, int columns, int rows, Wash usual) {
    return decodeDeep<Wash>(bytes, name, {columns, rows, 4, 16}, "four 16-bit channels", usual,
                            [columns](Wash* row, const uint16_t* s) {
                                for (int x = 0; x < columns; ++x, s += 4) row[x] = {s[0], s[1], s[2], s[3]};
                            });
}

}  // namespace jam
