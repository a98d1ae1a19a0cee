// libpng reports errors by longjmp; it is contained in a few functions below, whose frames own no objects with
// destructors between setjmp and the jump, and which call nobody but libpng.
#include "files/png.h"

#include <png.h>
#include <algorithm>
#include <csetjmp>
#include <cstring>
#include <exception>
#include <new>
#include <utility>

namespace jam {

namespace {

struct Source {
    const Bytes* bytes;
    size_t at;
};

void readSome(png_structp png, png_bytep to, png_size_t n) {
    auto* s = static_cast<Source*>(png_get_io_ptr(png));
    if (n > s->bytes->size() - s->at) png_error(png, "the file ends too early");
    std::memcpy(to, s->bytes->data() + s->at, n);
    s->at += n;
}

void keepMessage(png_structp png, png_const_charp message) {
    std::snprintf(static_cast<char*>(png_get_error_ptr(png)), 200, "%s", message);
    png_longjmp(png, 1);
}
void ignoreWarning(png_structp, png_const_charp) {}

enum class Outcome { good, damaged, refused };

// What reading works with; all of it outlives the jumps.
struct Reading {
    png_structp png = nullptr;
    png_infop info = nullptr;
    PngShape shape;
    size_t stride = 0;
    bool interlaced = false;
    Bytes raw;  // one row, or all of an interlaced picture
    std::vector<png_bytep> rows;
};

Outcome readHeader(Reading& r) {
    if (setjmp(png_jmpbuf(r.png))) return Outcome::damaged;
    png_read_info(r.png, r.info);
    r.shape.width = static_cast<int>(png_get_image_width(r.png, r.info));
    r.shape.height = static_cast<int>(png_get_image_height(r.png, r.info));
    r.interlaced = png_get_interlace_type(r.png, r.info) != PNG_INTERLACE_NONE;
    png_set_expand(r.png);
    png_set_interlace_handling(r.png);
    png_read_update_info(r.png, r.info);
    r.shape.bits = png_get_bit_depth(r.png, r.info) == 16 ? 16 : 8;
    r.shape.channels = png_get_channels(r.png, r.info);
    r.stride = png_get_rowbytes(r.png, r.info);
    return Outcome::good;
}

// Row y of a picture; all at once, the first time, when it is interlaced.
Outcome readRow(Reading& r, int y) {
    if (setjmp(png_jmpbuf(r.png))) return Outcome::damaged;
    if (!r.interlaced) png_read_row(r.png, r.raw.data(), nullptr);
    else if (y == 0) png_read_image(r.png, r.rows.data());
    return Outcome::good;
}

Outcome readEnd(Reading& r) {
    if (setjmp(png_jmpbuf(r.png))) return Outcome::damaged;
    png_read_end(r.png, nullptr);
    return Outcome::good;
}

void widen(const uint8_t* raw, int bits, size_t n, uint16_t* to) {
    if (bits == 8) std::copy_n(raw, n, to);
    else
        for (size_t i = 0; i < n; ++i) to[i] = static_cast<uint16_t>(raw[2 * i] << 8 | raw[2 * i + 1]);
}

Outcome readAll(Reading& r, const std::function<void(int, const uint16_t*)>& row) {
    const auto height = static_cast<size_t>(r.shape.height);
    r.raw.resize(r.stride * (r.interlaced ? height : 1));
    for (size_t y = 0; r.interlaced && y < height; ++y) r.rows.push_back(r.raw.data() + y * r.stride);
    const size_t n = static_cast<size_t>(r.shape.width) * static_cast<size_t>(r.shape.channels);
    std::vector<uint16_t> samples(n);
    for (size_t y = 0; y < height; ++y) {
        if (readRow(r, static_cast<int>(y)) != Outcome::good) return Outcome::damaged;
        widen(r.interlaced ? r.rows[y] : r.raw.data(), r.shape.bits, n, samples.data());
        row(static_cast<int>(y), samples.data());
    }
    return readEnd(r);
}

// What writing works with; all of it outlives the jumps.
struct Writing {
    PngShape shape;
    PngWriter::Sink sink;
    png_structp png = nullptr;
    png_infop info = nullptr;
    Bytes raw;
    bool good = true;
    std::exception_ptr thrown;  // by the sink

