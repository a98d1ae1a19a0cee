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

}  // namespace

Result<GreyTiff> decodeGreyTiff(const Bytes& bytes, const std::string& name, int maxSide) {
    const Error damaged{name, "", "it is damaged or cut off", "copy or export it again"};
    TiffMemory memory{bytes, 0};
    const Tiff tiff = openTiff(memory, "rm");
    if (!tiff) return damaged;
    TIFF* t = tiff.get();
    uint32_t width = 0, depth = 0;
    uint16_t bits = 0, channels = 1, format = SAMPLEFORMAT_UINT, planar = PLANARCONFIG_CONTIG,
             ink = PHOTOMETRIC_MINISBLACK;
    TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(t, TIFFTAG_IMAGELENGTH, &depth);
    TIFFGetFieldDefaulted(t, TIFFTAG_BITSPERSAMPLE, &bits);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLESPERPIXEL, &channels);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLEFORMAT, &format);
    TIFFGetFieldDefaulted(t, TIFFTAG_PLANARCONFIG, &planar);
    TIFFGetField(t, TIFFTAG_PHOTOMETRIC, &ink);
    if (width < 1 || depth < 1 || width > static_cast<uint32_t>(maxSide) || depth > static_cast<uint32_t>(maxSide))
        return Error{name, "size", "it is " + std::to_string(width) + " x " + std::to_string(depth),
                     "use at most " + std::to_string(maxSide) + " samples a side"};
    const bool whole = format == SAMPLEFORMAT_UINT && (bits == 8 || bits == 16),
               real = format == SAMPLEFORMAT_IEEEFP && bits == 32;
    if (!whole && !real)
        return Error{name, "bits", "it has " + std::to_string(bits) + "-bit samples of another kind",
                     "export 8 or 16 bits, or 32-bit floats"};
    if (channels < 1 || channels > 4 || ink == PHOTOMETRIC_PALETTE)
        return Error{name, "channels", "it is not a grey picture", "export the heightmap as grey"};
    // No packing makes more than some thousand samples of a byte; a header that promises more is damaged.
    if (static_cast<double>(width) * depth > 4096.0 * static_cast<double>(bytes.size())) return damaged;
    const size_t sample = bits / 8u, step = planar == PLANARCONFIG_CONTIG ? sample * channels : sample;
    const size_t room = std::max<size_t>(64, static_cast<size_t>(width) * step + 64);

    GreyTiff out{Raster<float>(static_cast<int>(width), static_cast<int>(depth)), real ? 32 : bits};
    const auto put = [&](int x, int z, const uint8_t* at) {
        out.values.at(x, z) = valueAt(at, out.bits);
        // Colours that differ are no heights; an alpha channel may differ.
        for (uint16_t c = 1; planar == PLANARCONFIG_CONTIG && channels >= 3 && c < 3; ++c)
            if (std::memcmp(at, at + c * sample, sample) != 0) return false;
        return true;
    };
    bool grey = true;
    if (TIFFIsTiled(t)) {
        uint32_t tileWidth = 0, tileDepth = 0;
        TIFFGetField(t, TIFFTAG_TILEWIDTH, &tileWidth);
        TIFFGetField(t, TIFFTAG_TILELENGTH, &tileDepth);
        const tmsize_t size = TIFFTileSize(t);
        if (tileWidth < 1 || tileDepth < 1 || tileWidth > 8192 || tileDepth > 8192 ||
            size < static_cast<tmsize_t>(tileWidth * static_cast<size_t>(tileDepth) * step))
            return damaged;
        Bytes tile(static_cast<size_t>(size));
        for (uint32_t z0 = 0; z0 < depth; z0 += tileDepth)
            for (uint32_t x0 = 0; x0 < width; x0 += tileWidth) {
                if (TIFFReadTile(t, tile.data(), x0, z0, 0, 0) < 0) return damaged;
                for (uint32_t z = z0; z < std::min(z0 + tileDepth, depth); ++z)
                    for (uint32_t x = x0; x < std::min(x0 + tileWidth, width); ++x)
                        grey &= put(static_cast<int>(x), static_cast<int>(z),
                                    tile.data() + ((z - z0) * static_cast<size_t>(tileWidth) + (x - x0)) * step);
            }
    } else {
        const tmsize_t line = TIFFScanlineSize(t);
        if (line < static_cast<tmsize_t>(width * step) || line > static_cast<tmsize_t>(room * 4)) return damaged;
        Bytes row(static_cast<size_t>(line));
        for (uint32_t z = 0; z < depth; ++z) {
            if (TIFFReadScanline(t, row.data(), z, 0) < 0) return damaged;
            for (uint32_t x = 0; x < width; ++x)
                grey &= put(static_cast<int>(x), static_cast<int>(z), row.data() + x * step);
        }
    }
    if (!grey)
        return Error{name, "channels", "it is a colour picture", "export the heightmap as grey, best with 16 bits"};
    if (ink == PHOTOMETRIC_MINISWHITE && whole)
        for (int z = 0; z < out.values.depth(); ++z)
            for (int x = 0; x < out.values.width(); ++x)
                out.values.at(x, z) = static_cast<float>((1 << bits) - 1) - out.values.at(x, z);
    return out;
}

}  // namespace jam
