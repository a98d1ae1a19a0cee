// Heights as bare bytes, without a header that says how they lie.
#pragma once

#include <filesystem>

#include "base/context.h"
#include "files/disk.h"
#include "files/height_field.h"

namespace jam {

enum class RawSample { u8, u16, f32, i8, i16, u32, i32, f64 };
constexpr int kRawSamples = 8;
// Words for files and the command line, and for people.
std::string_view rawWord(RawSample sample);
const char* rawTitle(RawSample sample);

// How the samples of a raw file lie.
struct RawLayout {
    int width = 0, depth = 0;  // samples, [kMinSamples, kMostFieldSamples]
    RawSample sample = RawSample::u16;
    bool bigEndian = false;
    size_t offset = 0;  // bytes before the first sample

    size_t sampleBytes() const;
    size_t bytes() const { return offset + static_cast<size_t>(width) * static_cast<size_t>(depth) * sampleBytes(); }
    bool operator==(const RawLayout&) const = default;
};

// Samples with a sign and floats are metres. Without a value are, in those, NaN and what meansNothing()
// (height_field.h); they come as NaN. Errors: sizes out of range, or more samples than the file has.
Result<HeightField> decodeRaw(const Bytes& bytes, const std::string& name, const RawLayout& layout);

// True when the file's ending says that it is raw: .raw, .r8, .r16, .r32, .bin, .hgt.
bool namedRaw(const std::filesystem::path& path);

// A likely layout of a raw file: 16-bit big-endian square tiles of 1201 or 3601 a side, in which elevation data are
// handed round; otherwise sizes that fill it exactly, square before oblong, without a header before with one; of the
// byte orders, and with or without a sign, the smoother. 32-bit whole numbers and 64-bit floats are not guessed.
// Errors: no layout fits; cancelled.
Result<RawLayout> guessRaw(const Bytes& bytes, const std::string& name, const Context& context = {});
// Mean difference between neighbours as a share of the range, [0, 1]: real ground has some hundredths, static about a
// third. Holes do not count.
double staticness(View<const float> values);
constexpr double kStatic = 0.2;

}  // namespace jam
