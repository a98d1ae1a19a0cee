#include "files/grey_tiff.h"

#include <charconv>
#include <cmath>
#include <cstring>
#include <optional>

#include "files/tiff_memory.h"

namespace jam {

namespace {

constexpr double kMetresPerDegree = 111320;  // along a meridian, and along the equator
constexpr double kFoot = 0.3048, kSurveyFoot = 1200.0 / 3937;

struct Frame {
    uint32_t width = 0, depth = 0;
    uint16_t bits = 0, channels = 1, format = SAMPLEFORMAT_UINT, planar = PLANARCONFIG_CONTIG,
             ink = PHOTOMETRIC_MINISBLACK;
    size_t sample = 1, step = 1;  // bytes of a sample, and from one to the next

    bool real() const { return format == SAMPLEFORMAT_IEEEFP; }
    bool sign() const { return format != SAMPLEFORMAT_UINT; }
    double most() const { return std::ldexp(1.0, bits) - 1; }
};

template <class T>
double read(const uint8_t* at) {
    T v;
    std::memcpy(&v, at, sizeof v);
    return static_cast<double>(v);
}
using Read = double (*)(const uint8_t*);
// How a sample is read; null when it is of another kind.
Read readerFor(const Frame& f) {
    if (f.real()) return f.bits == 32 ? read<float> : f.bits == 64 ? read<double> : nullptr;
    if (f.format == SAMPLEFORMAT_INT)
        return f.bits == 8 ? read<int8_t> : f.bits == 16 ? read<int16_t> : f.bits == 32 ? read<int32_t> : nullptr;
    if (f.format != SAMPLEFORMAT_UINT && f.format != SAMPLEFORMAT_VOID) return nullptr;
    return f.bits == 8 ? read<uint8_t> : f.bits == 16 ? read<uint16_t> : f.bits == 32 ? read<uint32_t> : nullptr;
}

Error damaged(const std::string& name) { return {name, "", "it is damaged or cut off", "copy or export it again"}; }

Result<Frame> readFrame(TIFF* t, const std::string& name, size_t bytes) {
    Frame f;
    TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &f.width);
    TIFFGetField(t, TIFFTAG_IMAGELENGTH, &f.depth);
    TIFFGetFieldDefaulted(t, TIFFTAG_BITSPERSAMPLE, &f.bits);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLESPERPIXEL, &f.channels);
    TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLEFORMAT, &f.format);
    TIFFGetFieldDefaulted(t, TIFFTAG_PLANARCONFIG, &f.planar);
    TIFFGetField(t, TIFFTAG_PHOTOMETRIC, &f.ink);
    if (f.format == SAMPLEFORMAT_VOID) f.format = SAMPLEFORMAT_UINT;
    if (const Status s = checkFieldSize(name, f.width, f.depth); !s) return s.error();
    if (!readerFor(f))
        return Error{name, "bits", "it has " + std::to_string(f.bits) + "-bit samples of another kind",
                     "export whole numbers of 8, 16 or 32 bits, or floats of 32 or 64"};
    if (f.channels < 1 || f.channels > 4 || f.ink == PHOTOMETRIC_PALETTE)
        return Error{name, "channels", "it is not a grey picture", "export the heightmap as grey"};
    // No packing makes more than some thousand samples of a byte; a header that promises more is damaged.
    if (static_cast<double>(f.width) * f.depth > 4096.0 * static_cast<double>(bytes)) return damaged(name);
    f.sample = f.bits / 8u;
    f.step = f.planar == PLANARCONFIG_CONTIG ? f.sample * f.channels : f.sample;
    return f;
}

// --- where the picture lies in the world ------------------------------------------------------------------------

// The values of a tag that libtiff has no name for; empty when it is missing or of another type.
template <class T>
std::vector<T> tagged(TIFF* t, uint32_t tag, TIFFDataType type) {
    const TIFFField* field = TIFFFindField(t, tag, TIFF_ANY);
    uint32_t count = 0;
    const T* values = nullptr;
    if (!field || TIFFFieldDataType(field) != type || !TIFFFieldPassCount(field) ||
        TIFFFieldReadCount(field) != TIFF_VARIABLE2 || TIFFGetField(t, tag, &count, &values) != 1 || !values)
        return {};
    return std::vector<T>(values, values + count);
}

constexpr uint32_t kPixelScale = 33550, kTiePoints = 33922, kTransformation = 34264, kKeys = 34735, kNoData = 42113;
constexpr int kModelType = 1024, kGeographic = 2, kLinearUnit = 3076, kVerticalUnit = 4099;

struct World {
    double cellX = 0, cellZ = 0, perValue = 1;  // metres
    std::optional<double> none;
    bool saysNone = false;
};

