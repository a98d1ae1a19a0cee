#include "water/ground_below.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <limits>

#include "level/ground.h"

namespace jam {

Allowed groundBelow(const Level& level, float height, Raster<float>* lowest) {
    return [&level, height, lowest](int tx, int tz, TileBits& bits) {
        constexpr int kTile = TiledGrid<float>::kTile;
        const Region r = Region{tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile}.clipped(level.bounds());
        thread_local Raster<float> ground(kTile, kTile);
        readGround(level, r, ground.view());
        bits = {};
        std::array<float, 16> lows;  // several, side by side
        lows.fill(std::numeric_limits<float>::infinity());
        for (int z = 0; z < r.depth(); ++z) {
            const float* row = ground.view().row(z);
            // Bytes first, then eight of them into eight bits, for which processors have vectors.
            std::array<uint8_t, kTile> flags{};
            for (int x = 0; x < r.width(); ++x) flags[static_cast<size_t>(x)] = row[x] < height;
            uint64_t b = 0;
            for (size_t k = 0; k < 8; ++k) {
                uint64_t eight;
                std::memcpy(&eight, flags.data() + 8 * k, 8);
                b |= (eight * 0x0102040810204080ull >> 56) << (8 * k);
            }
            bits[static_cast<size_t>(z)] = b;
            if (!lowest) continue;
            int x = 0;
            for (; x + 16 <= r.width(); x += 16)
                for (size_t k = 0; k < 16; ++k)
                    lows[k] = row[x + static_cast<int>(k)] < lows[k] ? row[x + static_cast<int>(k)] : lows[k];
            for (; x < r.width(); ++x) lows[0] = std::min(lows[0], row[x]);
        }
        if (lowest) lowest->at(tx, tz) = *std::min_element(lows.begin(), lows.end());
    };
}

}  // namespace jam