    // Whether the sink took it.
    bool give(const uint8_t* from, size_t n) noexcept {
        try {
            sink(from, n);
        } catch (...) {
            thrown = std::current_exception();
        }
        return !thrown;
    }
    // Notes how a call of libpng ended.
    void ended(Outcome outcome) {
        if (outcome != Outcome::good) good = false;
        if (thrown) std::rethrow_exception(std::exchange(thrown, nullptr));
    }
};

void giveToSink(png_structp png, png_bytep from, png_size_t n) {
    if (!static_cast<Writing*>(png_get_io_ptr(png))->give(from, n)) png_error(png, "the sink threw");
}
void flushNothing(png_structp) {}
void jumpBack(png_structp png, png_const_charp) { png_longjmp(png, 1); }

Outcome begin(Writing& w, int effort) {
    static constexpr int kTypes[] = {0, PNG_COLOR_TYPE_GRAY, PNG_COLOR_TYPE_GRAY_ALPHA, PNG_COLOR_TYPE_RGB,
                                     PNG_COLOR_TYPE_RGB_ALPHA};
    if (setjmp(png_jmpbuf(w.png))) return Outcome::damaged;
    png_set_write_fn(w.png, &w, giveToSink, flushNothing);
    png_set_compression_level(w.png, effort);
    if (effort <= 3) png_set_filter(w.png, 0, PNG_FILTER_UP);
    png_set_IHDR(w.png, w.info, static_cast<png_uint_32>(w.shape.width), static_cast<png_uint_32>(w.shape.height),
                 w.shape.bits, kTypes[w.shape.channels], PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT,
                 PNG_FILTER_TYPE_DEFAULT);
    png_write_info(w.png, w.info);
    return Outcome::good;
}

Outcome writeRow(Writing& w) {
    if (setjmp(png_jmpbuf(w.png))) return Outcome::damaged;
    png_write_row(w.png, w.raw.data());
    return Outcome::good;
}

Outcome writeEnd(Writing& w) {
    if (setjmp(png_jmpbuf(w.png))) return Outcome::damaged;
    png_write_end(w.png, nullptr);
    return Outcome::good;
}

// Deflate makes at most 1032 bytes of one (RFC 1951: 258 from two bits).
bool fits(const Reading& r, size_t bytes) {
    return r.stride * static_cast<uint64_t>(r.shape.height) <= 1032 * static_cast<uint64_t>(bytes);
}

Error tooLarge(const std::string& name, const PngShape& shape, int maxSide) {
    return {name, "size",
            "it is " + std::to_string(shape.width) + " x " + std::to_string(shape.height) + ", more than " +
                std::to_string(maxSide) + " along a side",
            "choose a smaller picture"};
}

}  // namespace

Status readPngRows(const Bytes& bytes, const std::string& name, int maxSide,
                   const std::function<Status(const PngShape&)>& accept,
                   const std::function<void(int y, const uint16_t* samples)>& row) {
    if (bytes.size() < 8 || png_sig_cmp(bytes.data(), 0, 8) != 0)
        return Error{name, "", "it is not a PNG picture", "choose a PNG file"};
    char message[200] = "";
    Reading r;
    r.png = png_create_read_struct(PNG_LIBPNG_VER_STRING, message, keepMessage, ignoreWarning);
    r.info = r.png ? png_create_info_struct(r.png) : nullptr;
    if (!r.info) {
        png_destroy_read_struct(&r.png, nullptr, nullptr);
        throw std::bad_alloc();
    }
    png_set_user_limits(r.png, 1u << 20, 1u << 20);
    Source source{&bytes, 0};
    png_set_read_fn(r.png, &source, readSome);
    Status refused;
    Outcome outcome = readHeader(r);
    if (outcome == Outcome::good) {
        if (r.shape.width > maxSide || r.shape.height > maxSide) refused = tooLarge(name, r.shape, maxSide);
        else if (!fits(r, bytes.size()))
            refused = Error{name, "size",
                            "its header promises " + std::to_string(r.shape.width) + " x " +
                                std::to_string(r.shape.height) + ", more than the file can hold",
                            "the file is damaged; export it again"};
        else refused = accept(r.shape);
        outcome = refused ? readAll(r, row) : Outcome::refused;
    }
    png_destroy_read_struct(&r.png, &r.info, nullptr);
    if (outcome == Outcome::refused) return refused;
    if (outcome == Outcome::damaged)
        return Error{name, "", std::string("the picture is damaged (") + message + ")", "export it again"};
    return {};
}

Result<Pixels> decodePng(const Bytes& bytes, const std::string& name, int maxSide) {
    Pixels p;
    size_t perRow = 0;
    const Status read = readPngRows(
        bytes, name, maxSide,
        [&](const PngShape& s) -> Status {
            perRow = static_cast<size_t>(s.width) * static_cast<size_t>(s.channels);
            p = {s.width, s.height, s.channels, s.bits, std::vector<uint16_t>(perRow * static_cast<size_t>(s.height))};
            return {};
        },
        [&](int y, const uint16_t* row) {
            std::copy_n(row, perRow, p.samples.begin() + static_cast<ptrdiff_t>(static_cast<size_t>(y) * perRow));
        });
    if (!read) return read.error();
    return p;
}

struct PngWriter::State : Writing {
    ~State() { png_destroy_write_struct(&png, &info); }
};

PngWriter::PngWriter(const PngShape& shape, Sink sink, int effort) : state_(std::make_unique<State>()) {
    State& s = *state_;
    s.shape = shape;
    s.sink = std::move(sink);
    s.raw.resize(static_cast<size_t>(shape.width) * static_cast<size_t>(shape.channels) * (shape.bits == 16 ? 2 : 1));
    s.png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, jumpBack, ignoreWarning);
    s.info = s.png ? png_create_info_struct(s.png) : nullptr;
    if (s.info) s.ended(begin(s, effort));
    else s.good = false;
}

