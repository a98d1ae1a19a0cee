// Tiles of 256 x 256: the format's tiles are sixteen of ours, because each costs a compressor start.
#include "files/float_tiff.h"

#include <cmath>
#include <cstring>
#include <memory>
#include <tiffio.h>

namespace jam {

namespace {

constexpr int kFileTile = 256;

// A growing file in memory for libtiff.
struct Memory {
    Bytes bytes;
    toff_t at = 0;
};

tmsize_t readMemory(thandle_t h, void* to, tmsize_t n) {
    auto* m = static_cast<Memory*>(h);
    if (n < 0 || m->at >= m->bytes.size()) return 0;
    const size_t some = std::min(static_cast<size_t>(n), static_cast<size_t>(m->bytes.size() - m->at));
    std::memcpy(to, m->bytes.data() + m->at, some);
    m->at += some;
    return static_cast<tmsize_t>(some);
}
tmsize_t writeMemory(thandle_t h, void* from, tmsize_t n) {
    auto* m = static_cast<Memory*>(h);
    const size_t end = m->at + static_cast<size_t>(n);
    if (m->bytes.size() < end) m->bytes.resize(end);
    std::memcpy(m->bytes.data() + m->at, from, static_cast<size_t>(n));
    m->at = end;
    return n;
}
toff_t seekMemory(thandle_t h, toff_t to, int whence) {
    auto* m = static_cast<Memory*>(h);
    m->at = whence == SEEK_SET ? to : whence == SEEK_CUR ? m->at + to : m->bytes.size() + to;
    return m->at;
}
int closeMemory(thandle_t) { return 0; }
toff_t sizeMemory(thandle_t h) { return static_cast<Memory*>(h)->bytes.size(); }

struct Closer { void operator()(TIFF* t) const { TIFFClose(t); } };
using Tiff = std::unique_ptr<TIFF, Closer>;

Tiff openTiff(Memory& memory, const char* mode) {
    // Messages of the library would go to the terminal; errors come back as results instead.
    [[maybe_unused]] static const bool quiet = (TIFFSetErrorHandler(nullptr), TIFFSetWarningHandler(nullptr), true);
    return Tiff(TIFFClientOpen("heights", mode, &memory, readMemory, writeMemory, seekMemory, closeMemory, sizeMemory,
                               nullptr, nullptr));
}

bool tileIsAbsent(const TiledGrid<float>& grid, const Region& part) {
    const Region t = TiledGrid<float>::tilesOf(part);
    for (int tz = t.z0; tz < t.z1; ++tz)
        for (int tx = t.x0; tx < t.x1; ++tx) if (grid.tile(tx, tz)) return false;
    return true;
}

template <class F>
void eachFileTile(int columns, int rows, F f) {
    uint32_t index = 0;
    for (int z = 0; z < rows; z += kFileTile)
        for (int x = 0; x < columns; x += kFileTile)
            f(index++, Region{x, z, std::min(x + kFileTile, columns), std::min(z + kFileTile, rows)});
}

}  // namespace

Result<Bytes> encodeFloatTiff(const TiledGrid<float>& grid) {
    assert(grid.defaultValue() == 0);
    Memory memory;
    {
        const Tiff tiff = openTiff(memory, "w");
        TIFF* t = tiff.get();
        const bool zstd = TIFFIsCODECConfigured(COMPRESSION_ZSTD);
        TIFFSetField(t, TIFFTAG_IMAGEWIDTH, static_cast<uint32_t>(grid.columns()));
        TIFFSetField(t, TIFFTAG_IMAGELENGTH, static_cast<uint32_t>(grid.rows()));
        TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 32);
        TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
        TIFFSetField(t, TIFFTAG_SAMPLEFORMAT, SAMPLEFORMAT_IEEEFP);
        TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
        TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
        TIFFSetField(t, TIFFTAG_TILEWIDTH, kFileTile);
        TIFFSetField(t, TIFFTAG_TILELENGTH, kFileTile);
        TIFFSetField(t, TIFFTAG_COMPRESSION, zstd ? COMPRESSION_ZSTD : COMPRESSION_ADOBE_DEFLATE);
        TIFFSetField(t, TIFFTAG_PREDICTOR, PREDICTOR_FLOATINGPOINT);
        TIFFSetField(t, zstd ? TIFFTAG_ZSTD_LEVEL : TIFFTAG_ZIPQUALITY, 1);
        Raster<float> tile(kFileTile, kFileTile);
        bool good = true;
        eachFileTile(grid.columns(), grid.rows(), [&](uint32_t index, const Region& part) {
            // The first is always written: libtiff leaves the table of tiles out of a file that has none.
            if (!good || (index > 0 && tileIsAbsent(grid, part))) return;
            if (part.width() < kFileTile || part.depth() < kFileTile)
                std::fill_n(tile.view().data, kFileTile * kFileTile, 0.f);
            grid.read(part, tile.view());
            good = TIFFWriteEncodedTile(t, index, tile.view().data, kFileTile * kFileTile * sizeof(float)) > 0;
        });
        if (!good || !TIFFWriteDirectory(t)) return Error{"", "heights", "they could not be encoded", "free some memory"};
    }
    return std::move(memory.bytes);
}

