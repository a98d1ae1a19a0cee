// Cost: pixels are gathered first, so that all arithmetic goes in whole vectors of bytes; rows are shared by threads.
#include "render/software/enlarge.h"

#include <algorithm>
#include <cstddef>
#include <utility>

#include "base/parallel.h"

namespace jam {

namespace {
constexpr size_t kAtOnce = 256;   // pixels that are gathered
constexpr int kRowsAThread = 96;  // at least
}  // namespace

Enlarged enlarged(int few, int whole, int first, int end) {
    Enlarged e;
    for (int i = first; i < end; ++i) {
        // 256ths of a pixel from the first centre.
        const long long at = std::clamp(((2LL * i + 1) * few - whole) * 128 / whole, 0LL, (few - 1LL) * 256);
        const int from = std::min(static_cast<int>(at / 256), few - 2);
        e.from.push_back(from);
        e.share.push_back(static_cast<uint32_t>(std::min(at - 256LL * from, 255LL)));
        e.bytes.insert(e.bytes.end(), 4, static_cast<uint16_t>(e.share.back()));
    }
    return e;
}

void enlarge(const uint32_t* in, const Enlarged& along, uint32_t* out) {
    uint32_t left[kAtOnce], right[kAtOnce];
    for (size_t first = 0; first < along.from.size(); first += kAtOnce) {
        const size_t n = std::min(along.from.size() - first, kAtOnce);
        for (size_t i = 0; i < n; ++i) {
            const uint32_t* at = in + along.from[first + i];
            left[i] = at[0];
            right[i] = at[1];
        }
        const auto* a = reinterpret_cast<const uint8_t*>(left);
        const auto* b = reinterpret_cast<const uint8_t*>(right);
        const uint16_t* share = along.bytes.data() + 4 * first;
        auto* to = reinterpret_cast<uint8_t*>(out + first);
        for (size_t i = 0; i < 4 * n; ++i)
            to[i] = static_cast<uint8_t>(static_cast<uint16_t>(a[i] * (256 - share[i]) + b[i] * share[i] + 128) >> 8);
    }
}

void between(const uint8_t* __restrict a, const uint8_t* __restrict b, uint32_t share, int n, uint8_t* __restrict out) {
    const auto part = static_cast<uint16_t>(share), rest = static_cast<uint16_t>(256 - share);
    for (int i = 0; i < n; ++i)
        out[i] = static_cast<uint8_t>(static_cast<uint16_t>(a[i] * rest + b[i] * part + 128) >> 8);
}

void enlargeRows(const uint32_t* rows, int width, int depth, int top, const Enlarged& across, const Enlarged& down,
                 uint8_t* out, int bytesPerRow) {
    parallelFor(static_cast<int>(down.from.size()), kRowsAThread, [&](int begin, int end) {
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
        for (int y = begin; y < end; ++y) {
            const auto k = static_cast<size_t>(y);
            const uint8_t* upper = wideRow(down.from[k]);
            between(upper, wideRow(down.from[k] + 1), down.share[k], static_cast<int>(4 * across.from.size()),
                    out + static_cast<ptrdiff_t>(y) * bytesPerRow);
        }
    });
}

}  // namespace jam
