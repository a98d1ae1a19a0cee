// Tiles of 256 x 256: sixteen of ours, because each costs a compressor start. Predictor and compression of a tile
// are done here, several tiles at a time, and libtiff stores the bytes; it only knows how to do one at a time.
// The floating-point predictor is that of TIFF Technical Note 3 (2005): per row, the bytes of all
// numbers sorted by significance, then differences.
#include "files/float_tiff.h"

#include <zstd.h>
#include <atomic>
#include <bit>
#include <cmath>
#include <cstring>
#include <memory>
#include <span>

#include "base/parallel.h"
#include "files/tiff_memory.h"

namespace jam {

namespace {

static_assert(std::endian::native == std::endian::little, "the predictor below puts the last byte first");

constexpr int kFileTile = 256;
constexpr size_t kTileBytes = kFileTile * kFileTile * sizeof(float);
constexpr size_t kAtOnce = 64;  // tiles that are packed before they are written
constexpr int kEffort = 1;      // of Zstandard; more makes files hardly smaller and saving slower

void predict(const float* row, uint8_t* out) {
    const auto* in = reinterpret_cast<const uint8_t*>(row);
    for (int b = 0; b < 4; ++b)
        for (int i = 0; i < kFileTile; ++i) out[b * kFileTile + i] = in[i * 4 + 3 - b];
    for (int i = 4 * kFileTile - 1; i > 0; --i) out[i] = static_cast<uint8_t>(out[i] - out[i - 1]);
}

void unpredict(uint8_t* row, float* out) {
    for (int i = 1; i < 4 * kFileTile; ++i) row[i] = static_cast<uint8_t>(row[i] + row[i - 1]);
    auto* to = reinterpret_cast<uint8_t*>(out);
    for (int b = 0; b < 4; ++b)
        for (int i = 0; i < kFileTile; ++i) to[i * 4 + 3 - b] = row[b * kFileTile + i];
}

bool tileIsAbsent(const TiledGrid<float>& grid, const Region& part) {
    const Region t = TiledGrid<float>::tilesOf(part);
    for (int tz = t.z0; tz < t.z1; ++tz)
        for (int tx = t.x0; tx < t.x1; ++tx)
            if (grid.tile(tx, tz)) return false;
    return true;
}

std::vector<Region> fileTiles(int columns, int rows) {
    std::vector<Region> tiles;
    for (int z = 0; z < rows; z += kFileTile)
        for (int x = 0; x < columns; x += kFileTile)
            tiles.push_back({x, z, std::min(x + kFileTile, columns), std::min(z + kFileTile, rows)});
    return tiles;
}

Error notEncoded() { return {"", "heights", "they could not be encoded", "free some memory"}; }

// Some tiles, packed; those that are absent stay empty. Errors: no memory.
Result<std::vector<Bytes>> packTiles(const TiledGrid<float>& grid, std::span<const Region> tiles) {
    std::vector<Bytes> packed(tiles.size());
    std::atomic<bool> good{true};
    parallelFor(static_cast<int>(tiles.size()), 1, [&](int first, int end) {
        const std::unique_ptr<ZSTD_CCtx, size_t (*)(ZSTD_CCtx*)> zstd(ZSTD_createCCtx(), ZSTD_freeCCtx);
        Raster<float> tile(kFileTile, kFileTile);
        Bytes plain(kTileBytes), room(ZSTD_compressBound(kTileBytes));
        if (!zstd) good = false;
        for (int i = first; i < end && good; ++i) {
            const Region& part = tiles[static_cast<size_t>(i)];
            // The first is always written: libtiff leaves the table of tiles out of a file that has none.
            if ((part.x0 > 0 || part.z0 > 0) && tileIsAbsent(grid, part)) continue;
            if (part.width() < kFileTile || part.depth() < kFileTile)
                std::fill_n(tile.view().data, kFileTile * kFileTile, 0.f);
            grid.read(part, tile.view());
            for (int z = 0; z < kFileTile; ++z)
                predict(tile.view().row(z), plain.data() + static_cast<size_t>(z) * 4 * kFileTile);
            const size_t n = ZSTD_compressCCtx(zstd.get(), room.data(), room.size(), plain.data(), plain.size(),
                                               kEffort);
            if (ZSTD_isError(n)) good = false;
            else packed[static_cast<size_t>(i)].assign(room.begin(), room.begin() + static_cast<ptrdiff_t>(n));
        }
    });
    if (!good) return notEncoded();
    return packed;
}

}  // namespace

Result<Bytes> encodeFloatTiff(const TiledGrid<float>& grid) {
    assert(grid.defaultValue() == 0);
    const std::vector<Region> tiles = fileTiles(grid.columns(), grid.rows());
    TiffMemory memory;
    // Room for all that there may be: what is not written to takes none, and growing would take it twice.
    memory.bytes.reserve(grid.bytes());
    {
        const Tiff tiff = openTiff(memory, "w");
        TIFF* t = tiff.get();
        if (!t) return notEncoded();
        TIFFSetField(t, TIFFTAG_IMAGEWIDTH, static_cast<uint32_t>(grid.columns()));
        TIFFSetField(t, TIFFTAG_IMAGELENGTH, static_cast<uint32_t>(grid.rows()));
        TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 32);
        TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
        TIFFSetField(t, TIFFTAG_SAMPLEFORMAT, SAMPLEFORMAT_IEEEFP);
        TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
        TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
        TIFFSetField(t, TIFFTAG_TILEWIDTH, kFileTile);
        TIFFSetField(t, TIFFTAG_TILELENGTH, kFileTile);
        TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_ZSTD);
        TIFFSetField(t, TIFFTAG_PREDICTOR, PREDICTOR_FLOATINGPOINT);
        bool good = true;
        // Some at a time: all of them beside what is written would take the ground's memory twice.
        for (size_t first = 0; first < tiles.size() && good; first += kAtOnce) {
            const size_t some = std::min(kAtOnce, tiles.size() - first);
            Result<std::vector<Bytes>> packed = packTiles(grid, std::span(tiles).subspan(first, some));
            if (!packed) return packed.error();
            for (size_t i = 0; i < some && good; ++i)
                if (Bytes& tile = packed.value()[i]; !tile.empty())
                    good = TIFFWriteRawTile(t, static_cast<uint32_t>(first + i), tile.data(),
                                            static_cast<tmsize_t>(tile.size())) > 0;
        }
        if (!good || !TIFFWriteDirectory(t)) return notEncoded();
    }
    return std::move(memory.bytes);
}

