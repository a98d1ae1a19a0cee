#include "files/grey_tiff.h"

#include <cstring>

#include "files/tiff_memory.h"

namespace jam {

namespace {

float valueAt(const uint8_t* sample, int bits) {
    if (bits == 8) return *sample;
    if (bits == 16) {
        uint16_t v;
        std::memcpy(&v, sample, 2);
        return v;
    }
    float v;
    std::memcpy(&v, sample, 4);
    return v;
}

struct Frame {
    uint32_t width = 0, depth = 0;
    uint16_t bits = 0, channels = 1, format = SAMPLEFORMAT_UINT, planar = PLANARCONFIG_CONTIG,
             ink = PHOTOMETRIC_MINISBLACK;
    size_t sample = 1, step = 1;  // bytes of a sample, and from one to the next

    bool real() const { return format == SAMPLEFORMAT_IEEEFP; }
};

Error damaged(const std::string& name) { return {name, "", "it is damaged or cut off", "copy or export it again"}; }

Result<Frame> readFrame(TIFF* t, const std::string& name, int maxSide, size_t bytes) {
    Frame f;
    TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &f.width);
    TIFFGetField(t, TIFFTAG_IMAGELENGTH, &f.depth);
    TIFFGetFieldDefaulted(t, TIFFTAG_BITSPERSAMPLE, &f.bits);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLESPERPIXEL, &f.channels);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLEFORMAT, &f.format);
    TIFFGetFieldDefaulted(t, TIFFTAG_PLANARCONFIG, &f.planar);
    TIFFGetField(t, TIFFTAG_PHOTOMETRIC, &f.ink);
    const auto most = static_cast<uint32_t>(maxSide);
    if (f.width < 1 || f.depth < 1 || f.width > most || f.depth > most)
        return Error{name, "size", "it is " + std::to_string(f.width) + " x " + std::to_string(f.depth),
                     "use at most " + std::to_string(maxSide) + " samples a side"};
    const bool whole = f.format == SAMPLEFORMAT_UINT && (f.bits == 8 || f.bits == 16);
    if (!whole && !(f.real() && f.bits == 32))
        return Error{name, "bits", "it has " + std::to_string(f.bits) + "-bit samples of another kind",
                     "export 8 or 16 bits, or 32-bit floats"};
    if (f.channels < 1 || f.channels > 4 || f.ink == PHOTOMETRIC_PALETTE)
        return Error{name, "channels", "it is not a grey picture", "export the heightmap as grey"};
    // No packing makes more than some thousand samples of a byte; a header that promises more is damaged.
    if (static_cast<double>(f.width) * f.depth > 4096.0 * static_cast<double>(bytes)) return damaged(name);
    f.sample = f.bits / 8u;
    f.step = f.planar == PLANARCONFIG_CONTIG ? f.sample * f.channels : f.sample;
    return f;
}

// put(x, z, at) for every pixel, whose first sample lies at `at`. False when the file is damaged.
template <class Put>
bool readTiles(TIFF* t, const Frame& f, Put put) {
    uint32_t tileWidth = 0, tileDepth = 0;
    TIFFGetField(t, TIFFTAG_TILEWIDTH, &tileWidth);
    TIFFGetField(t, TIFFTAG_TILELENGTH, &tileDepth);
    const tmsize_t size = TIFFTileSize(t);
    if (tileWidth < 1 || tileDepth < 1 || tileWidth > 8192 || tileDepth > 8192 ||
        size < static_cast<tmsize_t>(tileWidth * static_cast<size_t>(tileDepth) * f.step))
        return false;
    Bytes tile(static_cast<size_t>(size));
    for (uint32_t z0 = 0; z0 < f.depth; z0 += tileDepth)
        for (uint32_t x0 = 0; x0 < f.width; x0 += tileWidth) {
            if (TIFFReadTile(t, tile.data(), x0, z0, 0, 0) < 0) return false;
            for (uint32_t z = z0; z < std::min(z0 + tileDepth, f.depth); ++z)
                for (uint32_t x = x0; x < std::min(x0 + tileWidth, f.width); ++x)
                    put(static_cast<int>(x), static_cast<int>(z),
                        tile.data() + ((z - z0) * static_cast<size_t>(tileWidth) + (x - x0)) * f.step);
        }
    return true;
}

template <class Put>
bool readLines(TIFF* t, const Frame& f, Put put) {
    const tmsize_t line = TIFFScanlineSize(t);
    const size_t room = std::max<size_t>(64, static_cast<size_t>(f.width) * f.step + 64);
    if (line < static_cast<tmsize_t>(f.width * f.step) || line > static_cast<tmsize_t>(room * 4)) return false;
    Bytes row(static_cast<size_t>(line));
    for (uint32_t z = 0; z < f.depth; ++z) {
        if (TIFFReadScanline(t, row.data(), z, 0) < 0) return false;
        for (uint32_t x = 0; x < f.width; ++x) put(static_cast<int>(x), static_cast<int>(z), row.data() + x * f.step);
    }
    return true;
}

}  // namespace

Result<GreyTiff> decodeGreyTiff(const Bytes& bytes, const std::string& name, int maxSide) {
    TiffMemory memory{bytes, 0};
    const Tiff tiff = openTiff(memory, "rm");
    if (!tiff) return damaged(name);
    const Result<Frame> frame = readFrame(tiff.get(), name, maxSide, bytes.size());
    if (!frame) return frame.error();
    const Frame& f = frame.value();
    GreyTiff out{Raster<float>(static_cast<int>(f.width), static_cast<int>(f.depth)), f.real() ? 32 : f.bits};
    bool grey = true;
    const auto put = [&](int x, int z, const uint8_t* at) {
        out.values.at(x, z) = valueAt(at, out.bits);
        // Colours that differ are no heights; an alpha channel may differ.
        for (uint16_t c = 1; f.planar == PLANARCONFIG_CONTIG && f.channels >= 3 && c < 3; ++c)
            grey &= std::memcmp(at, at + c * f.sample, f.sample) == 0;
    };
    if (!(TIFFIsTiled(tiff.get()) ? readTiles(tiff.get(), f, put) : readLines(tiff.get(), f, put)))
        return damaged(name);
    if (!grey)
        return Error{name, "channels", "it is a colour picture", "export the heightmap as grey, best with 16 bits"};
    if (f.ink == PHOTOMETRIC_MINISWHITE && !f.real())
        for (int z = 0; z < out.values.depth(); ++z)
            for (int x = 0; x < out.values.width(); ++x)
                out.values.at(x, z) = static_cast<float>((1 << f.bits) - 1) - out.values.at(x, z);
    return out;
}

}  // namespace jam
