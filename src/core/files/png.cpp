// libpng reports errors by longjmp; it is contained in the two functions below, whose frames own no objects
// with destructors between setjmp and the jump.
#include "files/png.h"

#include <png.h>
#include <csetjmp>
#include <cstring>

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

enum class Outcome { good, damaged, tooLarge };

// Reads the header, then calls for the rows. `pixels` and `rows` outlive the jump.
Outcome decode(png_structp png, png_infop info, int maxSide, Pixels& pixels, Bytes& raw, std::vector<png_bytep>& rows) {
    if (setjmp(png_jmpbuf(png))) return Outcome::damaged;
    png_read_info(png, info);
    const auto width = png_get_image_width(png, info), height = png_get_image_height(png, info);
    pixels.width = static_cast<int>(width);
    pixels.height = static_cast<int>(height);
    if (width > static_cast<png_uint_32>(maxSide) || height > static_cast<png_uint_32>(maxSide))
        return Outcome::tooLarge;
    png_set_expand(png);
    png_set_interlace_handling(png);
    png_read_update_info(png, info);
    pixels.bits = png_get_bit_depth(png, info) == 16 ? 16 : 8;
    pixels.channels = png_get_channels(png, info);
    const size_t stride = png_get_rowbytes(png, info);
    raw.resize(stride * height);
    rows.resize(height);
    for (size_t i = 0; i < height; ++i) rows[i] = raw.data() + i * stride;
    png_read_image(png, rows.data());
    png_read_end(png, nullptr);
    return Outcome::good;
}

void appendSome(png_structp png, png_bytep from, png_size_t n) {
    auto* out = static_cast<Bytes*>(png_get_io_ptr(png));
    out->insert(out->end(), from, from + n);
}
void flushNothing(png_structp) {}

}  // namespace

Result<Pixels> decodePng(const Bytes& bytes, const std::string& name, int maxSide) {
    if (bytes.size() < 8 || png_sig_cmp(bytes.data(), 0, 8) != 0)
        return Error{name, "", "it is not a PNG picture", "choose a PNG file"};
    char message[200] = "";
    png_structp png = png_create_read_struct(PNG_LIBPNG_VER_STRING, message, keepMessage, ignoreWarning);
    png_infop info = png_create_info_struct(png);
    png_set_user_limits(png, 1u << 20, 1u << 20);
    Source source{&bytes, 0};
    png_set_read_fn(png, &source, readSome);
    Pixels pixels;
    Bytes raw;
    std::vector<png_bytep> rows;
    const Outcome outcome = decode(png, info, maxSide, pixels, raw, rows);
    png_destroy_read_struct(&png, &info, nullptr);
    if (outcome == Outcome::tooLarge)
        return Error{name, "size",
                     "it is " + std::to_string(pixels.width) + " x " + std::to_string(pixels.height) + ", more than " +
                         std::to_string(maxSide) + " along a side",
                     "choose a smaller picture"};
    if (outcome == Outcome::damaged)
        return Error{name, "", std::string("the picture is damaged (") + message + ")", "export it again"};
    const size_t n = static_cast<size_t>(pixels.width) * static_cast<size_t>(pixels.height) *
                     static_cast<size_t>(pixels.channels);
    pixels.samples.resize(n);
    if (pixels.bits == 8)
        for (size_t i = 0; i < n; ++i) pixels.samples[i] = raw[i];
    else
        for (size_t i = 0; i < n; ++i) pixels.samples[i] = static_cast<uint16_t>(raw[2 * i] << 8 | raw[2 * i + 1]);
    return pixels;
}

Bytes encodePng(const Pixels& p, int effort) {
    static constexpr int kTypes[] = {0, PNG_COLOR_TYPE_GRAY, PNG_COLOR_TYPE_GRAY_ALPHA, PNG_COLOR_TYPE_RGB,
                                     PNG_COLOR_TYPE_RGB_ALPHA};
    const size_t perRow = static_cast<size_t>(p.width) * static_cast<size_t>(p.channels);
    assert(p.samples.size() == perRow * static_cast<size_t>(p.height));
    Bytes out, row(perRow * (p.bits == 16 ? 2 : 1));
    char message[200] = "";
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, message, keepMessage, ignoreWarning);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(png, &out, appendSome, flushNothing);
    png_set_compression_level(png, effort);
    if (effort <= 3) png_set_filter(png, 0, PNG_FILTER_UP);
    png_set_IHDR(png, info, static_cast<png_uint_32>(p.width), static_cast<png_uint_32>(p.height), p.bits,
                 kTypes[p.channels], PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    png_write_info(png, info);
    for (int y = 0; y < p.height; ++y) {
        const uint16_t* from = p.samples.data() + static_cast<size_t>(y) * perRow;
        for (size_t i = 0; i < perRow; ++i) {
            if (p.bits == 16) {
                row[2 * i] = static_cast<uint8_t>(from[i] >> 8);
                row[2 * i + 1] = static_cast<uint8_t>(from[i]);
            } else {
                row[i] = static_cast<uint8_t>(from[i]);
            }
        }
        png_write_row(png, row.data());
    }
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return out;
}

}  // namespace jam
