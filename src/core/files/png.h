// PNG pictures, 8 and 16 bits.
#pragma once

#include <functional>
#include <memory>
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
// Errors: not a PNG, damaged, truncated, larger than maxSide along a side, or than so short a file can hold (both
// tested before any memory is taken).
Result<Pixels> decodePng(const Bytes& bytes, const std::string& name, int maxSide);

// `effort` 0..9 as in zlib. Precondition: the samples fit width x height x channels. Throws std::bad_alloc when libpng
// finds no memory.
Bytes encodePng(const Pixels& pixels, int effort = 3);

// The same for pictures that need not be held whole: one row at a time, top to bottom.
struct PngShape {
    int width = 0, height = 0;
    int channels = 1;  // as in Pixels
    int bits = 8;
};

// `accept` sees the shape before any row and may refuse it; `row` then gets width x channels samples for each row.
// Interlaced pictures are held whole meanwhile. Errors: as decodePng(), and what `accept` says. After an error rows
// may have been told already.
Status readPngRows(const Bytes& bytes, const std::string& name, int maxSide,
                   const std::function<Status(const PngShape&)>& accept,
                   const std::function<void(int y, const uint16_t* samples)>& row);

// Writes a PNG to `sink` while its rows come in. Call finish() after the last row; without it the picture is damaged.
// What `sink` throws comes out of the call that it was made in. After trouble, rows do nothing.
class PngWriter {
public:
    using Sink = std::function<void(const uint8_t*, size_t)>;
    PngWriter(const PngShape& shape, Sink sink, int effort = 3);
    ~PngWriter();
    PngWriter(PngWriter&&) noexcept;
    PngWriter& operator=(PngWriter&&) = delete;

    void row(const uint16_t* samples);
    // Errors: libpng found no memory, now or at any row before.
    Status finish();

private:
    struct State;
    std::unique_ptr<State> state_;
};

}  // namespace jam
