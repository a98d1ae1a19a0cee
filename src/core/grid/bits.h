// One bit for every ground sample, in tiles, and flooding by whole words: 64 samples of a row at a time.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <memory>
#include <vector>

#include "base/context.h"
#include "base/region.h"

namespace jam {

using TileBits = std::array<uint64_t, 64>;  // row by row; bit n is the sample at column n

class BitTiles {
public:
    BitTiles() = default;
    BitTiles(int columns, int rows);
    BitTiles(BitTiles&&) = default;
    BitTiles& operator=(BitTiles&&) = default;

    int columns() const { return columns_; }
    int rows() const { return rows_; }
    int across() const { return (columns_ + 63) / 64; }
    int down() const { return (rows_ + 63) / 64; }
    bool at(int x, int z) const {
        const TileBits* t = tile(x >> 6, z >> 6);
        return t && ((*t)[static_cast<size_t>(z & 63)] >> (x & 63) & 1);
    }
    void set(int x, int z) { writable(x >> 6, z >> 6)[static_cast<size_t>(z & 63)] |= 1ull << (x & 63); }
    // Null when the tile has no bit, or lies outside.
    const TileBits* tile(int tx, int tz) const {
        if (tx < 0 || tz < 0 || tx >= across() || tz >= down()) return nullptr;
        return tiles_[static_cast<size_t>(tz) * static_cast<size_t>(across()) + static_cast<size_t>(tx)].get();
    }
    TileBits& writable(int tx, int tz);
    long long count() const;
    // f(tx, tz, bits) for each tile that may have bits.
    template <class F>
    void eachTile(F f) const {
        for (int tz = 0; tz < down(); ++tz)
            for (int tx = 0; tx < across(); ++tx)
                if (const TileBits* t = tile(tx, tz)) f(tx, tz, *t);
    }
    // f(x, z) for each bit, tile by tile.
    template <class F>
    void each(F f) const {
        eachTile([&](int tx, int tz, const TileBits& t) {
            for (int r = 0; r < 64; ++r)
                for (uint64_t row = t[static_cast<size_t>(r)]; row; row &= row - 1)
                    f(tx * 64 + __builtin_ctzll(row), tz * 64 + r);
        });
    }
    // The smallest rectangle that holds all.
    Region bounds() const;

private:
    int columns_ = 0, rows_ = 0;
    std::vector<std::unique_ptr<TileBits>> tiles_;
};

// The neighbours of a sample: those that an edge of the drawn triangles joins it with. Ground below a height is joined
// over the triangles exactly when its samples are joined so.
constexpr std::array<std::array<int, 2>, 6> kJoined = {{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}}};

// Writes which samples of a tile may be flooded; none outside of the level.
using Allowed = std::function<void(int tx, int tz, TileBits& bits)>;

// All allowed samples that are joined to an allowed seed through allowed ones. Unspecified when cancelled.
BitTiles flood(const BitTiles& seeds, const Allowed& allowed, const Context& context = {});

}  // namespace jam
