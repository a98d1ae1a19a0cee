#include "files/heightmap.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "base/text.h"
#include "files/exr.h"
#include "files/grey_tiff.h"
#include "level/ground.h"
#include "shape/whole.h"

namespace jam {

namespace {

bool startsWith(const Bytes& b, std::initializer_list<uint8_t> magic) {
    return b.size() >= magic.size() && std::equal(magic.begin(), magic.end(), b.begin());
}
bool isPng(const Bytes& b) { return startsWith(b, {0x89, 'P', 'N', 'G'}); }
bool isTiff(const Bytes& b) {
    return startsWith(b, {'I', 'I', 42, 0}) || startsWith(b, {'M', 'M', 0, 42}) || startsWith(b, {'I', 'I', 43, 0}) ||
           startsWith(b, {'M', 'M', 0, 43});
}
bool isExr(const Bytes& b) { return startsWith(b, {0x76, 0x2f, 0x31, 0x01}); }

bool isAscii(const Bytes& b) {
    std::string head(b.begin(), b.begin() + static_cast<long>(std::min<size_t>(b.size(), 64)));
    std::transform(head.begin(), head.end(), head.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    const size_t at = head.find_first_not_of(" \t\r\n");
    return at != std::string::npos && (head.compare(at, 5, "ncols") == 0 || head.compare(at, 5, "nrows") == 0);
}

Status checkSize(const std::string& name, long long width, long long depth) {
    if (width >= kMinSamples && depth >= kMinSamples && width <= kMostFieldSamples && depth <= kMostFieldSamples)
        return {};
    return Error{name, "size", "it is " + std::to_string(width) + " x " + std::to_string(depth),
                 "use " + std::to_string(kMinSamples) + " to " + std::to_string(kMostFieldSamples) + " samples a side"};
}

// Least and greatest value; an error when one is not a number.
Status span(HeightField& f) {
    f.low = f.high = f.values.at(0, 0);
    for (int z = 0; z < f.depth(); ++z)
        for (int x = 0; x < f.width(); ++x) {
            const float v = f.values.at(x, z);
            if (!std::isfinite(v))
                return Error{
                    f.name, "heights",
                    "there is one that is not a number at column " + std::to_string(x) + ", row " + std::to_string(z),
                    "repair it where it was made"};
            f.low = std::min(f.low, v), f.high = std::max(f.high, v);
        }
    return {};
}

Result<HeightField> fromPng(const Bytes& bytes, const std::string& name) {
    Result<Pixels> decoded = decodePng(bytes, name, kMostFieldSamples);
    if (!decoded) return decoded.error();
    const Pixels& p = decoded.value();
    if (Status s = checkSize(name, p.width, p.height); !s) return s.error();
    HeightField f;
    f.values = Raster<float>(p.width, p.height);
    const auto channels = static_cast<size_t>(p.channels);
    for (int z = 0; z < p.height; ++z)
        for (int x = 0; x < p.width; ++x) {
            const uint16_t* s = p.samples.data() +
                                (static_cast<size_t>(z) * static_cast<size_t>(p.width) + static_cast<size_t>(x)) *
                                    channels;
            if (channels >= 3 && (s[0] != s[1] || s[0] != s[2]))
                return Error{name, "channels", "it is a colour picture",
                             "export the heightmap as grey, best with 16 bits"};
            f.values.at(x, z) = s[0];
        }
    f.format = "PNG, " + std::to_string(p.bits) + " bits";
    f.white = static_cast<float>(p.most());
    f.steps = p.most() + 1;
    return f;
}

Result<HeightField> fromTiff(const Bytes& bytes, const std::string& name) {
    Result<GreyTiff> decoded = decodeGreyTiff(bytes, name, kMostFieldSamples);
    if (!decoded) return decoded.error();
    GreyTiff t = decoded.take();
    if (Status s = checkSize(name, t.values.width(), t.values.depth()); !s) return s.error();
    HeightField f;
    f.values = std::move(t.values);
    f.format = t.bits == 32 ? "TIFF, 32-bit float" : "TIFF, " + std::to_string(t.bits) + " bits";
    f.metres = t.bits == 32;
    f.white = t.bits == 32 ? 0 : static_cast<float>((1 << t.bits) - 1);
    f.steps = t.bits == 32 ? 0 : 1 << t.bits;
    return f;
}

Result<HeightField> fromExr(const Bytes& bytes, const std::string& name) {
    Result<Raster<float>> decoded = decodeExr(bytes, name, kMostFieldSamples);
    if (!decoded) return decoded.error();
    HeightField f;
    f.values = decoded.take();
    if (Status s = checkSize(name, f.width(), f.depth()); !s) return s.error();
    f.format = "OpenEXR";
    f.metres = true;
    return f;
}

// One word or number after another.
class Words {
public:
    explicit Words(const Bytes& bytes) : at_(reinterpret_cast<const char*>(bytes.data())), end_(at_ + bytes.size()) {}
    std::string_view next() {
        while (at_ < end_ && std::isspace(static_cast<unsigned char>(*at_))) ++at_;
        const char* from = at_;
        while (at_ < end_ && !std::isspace(static_cast<unsigned char>(*at_))) ++at_;
        return {from, static_cast<size_t>(at_ - from)};
    }
    bool nextIsWord() {
        while (at_ < end_ && std::isspace(static_cast<unsigned char>(*at_))) ++at_;
        return at_ < end_ && std::isalpha(static_cast<unsigned char>(*at_));
    }

private:
    const char *at_, *end_;
};

std::optional<double> numberIn(std::string_view word) {
    if (word.empty() || word.size() > 60) return std::nullopt;
    char text[64] = {};
    std::memcpy(text, word.data(), word.size());
    char* end = nullptr;
    const double v = std::strtod(text, &end);
    if (end != text + word.size()) return std::nullopt;
    return v;
}

Result<HeightField> fromAscii(const Bytes& bytes, const std::string& name) {
    Words words(bytes);
    double columns = 0, rows = 0, cell = 0;
    std::optional<double> none;
    while (words.nextIsWord()) {
        std::string key(words.next());
        std::transform(key.begin(), key.end(), key.begin(),
                       [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        const std::optional<double> value = numberIn(words.next());
        if (!value) return Error{name, key, "it is not a number", "write a number after it"};
        if (key == "ncols") columns = *value;
        else if (key == "nrows") rows = *value;
        else if (key == "cellsize") cell = *value;
        else if (key == "nodata_value") none = *value;
        else if (key != "xllcorner" && key != "yllcorner" && key != "xllcenter" && key != "yllcenter")
            return Error{name, key, "this line is not known",
                         "write ncols, nrows, xllcorner, yllcorner, cellsize and nodata_value"};
    }
    if (!(columns == std::floor(columns) && rows == std::floor(rows)))
        return Error{name, "ncols", "sizes are not whole numbers", "write whole numbers"};
    if (Status s = checkSize(name, static_cast<long long>(std::clamp(columns, -1e9, 1e9)),
                             static_cast<long long>(std::clamp(rows, -1e9, 1e9)));
        !s)
        return s.error();
    if (!(cell > 0 && cell < 1e6))
        return Error{name, "cellsize", "it is " + number(cell), "write the metres between samples"};
    // Each height takes at least two bytes, so a file that is too short is known before memory is taken.
    if (columns * rows * 2 > static_cast<double>(bytes.size()) + 2)
        return Error{name, "heights", "there are fewer than " + number(columns * rows),
                     "the file is cut off; copy it again"};
    HeightField f;
    f.values = Raster<float>(static_cast<int>(columns), static_cast<int>(rows));
    std::vector<std::pair<int, int>> holes;
    float low = 0;
    bool any = false;
    for (int z = 0; z < f.depth(); ++z)
        for (int x = 0; x < f.width(); ++x) {
            const std::string_view word = words.next();
            const std::optional<double> v = numberIn(word);
            if (!v || !std::isfinite(*v) || std::abs(*v) > 1e30)
                return Error{name, "heights",
                             word.empty() ? "they end in row " + std::to_string(z)
                                          : "\"" + std::string(word.substr(0, 20)) + "\" in row " + std::to_string(z) +
                                                " is not a number",
                             "repair that row"};
            f.values.at(x, z) = static_cast<float>(*v);
            if (none && *v == *none) holes.emplace_back(x, z);
            else low = any ? std::min(low, f.values.at(x, z)) : f.values.at(x, z), any = true;
        }
    for (const auto& [x, z] : holes) f.values.at(x, z) = low;
    f.holes = static_cast<int>(holes.size());
    f.format = "ASCII grid";
    f.metres = true;
    f.cell = cell;
    return f;
}

float rawValue(const uint8_t* p, const RawLayout& l) {
    if (l.sample == RawSample::u8) return *p;
    if (l.sample == RawSample::u16) return static_cast<float>(l.bigEndian ? p[0] << 8 | p[1] : p[1] << 8 | p[0]);
    uint32_t v = 0;
    for (int i = 0; i < 4; ++i) v |= static_cast<uint32_t>(p[i]) << (l.bigEndian ? 24 - 8 * i : 8 * i);
    return std::bit_cast<float>(v);
}

Result<HeightField> fromRaw(const Bytes& bytes, const std::string& name, const RawLayout& l) {
    if (Status s = checkSize(name, l.width, l.depth); !s) return s.error();
    if (l.offset > bytes.size() || l.bytes() > bytes.size())
        return Error{name, "size",
                     std::to_string(l.width) + " x " + std::to_string(l.depth) + " samples need " +
                         std::to_string(l.bytes()) + " bytes and the file has " + std::to_string(bytes.size()),
                     "correct the width, the kind of sample or the header"};
    HeightField f;
    f.values = Raster<float>(l.width, l.depth);
    const uint8_t* at = bytes.data() + l.offset;
    for (int z = 0; z < l.depth; ++z)
        for (int x = 0; x < l.width; ++x, at += l.sampleBytes()) {
            const float v = rawValue(at, l);
            // A wrong byte order of floats gives anything; the preview shows it as static.
            f.values.at(x, z) = std::isfinite(v) && std::abs(v) < 1e9f ? v : 0.f;
        }
    const char* kinds[] = {"8 bits", "16 bits", "32-bit float"};
    f.format = std::string("raw, ") + kinds[static_cast<size_t>(l.sample)];
    f.metres = l.sample == RawSample::f32;
    f.white = l.sample == RawSample::u8 ? 255.f : l.sample == RawSample::u16 ? 65535.f : 0.f;
    f.steps = l.sample == RawSample::u8 ? 256 : l.sample == RawSample::u16 ? 65536 : 0;
    return f;
}

}  // namespace

bool looksRaw(const Bytes& b) { return !isPng(b) && !isTiff(b) && !isExr(b) && !isAscii(b); }

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
            low = std::min(low, v.at(x, z)), high = std::max(high, v.at(x, z));
            if (x + 1 < v.width) sum += std::abs(static_cast<double>(v.at(x + 1, z)) - v.at(x, z)), ++count;
        }
    return high > low && count > 0 ? sum / count / (static_cast<double>(high) - low) : 0;
}

Result<RawLayout> guessRaw(const Bytes& bytes, const std::string& name) {
    struct Candidate {
        RawLayout layout;
        double score;
    };
    std::optional<Candidate> best;
    const auto consider = [&](RawLayout l, double penalty) {
        for (const bool big : {false, true}) {
            if (big && l.sample == RawSample::u8) continue;
            l.bigEndian = big;
            const Result<HeightField> f = fromRaw(bytes, name, l);
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
    for (const RawSample sample : {RawSample::u16, RawSample::f32, RawSample::u8}) {
        RawLayout l;
        l.sample = sample;
        const size_t size = l.sampleBytes();
        const double kindPenalty = sample == RawSample::u8 ? 0.02 : 0;
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
    if (!best)
        return Error{name, "size", "its " + std::to_string(bytes.size()) + " bytes fit no raster that was tried",
                     "give width, depth, kind of sample and header yourself"};
    return best->layout;
}

Result<HeightField> decodeHeightField(const Bytes& bytes, const std::string& name,
                                      const std::optional<RawLayout>& layout) {
    Result<HeightField> read =
        layout           ? fromRaw(bytes, name, *layout)
        : isPng(bytes)   ? fromPng(bytes, name)
        : isTiff(bytes)  ? fromTiff(bytes, name)
        : isExr(bytes)   ? fromExr(bytes, name)
        : isAscii(bytes) ? fromAscii(bytes, name)
                         : Result<HeightField>(Error{name, "format", "it is not a PNG, TIFF, OpenEXR or ASCII grid",
                                                     "open it as raw, with its width, depth and kind of sample"});
    if (!read) return read;
    HeightField& f = read.value();
    f.name = name;
    if (Status s = span(f); !s) return s.error();
    if (f.white <= f.black) f.black = f.low, f.white = f.high;
    return read;
}

Result<HeightField> readHeightField(const std::filesystem::path& path, const std::optional<RawLayout>& layout) {
    Result<Bytes> bytes = readFile(path, 2048u << 20);
    if (!bytes) return bytes.error();
    return decodeHeightField(bytes.value(), path.string(), layout);
}

}  // namespace jam