Result<TiledGrid<float>> decodeFloatTiff(const Bytes& bytes, const std::string& name, int columns, int rows) {
    const Error damaged{name, "", "the heights are damaged or incomplete", "use a copy or an earlier save of the level"};
    Memory memory{bytes, 0};
    const Tiff tiff = openTiff(memory, "rm");
    if (!tiff) return damaged;
    TIFF* t = tiff.get();
    uint32_t width = 0, height = 0, tileWidth = 0, tileHeight = 0;
    uint16_t bits = 0, channels = 1, format = 0;
    TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(t, TIFFTAG_IMAGELENGTH, &height);
    TIFFGetField(t, TIFFTAG_TILEWIDTH, &tileWidth);
    TIFFGetField(t, TIFFTAG_TILELENGTH, &tileHeight);
    TIFFGetFieldDefaulted(t, TIFFTAG_BITSPERSAMPLE, &bits);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLESPERPIXEL, &channels);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLEFORMAT, &format);
    if (width != static_cast<uint32_t>(columns) || height != static_cast<uint32_t>(rows))
        return Error{name, "size", "it is " + std::to_string(width) + " x " + std::to_string(height) + ", but the level is " +
                     std::to_string(columns) + " x " + std::to_string(rows), "use the file that belongs to this level"};
    if (bits != 32 || channels != 1 || format != SAMPLEFORMAT_IEEEFP || tileWidth != kFileTile || tileHeight != kFileTile)
        return Error{name, "", "it is not one channel of 32-bit floats in 256 x 256 tiles", "see docs/format.md"};
    TiledGrid<float> grid(columns, rows, 0.f);
    Raster<float> tile(kFileTile, kFileTile);
    bool good = true, finite = true;
    const uint64_t* sizes = nullptr;
    if (!TIFFGetField(t, TIFFTAG_TILEBYTECOUNTS, &sizes) || !sizes) return damaged;
    const uint32_t tiles = TIFFNumberOfTiles(t);
    eachFileTile(columns, rows, [&](uint32_t index, const Region& part) {
        if (!good || index >= tiles) { good = false; return; }
        if (sizes[index] == 0) return;  // not stored: all 0
        const tmsize_t whole = kFileTile * kFileTile * sizeof(float);
        if (TIFFReadEncodedTile(t, index, tile.view().data, whole) != whole) { good = false; return; }
        for (int z = 0; z < part.depth(); ++z)
            for (int x = 0; x < part.width(); ++x) finite &= std::isfinite(tile.at(x, z));
        grid.write(part, tile.view());
    });
    if (!good) return damaged;
    if (!finite) return Error{name, "", "a height is not a finite number", "use a copy or an earlier save of the level"};
    return grid;
}

}  // namespace jam
