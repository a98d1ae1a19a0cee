#include "files/raw_field.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <optional>

namespace jam {

namespace {

struct Kind {
    std::string_view word;
    const char* title;
    size_t bytes;
    bool sign;     // has one, and so is metres
    double white;  // that the greatest value stands for, where there is no sign
    double steps;
};
constexpr std::array<Kind, kRawSamples> kKinds = {{{"u8", "8 bits", 1, false, 255, 256},
                                                   {"u16", "16 bits", 2, false, 65535, 65536},
                                                   {"f32", "32-bit float", 4, true, 0, 0},
                                                   {"i8", "8 bits with a sign", 1, true, 0, 256},
                                                   {"i16", "16 bits with a sign", 2, true, 0, 65536},
                                                   {"u32", "32 bits", 4, false, 4294967295.0, 0},
                                                   {"i32", "32 bits with a sign", 4, true, 0, 0},
                                                   {"f64", "64-bit float", 8, true, 0, 0}}};
const Kind& kindOf(RawSample sample) { return kKinds[static_cast<size_t>(sample)]; }
bool isFloat(RawSample sample) { return sample == RawSample::f32 || sample == RawSample::f64; }

double rawValue(const uint8_t* p, const RawLayout& l) {
    const size_t n = l.sampleBytes();
    uint64_t v = 0;
    for (size_t i = 0; i < n; ++i) v |= static_cast<uint64_t>(p[i]) << 8 * (l.bigEndian ? n - 1 - i : i);
    switch (l.sample) {
        case RawSample::u8:
        case RawSample::u16:
        case RawSample::u32: return static_cast<double>(v);
        case RawSample::i8: return static_cast<int8_t>(v);
        case RawSample::i16: return static_cast<int16_t>(v);
        case RawSample::i32: return static_cast<int32_t>(v);
        case RawSample::f32: return static_cast<double>(std::bit_cast<float>(static_cast<uint32_t>(v)));
        case RawSample::f64: return std::bit_cast<double>(v);
    }
    return 0;
}

}  // namespace

std::string_view rawWord(RawSample sample) { return kindOf(sample).word; }
const char* rawTitle(RawSample sample) { return kindOf(sample).title; }
size_t RawLayout::sampleBytes() const { return kindOf(sample).bytes; }

Result<HeightField> decodeRaw(const Bytes& bytes, const std::string& name, const RawLayout& l) {
    if (Status s = checkFieldSize(name, l.width, l.depth); !s) return s.error();
    if (l.offset > bytes.size() || l.bytes() > bytes.size())
        return Error{name, "size",
                     std::to_string(l.width) + " x " + std::to_string(l.depth) + " samples need " +
                         std::to_string(l.bytes()) + " bytes and the file has " + std::to_string(bytes.size()),
                     "correct the width, the kind of sample or the header"};
    const Kind& kind = kindOf(l.sample);
    HeightField f;
    f.values = Raster<float>(l.width, l.depth);
    const uint8_t* at = bytes.data() + l.offset;
    for (int z = 0; z < l.depth; ++z)
        for (int x = 0; x < l.width; ++x, at += kind.bytes) {
            const double v = rawValue(at, l);
            // A wrong byte order of floats gives anything; the preview shows it as static.
            const bool wild = isFloat(l.sample) && !(std::abs(v) < 1e9);
            f.values.at(x, z) = kind.sign && (std::isnan(v) || meansNothing(v)) ? NAN
                                : wild                                          ? 0.f
                                                                                : static_cast<float>(v);
        }
    f.format = std::string("raw, ") + kind.title;
    f.metres = kind.sign;
    f.white = static_cast<float>(kind.white);
    f.steps = kind.steps;
    return f;
}

bool namedRaw(const std::filesystem::path& path) {
    std::string e = path.extension().string();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    for (const char* raw : {".raw", ".r8", ".r16", ".r32", ".bin", ".hgt"})
        if (e == raw) return true;
    return false;
}

double staticness(View<const float> v) {
    double sum = 0, count = 0;
    float low = 1e30f, high = -1e30f;
    const int every = std::max(1, v.depth / 400);
    for (int z = 0; z < v.depth; z += every)
        for (int x = 0; x < v.width; ++x) {
            const float h = v.at(x, z);
            if (std::isnan(h)) continue;
            low = std::min(low, h), high = std::max(high, h);
            if (x + 1 < v.width && !std::isnan(v.at(x + 1, z)))
                sum += std::abs(static_cast<double>(v.at(x + 1, z)) - h), ++count;
        }
    return high > low && count > 0 ? sum / count / (static_cast<double>(high) - low) : 0;
}

Result<RawLayout> guessRaw(const Bytes& bytes, const std::string& name, const Context& context) {
    struct Candidate {
        RawLayout layout;
        double score;
    };
    // Tiles in which elevation data are handed round have one of two sides.
    for (const int side : {1201, 3601})
        if (bytes.size() == static_cast<size_t>(side) * static_cast<size_t>(side) * 2)
            if (const RawLayout l{side, side, RawSample::i16, true, 0};
                staticness(decodeRaw(bytes, name, l).value().values.view()) < kStatic)
                return l;
    std::optional<Candidate> best;
    const auto consider = [&](RawLayout l, double penalty) {
        for (const bool big : {false, true}) {
            if ((big && l.sample == RawSample::u8) || context.cancelled()) continue;
            l.bigEndian = big;
            const Result<HeightField> f = decodeRaw(bytes, name, l);
            if (!f) continue;
            // Rows that do not meet show as differences downwards.
            const HeightField& h = f.value();
            Raster<float> turned(h.depth(), std::min(h.width(), 200));
            for (int x = 0; x < turned.depth(); ++x)
                for (int z = 0; z < h.depth(); ++z) turned.at(z, x) = h.values.at(x * h.width() / turned.depth(), z);
            double score = staticness(h.values.view()) + staticness(turned.view()) + penalty;
            // Floats of real ground are no larger than mountains.
            if (l.sample == RawSample::f32)
                for (int i = 0; i < 64; ++i)
                    if (const float v = std::abs(h.values.at(h.width() * i / 64, h.depth() * i / 64));
                        v > 20000 || (v > 0 && v < 1e-6f))
                        score += 0.05;
            if (!best || score < best->score) best = Candidate{l, score};
        }
    };
    for (const RawSample sample : {RawSample::u16, RawSample::i16, RawSample::f32, RawSample::u8}) {
        RawLayout l;
        l.sample = sample;
        const size_t size = l.sampleBytes();
        const double kindPenalty = sample == RawSample::u8 ? 0.02 : sample == RawSample::i16 ? 0.005 : 0;
        const auto square = static_cast<size_t>(std::sqrt(static_cast<double>(bytes.size() / size)));
        for (size_t side = square + 1; side + 2 > square && side >= 2; --side) {
            const size_t need = side * side * size;
            if (need > bytes.size() || bytes.size() - need > 4096) continue;
            l.width = l.depth = static_cast<int>(side);
            l.offset = bytes.size() - need;
            consider(l, kindPenalty + (l.offset ? 0.02 : 0));
        }
        // Oblong, without a header: widths that divide the file, up to four times as wide as deep or the other way.
        l.offset = 0;
        if (bytes.size() % size == 0) {
            const size_t samples = bytes.size() / size;
            int tried = 0;
            for (size_t width = square / 2; width <= square * 2 + 2 && tried < 40; ++width)
                if (width >= 2 && samples % width == 0 && samples / width != width) {
                    l.width = static_cast<int>(std::min<size_t>(width, 1u << 20)),
                    l.depth = static_cast<int>(std::min<size_t>(samples / width, 1u << 20));
                    consider(l, kindPenalty + 0.015), ++tried;
                }
        }
    }
    if (context.cancelled()) return cancelledError();
    if (!best)
        return Error{name, "size", "its " + std::to_string(bytes.size()) + " bytes fit no raster that was tried",
                     "give width, depth, kind of sample and header yourself"};
    return best->layout;
}

}  // namespace jam
