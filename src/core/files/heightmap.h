// Heightmaps, whatever format they come in; files/field_level.h makes levels of them.
#pragma once

#include <filesystem>
#include <optional>

#include "files/png.h"
#include "level/level.h"

namespace jam {

enum class RawSample { u8, u16, f32 };
constexpr int kRawSamples = 3;

// How the samples of a raw file lie: no header that says so, only bytes.
struct RawLayout {
    int width = 0, depth = 0;  // samples, [kMinSamples, kMostFieldSamples]
    RawSample sample = RawSample::u16;
    bool bigEndian = false;
    size_t offset = 0;  // bytes before the first sample

    size_t sampleBytes() const { return sample == RawSample::u8 ? 1 : sample == RawSample::u16 ? 2 : 4; }
    size_t bytes() const { return offset + static_cast<size_t>(width) * static_cast<size_t>(depth) * sampleBytes(); }
    bool operator==(const RawLayout&) const = default;
};

constexpr int kMostFieldSamples = 16385;  // along a side of a heightmap; levels take kMaxSamples

// Heights as they were read, before they mean metres.
struct HeightField {
    std::string name;    // file name
    std::string format;  // "PNG, 16 bits", for people
    Raster<float> values;
    float low = 0, high = 0;     // least and greatest value
    float black = 0, white = 0;  // values that the format's ends stand for: 0 and 255 or 65535; low and high for floats
    bool metres = false;         // the format says so: ASCII grids, and float pictures by custom
    double cell = 0;             // metres between samples when the format says so, else 0
    double steps = 0;            // how many different values it may have, 0 for floats
    int holes = 0;               // samples without a value; they were set to `low`

    int width() const { return values.width(); }
    int depth() const { return values.depth(); }
};

// Reads PNG 8/16, TIFF with 8, 16 or 32-bit float samples, OpenEXR (Y, Z, or the first channel) or ASCII grid, told
// apart by their first bytes; anything else is raw and needs `layout`. Errors: unreadable, damaged, coloured, sizes out
// of range, values that are not finite, or raw without a layout.
Result<HeightField> readHeightField(const std::filesystem::path& path, const std::optional<RawLayout>& layout = {});
Result<HeightField> decodeHeightField(const Bytes& bytes, const std::string& name,
                                      const std::optional<RawLayout>& layout = {});
// True when the file's first bytes belong to none of the formats that describe themselves.
bool looksRaw(const Bytes& bytes);
// True when the file's ending says that it is raw: .raw, .r8, .r16, .r32, .bin, .hgt.
bool namedRaw(const std::filesystem::path& path);

// A likely layout of a raw file: sizes that fill it exactly, square before oblong, without a header before with one; of
// the byte orders the smoother. Errors: no layout fits.
Result<RawLayout> guessRaw(const Bytes& bytes, const std::string& name);
// Mean difference between neighbours as a share of the range, [0, 1]: real ground has some hundredths, static about a
// third.
double staticness(View<const float> values);
constexpr double kStatic = 0.2;

}  // namespace jam
