#include "files/heightmap.h"

#include <algorithm>
#include <cmath>

#include "files/ascii_grid.h"
#include "files/exr.h"
#include "files/grey_tiff.h"

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
    if (Status s = checkFieldSize(name, p.width, p.height); !s) return s.error();
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

Result<HeightField> fromExr(const Bytes& bytes, const std::string& name) {
    Result<Raster<float>> decoded = decodeExr(bytes, name, kMostFieldSamples);
    if (!decoded) return decoded.error();
    HeightField f;
    f.values = decoded.take();
    if (Status s = checkFieldSize(name, f.width(), f.depth()); !s) return s.error();
    f.format = "OpenEXR";
    f.metres = true;
    return f;
}

}  // namespace

bool looksRaw(const Bytes& b) { return !isPng(b) && !isTiff(b) && !isExr(b) && !isAsciiGrid(b); }

Result<HeightField> decodeHeightField(const Bytes& bytes, const std::string& name,
                                      const std::optional<RawLayout>& layout) {
    Result<HeightField> read =
        layout               ? decodeRaw(bytes, name, *layout)
        : isPng(bytes)       ? fromPng(bytes, name)
        : isTiff(bytes)      ? decodeGreyTiff(bytes, name)
        : isExr(bytes)       ? fromExr(bytes, name)
        : isAsciiGrid(bytes) ? decodeAsciiGrid(bytes, name)
                             : Result<HeightField>(Error{name, "format", "it is not a PNG, TIFF, OpenEXR or ASCII grid",
                                                         "open it as raw, with its width, depth and kind of sample"});
    if (!read) return read;
    HeightField& f = read.value();
    f.name = name;
    f.holes = fillHoles(f.values);
    if (f.holes == static_cast<long long>(f.width()) * f.depth())
        return Error{name, "heights", "no sample has a value", "use a file that covers your ground"};
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
