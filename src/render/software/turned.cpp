// Cost: places are worked out in whole vectors; then all bytes of the four pixels about a place are weighed at once.
#include "render/software/turned.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <glm/matrix.hpp>
#ifdef __SSSE3__
#include <tmmintrin.h>
#endif

namespace jam {

namespace {

constexpr int kAtOnce = 128;     // pixels whose places are worked out
constexpr unsigned kParts = 64;  // of a pixel, for places between two; so many that sums of two fit into 16 bits
constexpr int kPartsBits = 12;   // of their square
constexpr int kRowsAhead = 4;    // of the picture, fetched into the cache: its rows are gone through slantwise

// The last place along so many pixels, in parts of one, that has another pixel beyond.
unsigned last(int pixels) { return static_cast<unsigned>(pixels - 1) * kParts - 1; }

// Means of the four pixels about each of some places: the one before it, that right of it, and those in the row below.
#ifdef __SSSE3__
// Weights for pairs, over and over: of the left and the right byte, of the upper and the lower row.
struct Weights {
    std::array<std::array<int8_t, 16>, kParts> across;
    std::array<std::array<int16_t, 8>, kParts> down;
};
const Weights kWeights = [] {
    Weights w;
    for (size_t part = 0; part < kParts; ++part) {
        for (size_t i = 0; i < 16; ++i) w.across[part][i] = static_cast<int8_t>(i % 2 ? part : kParts - part);
        for (size_t i = 0; i < 8; ++i) w.down[part][i] = static_cast<int16_t>(i % 2 ? part : kParts - part);
    }
    return w;
}();

void meansOfFour(const uint32_t* pixels, int width, const unsigned* across, const unsigned* down, int n,
                 uint32_t* out) {
    const __m128i pairs = _mm_setr_epi8(0, 4, 1, 5, 2, 6, 3, 7, 8, 12, 9, 13, 10, 14, 11, 15);
    const __m128i half = _mm_set1_epi32(kParts * kParts / 2);
    const auto load = [](const auto& from) { return _mm_loadu_si128(reinterpret_cast<const __m128i*>(from.data())); };
    for (int i = 0; i < n; ++i) {
        const uint32_t* p = pixels + static_cast<ptrdiff_t>(down[i] / kParts) * width + across[i] / kParts;
        __builtin_prefetch(p + kRowsAhead * width);
        const __m128i upper = _mm_loadl_epi64(reinterpret_cast<const __m128i*>(p)),
                      lower = _mm_loadl_epi64(reinterpret_cast<const __m128i*>(p + width));
        const __m128i four = _mm_shuffle_epi8(_mm_unpacklo_epi64(upper, lower), pairs);
        const __m128i rows = _mm_maddubs_epi16(four, load(kWeights.across[across[i] % kParts]));
        const __m128i both = _mm_unpacklo_epi16(rows, _mm_unpackhi_epi64(rows, rows));
        const __m128i sums = _mm_madd_epi16(both, load(kWeights.down[down[i] % kParts]));
        const __m128i means = _mm_srli_epi32(_mm_add_epi32(sums, half), kPartsBits);
        const __m128i words = _mm_packs_epi32(means, means);
        out[i] = static_cast<uint32_t>(_mm_cvtsi128_si32(_mm_packus_epi16(words, words)));
    }
}
#else
uint32_t meanOfFour(const uint32_t* p, int width, unsigned across, unsigned down) {
    uint32_t mean = 0;
    for (int shift = 0; shift < 32; shift += 8) {
        const auto at = [&](int i) { return p[i] >> shift & 255; };
        const uint32_t upper = at(0) * (kParts - across) + at(1) * across,
                       lower = at(width) * (kParts - across) + at(width + 1) * across;
        mean |= (upper * (kParts - down) + lower * down + kParts * kParts / 2) / (kParts * kParts) << shift;
    }
    return mean;
}

void meansOfFour(const uint32_t* pixels, int width, const unsigned* across, const unsigned* down, int n,
                 uint32_t* out) {
    for (int i = 0; i < n; ++i)
        out[i] = meanOfFour(pixels + static_cast<ptrdiff_t>(down[i] / kParts) * width + across[i] / kParts, width,
                            across[i] % kParts, down[i] % kParts);
}
#endif

}  // namespace

Turned::Turned(const Camera& from, const PixelRect& part, const Camera& to)
    : width_(part.width), height_(part.height), shown_(to.width) {
    const double per = to.metresPerPixel(1);
    // Directions of `to`'s pixels, as columns for x, y and 1.
    const glm::dmat3 along(
        to.right() * per, -to.up() * per,
        to.forward() - to.right() * (per * (to.width / 2.0 - 0.5)) + to.up() * (per * (to.height / 2.0 - 0.5)));
    const double pixels = 1 / from.metresPerPixel(1);
    const glm::dvec3 ahead = from.forward(), x = from.right() * pixels + ahead * (from.width / 2.0 - 0.5 - part.x),
                     y = -from.up() * pixels + ahead * (from.height / 2.0 - 0.5 - part.y);
    places_ = glm::transpose(glm::dmat3(x, y, ahead)) * along;
}

Turned::Span Turned::span(int y, double margin) const {
    const glm::dvec3 at = places_ * glm::dvec3(0, y, 1), step = places_[0];
    double first = 0, end = shown_ - 1;
    // Where edge + slope * x >= 0, but for rounding: with no turn at all both are nothing along an edge.
    const auto keep = [&](double edge, double slope) {
        constexpr double kRounding = 1e-7;
        edge += kRounding;
        if (slope > 0) first = std::max(first, -edge / slope);
        else if (slope < 0) end = std::min(end, -edge / slope);
        else if (edge < 0) end = -1;
    };
    const double right = width_ - 1 - margin, bottom = height_ - 1 - margin;
    keep(at.x - margin * at.z, step.x - margin * step.z);
    keep(right * at.z - at.x, right * step.z - step.x);
    keep(at.y - margin * at.z, step.y - margin * step.z);
    keep(bottom * at.z - at.y, bottom * step.z - step.y);
    if (!(first <= end)) return {};
    return {static_cast<int>(std::ceil(first)), static_cast<int>(std::floor(end)) + 1};
}

struct Turned::Places {
    unsigned across[kAtOnce], down[kAtOnce];  // on the part, in parts of a pixel
};

void Turned::places(int y, int first, int n, Places& out) const {
    const auto right = static_cast<float>(last(width_)), bottom = static_cast<float>(last(height_));
    const glm::vec3 at = places_ * glm::dvec3(first, y, 1), step = places_[0];
    for (int i = 0; i < n; ++i) {
        const auto k = static_cast<float>(i);
        const float per = kParts / (at.z + step.z * k);
        out.across[i] = static_cast<unsigned>(static_cast<int>(std::clamp((at.x + step.x * k) * per, 0.f, right)));
        out.down[i] = static_cast<unsigned>(static_cast<int>(std::clamp((at.y + step.y * k) * per, 0.f, bottom)));
    }
}

void Turned::draw(int y, const Span& span, const uint32_t* pixels, uint32_t* out) const {
    Places at;
    for (int x = span.first; x < span.end; x += kAtOnce) {
        const int n = std::min(kAtOnce, span.end - x);
        places(y, x, n, at);
        meansOfFour(pixels, width_, at.across, at.down, n, out + (x - span.first));
    }
}

void Turned::fade(int y, const Span& within, const uint32_t* pixels, int fade, uint32_t* out) const {
    const Span all = span(y, 0);
    const int first = std::max(all.first, within.first), end = std::min(all.end, within.end);
    Places at;
    uint32_t over[kAtOnce];
    for (int x = first; x < end; x += kAtOnce) {
        const int n = std::min(kAtOnce, end - x);
        places(y, x, n, at);
        meansOfFour(pixels, width_, at.across, at.down, n, over);
        for (int i = 0; i < n; ++i) {
            const unsigned inside =
                std::min({at.across[i], last(width_) - at.across[i], at.down[i], last(height_) - at.down[i]});
            const unsigned most = static_cast<unsigned>(fade) * kParts, share = std::min(inside, most) * 256 / most;
            uint32_t& shown = out[x - within.first + i];
            // Two bytes at a time, each with room above it.
            constexpr uint32_t kTwo = 0xff00ff;
            const auto mix = [&](uint32_t bytes, uint32_t towards) {
                return (bytes * (256 - share) + towards * share) >> 8 & kTwo;
            };
            shown = mix(shown & kTwo, over[i] & kTwo) | mix(shown >> 8 & kTwo, over[i] >> 8 & kTwo) << 8;
        }
    }
}

}  // namespace jam