PngWriter::PngWriter(PngWriter&&) noexcept = default;

PngWriter::~PngWriter() = default;

void PngWriter::row(const uint16_t* samples) {
    State& s = *state_;
    if (!s.good) return;
    const size_t n = static_cast<size_t>(s.shape.width) * static_cast<size_t>(s.shape.channels);
    for (size_t i = 0; i < n; ++i) {
        if (s.shape.bits == 16) {
            s.raw[2 * i] = static_cast<uint8_t>(samples[i] >> 8);
            s.raw[2 * i + 1] = static_cast<uint8_t>(samples[i]);
        } else {
            s.raw[i] = static_cast<uint8_t>(samples[i]);
        }
    }
    s.ended(writeRow(s));
}

Status PngWriter::finish() {
    State& s = *state_;
    if (s.good) s.ended(writeEnd(s));
    if (s.good) return {};
    return Error{"", "picture", "it could not be encoded", "free some memory"};
}

Bytes encodePng(const Pixels& p, int effort) {
    const size_t perRow = static_cast<size_t>(p.width) * static_cast<size_t>(p.channels);
    assert(p.samples.size() == perRow * static_cast<size_t>(p.height));
    Bytes out;
    PngWriter writer(
        {p.width, p.height, p.channels, p.bits},
        [&out](const uint8_t* from, size_t n) { out.insert(out.end(), from, from + n); }, effort);
    for (int y = 0; y < p.height; ++y) writer.row(p.samples.data() + static_cast<size_t>(y) * perRow);
    if (!writer.finish()) throw std::bad_alloc();
    return out;
}

}  // namespace jam
