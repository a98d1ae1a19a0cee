// PNG pictures, 8 and 16 bits.
#pragma once

#include <string>

#include "files/disk.h"

namespace jam {

// Samples row by row, channels interleaved, always held in 16 bits; 8-bit pictures use 0..255.
struct Pixels {
    int width = 0, height = 0;
    int channels = 1;  // 1 grey, 2 grey + alpha, 3 RGB, 4 RGBA
    int bits = 8;      // 8 or 16: range of the samples
    std::vector<uint16_t> samples;

    uint16_t at(int x, int y, int channel = 0) const {
        return samples[(static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x)) *
                           static_cast<size_t>(channels) +
                       static_cast<size_t>(channel)];
    }
    int most() const { return bits == 16 ? 65535 : 255; }
};

// `name` is used in messages. Palettes and 1-4 bit greys are widened to 8 bits.
// Errors: not a PNG, damaged, truncated, or larger than maxSide along a side (tested before any memory is taken).
Result<Pixels> decodePng(const Bytes& bytes, const std::string& name, int maxSide);

// `effort` 0..9 as in zlib. Precondition: the samples fit width x height x channels.
Bytes encodePng(const Pixels& pixels, int effort = 3);

}  // namespace jam
