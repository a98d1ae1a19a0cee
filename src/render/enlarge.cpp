// Cost: two channels of a pixel share a multiply.
#include "enlarge.h"

#include <algorithm>
#include <cstddef>
#include <utility>

namespace jam {

namespace {

uint32_t mixed(uint32_t a, uint32_t b, uint32_t share) {
    constexpr uint32_t kTwo = 0x00ff00ffu;
    const uint32_t rest = 256 - share;
    const uint32_t even = ((a & kTwo) * rest + (b & kTwo) * share + 0x00800080u) >> 8 & kTwo;
    const uint32_t odd = ((a >> 8 & kTwo) * rest + (b >> 8 & kTwo) * share + 0x00800080u) & ~kTwo;
    return even | odd;
}

}  // namespace

Enlarged enlarged(int few, int whole, int first, int end) {
    Enlarged e;
    for (int i = first; i < end; ++i) {
        // 256ths of a pixel from the first centre.
        const long long at = std::clamp(((2LL * i + 1) * few - whole) * 128 / whole, 0LL, (few - 1LL) * 256);
        const int from = std::min(static_cast<int>(at / 256), few - 2);
        e.from.push_back(from);
        e.share.push_back(static_cast<uint32_t>(std::min(at - 256LL * from, 255LL)));
    }
    return e;
}

void enlarge(const uint32_t* in, const Enlarged& along, uint32_t* out) {
    for (size_t i = 0; i < along.from.size(); ++i) {
        const uint32_t* at = in + along.from[i];
        out[i] = mixed(at[0], at[1], along.share[i]);
    }
}

void between(const uint8_t* __restrict a, const uint8_t* __restrict b, uint32_t share, int n, uint8_t* __restrict out) {
    const auto part = static_cast<uint16_t>(share), rest = static_cast<uint16_t>(256 - share);
    for (int i = 0; i < n; ++i)
        out[i] = static_cast<uint8_t>(static_cast<uint16_t>(a[i] * rest + b[i] * part + 128) >> 8);
}

void enlargeRows(const uint32_t* rows, int width, int depth, int top, const Enlarged& across, const Enlarged& down,
                 uint8_t* out, int bytesPerRow) {
    // Rows go across first, because there are fewer of them; the two that the next lies between are kept.
    struct Row {
        int of = -1;
        std::vector<uint32_t> pixels;
    } wide[2];
    for (Row& w : wide) w.pixels.resize(across.from.size());
    const auto wideRow = [&](int of) {
        Row& w = wide[of % 2];
        if (std::exchange(w.of, of) != of)
            enlarge(rows + static_cast<ptrdiff_t>(depth - 1 - (of - top)) * width, across, w.pixels.data());
        return reinterpret_cast<const uint8_t*>(w.pixels.data());
    };
    for (size_t y = 0; y < down.from.size(); ++y) {
        const uint8_t* upper = wideRow(down.from[y]);
        between(upper, wideRow(down.from[y] + 1), down.share[y], static_cast<int>(4 * across.from.size()),
                out + static_cast<ptrdiff_t>(y) * bytesPerRow);
    }
}

}  // namespace jam