namespace {

// Whether it is of this size and packed as levels are.
Status checkFrame(TIFF* t, const std::string& name, int columns, int rows) {
    uint32_t width = 0, height = 0, tileWidth = 0, tileHeight = 0;
    uint16_t bits = 0, channels = 1, format = 0, packing = 0, predictor = 0;
    TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(t, TIFFTAG_IMAGELENGTH, &height);
    TIFFGetField(t, TIFFTAG_TILEWIDTH, &tileWidth);
    TIFFGetField(t, TIFFTAG_TILELENGTH, &tileHeight);
    TIFFGetField(t, TIFFTAG_COMPRESSION, &packing);
    TIFFGetField(t, TIFFTAG_PREDICTOR, &predictor);
    TIFFGetFieldDefaulted(t, TIFFTAG_BITSPERSAMPLE, &bits);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLESPERPIXEL, &channels);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLEFORMAT, &format);
    if (width != static_cast<uint32_t>(columns) || height != static_cast<uint32_t>(rows))
        return Error{name, "size",
                     "it is " + std::to_string(width) + " x " + std::to_string(height) + ", but the level is " +
                         std::to_string(columns) + " x " + std::to_string(rows),
                     "use the file that belongs to this level"};
    if (bits != 32 || channels != 1 || format != SAMPLEFORMAT_IEEEFP || tileWidth != kFileTile ||
        tileHeight != kFileTile || packing != COMPRESSION_ZSTD || predictor != PREDICTOR_FLOATINGPOINT ||
        TIFFIsByteSwapped(t))
        return Error{name, "",
                     "it is not one channel of 32-bit floats in 256 x 256 tiles, packed as docs/format.md says",
                     "save it that way"};
    return {};
}

}  // namespace

Result<TiledGrid<float>> decodeFloatTiff(const Bytes& bytes, const std::string& name, int columns, int rows) {
    const Error damaged{name, "", "the heights are damaged or incomplete",
                        "use a copy or an earlier save of the level"};
    TiffMemory memory{bytes, 0};
    const Tiff tiff = openTiff(memory, "rm");
    if (!tiff) return damaged;
    TIFF* t = tiff.get();
    if (const Status s = checkFrame(t, name, columns, rows); !s) return s.error();
    const uint64_t* sizes = nullptr;
    const std::vector<Region> tiles = fileTiles(columns, rows);
    if (!TIFFGetField(t, TIFFTAG_TILEBYTECOUNTS, &sizes) || !sizes || TIFFNumberOfTiles(t) < tiles.size())
        return damaged;
    std::vector<Bytes> packed(tiles.size());
    for (size_t i = 0; i < tiles.size(); ++i) {
        if (sizes[i] == 0) continue;  // not stored: all 0
        if (sizes[i] > ZSTD_compressBound(kTileBytes) || sizes[i] > bytes.size()) return damaged;
        packed[i].resize(sizes[i]);
        const auto n = static_cast<tmsize_t>(sizes[i]);
        if (TIFFReadRawTile(t, static_cast<uint32_t>(i), packed[i].data(), n) != n) return damaged;
    }
    TiledGrid<float> grid(columns, rows, 0.f);
    std::atomic<bool> good{true}, finite{true};
    // All tiles are made first, so that threads may fill different ones; those that hold only zeros go again.
    for (size_t i = 0; i < tiles.size(); ++i)
        if (!packed[i].empty()) grid.prepare(tiles[i]);
    parallelFor(static_cast<int>(tiles.size()), 1, [&](int first, int end) {
        Raster<float> tile(kFileTile, kFileTile);
        Bytes plain(kTileBytes);
        for (int i = first; i < end; ++i) {
            const Bytes& in = packed[static_cast<size_t>(i)];
            if (in.empty()) continue;
            if (ZSTD_decompress(plain.data(), plain.size(), in.data(), in.size()) != plain.size()) {
                good = false;
                continue;
            }
            for (int z = 0; z < kFileTile; ++z)
                unpredict(plain.data() + static_cast<size_t>(z) * 4 * kFileTile, tile.view().row(z));
            const Region& part = tiles[static_cast<size_t>(i)];
            bool allFinite = true;
            for (int z = 0; z < part.depth(); ++z)
                for (int x = 0; x < part.width(); ++x) allFinite &= std::isfinite(tile.at(x, z));
            if (!allFinite) finite = false;
            grid.write(part, tile.view());
        }
    });
    if (!good) return damaged;
    if (!finite)
        return Error{name, "", "a height is not a finite number", "use a copy or an earlier save of the level"};
    grid.dropDefaultTiles();
    return grid;
}

}  // namespace jam