double metresOf(int unit) { return unit == 9002 ? kFoot : unit == 9003 ? kSurveyFoot : 1; }

World readWorld(TIFF* t, const Frame& f) {
    World w;
    int model = 0, linear = 0, vertical = 0;
    const std::vector<uint16_t> keys = tagged<uint16_t>(t, kKeys, TIFF_SHORT);
    for (size_t i = 4; i + 3 < keys.size(); i += 4) {
        if (keys[i + 1] != 0) continue;  // its value lies elsewhere
        if (keys[i] == kModelType) model = keys[i + 3];
        if (keys[i] == kLinearUnit) linear = keys[i + 3];
        if (keys[i] == kVerticalUnit) vertical = keys[i + 3];
    }
    double x = 0, z = 0, north = 0;
    const auto scale = tagged<double>(t, kPixelScale, TIFF_DOUBLE), ties = tagged<double>(t, kTiePoints, TIFF_DOUBLE),
               turned = tagged<double>(t, kTransformation, TIFF_DOUBLE);
    if (scale.size() >= 2) x = scale[0], z = scale[1], north = ties.size() >= 6 ? ties[4] + ties[1] * z : 0;
    else if (turned.size() >= 16)
        x = std::hypot(turned[0], turned[4]), z = std::hypot(turned[1], turned[5]), north = turned[7];
    if (model == kGeographic) {
        const double middle = std::clamp(north - z * f.depth / 2, -89.0, 89.0);
        x *= kMetresPerDegree * std::cos(middle * M_PI / 180), z *= kMetresPerDegree;
    } else {
        x *= metresOf(linear), z *= metresOf(linear);
    }
    if (x > 0 && z > 0 && x < 1e6 && z < 1e6) w.cellX = x, w.cellZ = z;
    w.perValue = metresOf(vertical);
    if (const std::vector<char> text = tagged<char>(t, kNoData, TIFF_ASCII); !text.empty()) {
        const char *from = text.data(), *end = from + strnlen(from, text.size());
        while (from < end && (*from == ' ' || *from == '+')) ++from;
        double v = 0;
        if (std::from_chars(from, end, v).ec == std::errc{}) w.none = v, w.saysNone = true;
    }
    return w;
}

// --- samples ------------------------------------------------------------------------------------------------------

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

Result<HeightField> decodeGreyTiff(const Bytes& bytes, const std::string& name) {
    TiffMemory memory{bytes, 0};
    const Tiff tiff = openTiff(memory, "rm");
    if (!tiff) return damaged(name);
    const Result<Frame> frame = readFrame(tiff.get(), name, bytes.size());
    if (!frame) return frame.error();
    const Frame& f = frame.value();
    const World world = readWorld(tiff.get(), f);
    HeightField out;
    out.values = Raster<float>(static_cast<int>(f.width), static_cast<int>(f.depth));
    out.metres = f.sign() || world.cellX > 0;
    const Read value = readerFor(f);
    const bool light = f.ink == PHOTOMETRIC_MINISWHITE && !f.sign();
    const auto nothing = [&](double v) {
        if (std::isnan(v)) return true;
        if (!world.saysNone) return f.sign() && meansNothing(v);
        return v == *world.none || static_cast<float>(v) == static_cast<float>(*world.none);
    };
    bool grey = true;
    const auto put = [&](int x, int z, const uint8_t* at) {
        const double v = value(at);
        out.values.at(x, z) = nothing(v)
                                  ? NAN
                                  : static_cast<float>((light ? f.most() - v : v) * (out.metres ? world.perValue : 1));
        // Colours that differ are no heights; an alpha channel may differ.
        for (uint16_t c = 1; f.planar == PLANARCONFIG_CONTIG && f.channels >= 3 && c < 3; ++c)
            grey &= std::memcmp(at, at + c * f.sample, f.sample) == 0;
    };
    if (!(TIFFIsTiled(tiff.get()) ? readTiles(tiff.get(), f, put) : readLines(tiff.get(), f, put)))
        return damaged(name);
    if (!grey)
        return Error{name, "channels", "it is a colour picture", "export the heightmap as grey, best with 16 bits"};
    const std::string bits = std::to_string(f.bits);
    out.format = f.real()   ? "TIFF, " + bits + "-bit float"
                 : f.sign() ? "TIFF, " + bits + " bits with a sign"
                            : "TIFF, " + bits + " bits";
    out.cellX = world.cellX;
    out.cellZ = world.cellZ;
    out.white = out.metres ? 0 : static_cast<float>(f.most());
    out.steps = f.real() || f.bits == 32 ? 0 : f.most() + 1;
    return out;
}

}  // namespace jam
