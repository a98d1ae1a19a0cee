#include "grid/bits.h"

#include <algorithm>
#include <bit>
#include <deque>

namespace jam {

namespace {

// Bits of `from` and all that are joined to them along a row through bits of `through`.
uint64_t along(uint64_t through, uint64_t from) {
    uint64_t up = from & through, down = up, p = through, q = through;
    for (int by = 1; by < 64; by *= 2) {
        up |= p & (up << by);
        p &= p << by;
        down |= q & (down >> by);
        q &= q >> by;
    }
    return up | down;
}

}  // namespace

BitTiles::BitTiles(int columns, int rows)
    : columns_(columns), rows_(rows), tiles_(static_cast<size_t>(across()) * static_cast<size_t>(down())) {}

TileBits& BitTiles::writable(int tx, int tz) {
    auto& t = tiles_[static_cast<size_t>(tz) * static_cast<size_t>(across()) + static_cast<size_t>(tx)];
    if (!t) t = std::make_unique<TileBits>(TileBits{});
    return *t;
}

long long BitTiles::count() const {
    long long n = 0;
    eachTile([&](int, int, const TileBits& t) {
        for (const uint64_t row : t) n += std::popcount(row);
    });
    return n;
}

Region BitTiles::bounds() const {
    Region all;
    eachTile([&](int tx, int tz, const TileBits& t) {
        for (int r = 0; r < 64; ++r)
            if (const uint64_t row = t[static_cast<size_t>(r)])
                all = all.joined({tx * 64 + std::countr_zero(row), tz * 64 + r, tx * 64 + 64 - std::countl_zero(row),
                                  tz * 64 + r + 1});
    });
    return all;
}

BitTiles flood(const BitTiles& seeds, const Allowed& allowed, const Context& context) {
    const int across = seeds.across(), down = seeds.down();
    BitTiles wet(seeds.columns(), seeds.rows()), may(seeds.columns(), seeds.rows());
    std::vector<uint8_t> known(static_cast<size_t>(across) * static_cast<size_t>(down)), waiting = known;
    std::deque<std::pair<int, int>> queue;
    const auto index = [&](int tx, int tz) {
        return static_cast<size_t>(tz) * static_cast<size_t>(across) + static_cast<size_t>(tx);
    };
    const auto push = [&](int tx, int tz) {
        if (tx < 0 || tz < 0 || tx >= across || tz >= down || waiting[index(tx, tz)]) return;
        waiting[index(tx, tz)] = 1;
        queue.emplace_back(tx, tz);
    };
    seeds.eachTile([&](int tx, int tz, const TileBits&) { push(tx, tz); });
    static constexpr TileBits kNone{};
    while (!queue.empty() && !context.cancelled()) {
        const int tx = queue.front().first, tz = queue.front().second;
        queue.pop_front();
        waiting[index(tx, tz)] = 0;
        TileBits& m = may.writable(tx, tz);
        const bool first = !known[index(tx, tz)];
        if (first) allowed(tx, tz, m), known[index(tx, tz)] = 1;
        else if (const TileBits* full = wet.tile(tx, tz); full && *full == m)
            continue;  // there is nothing left to flood
        const auto beside = [&](int dx, int dz) -> const TileBits& {
            const TileBits* t = wet.tile(tx + dx, tz + dz);
            return t ? *t : kNone;
        };
        // What comes in over the borders. Joined are W, E, N, S, north-west and south-east.
        TileBits in{};
        if (const TileBits* s = first ? seeds.tile(tx, tz) : nullptr) in = *s;
        const TileBits &west = beside(-1, 0), &east = beside(1, 0), &north = beside(0, -1), &south = beside(0, 1);
        for (size_t r = 0; r < 64; ++r) {
            in[r] |= west[r] >> 63 | east[r] << 63;
            if (r > 0) in[r] |= west[r - 1] >> 63;
            if (r < 63) in[r] |= east[r + 1] << 63;
        }
        in[0] |= north[63] | north[63] << 1 | beside(-1, -1)[63] >> 63;
        in[63] |= south[0] | south[0] >> 1 | beside(1, 1)[0] << 63;
        TileBits now = beside(0, 0);
        const TileBits before = now;
        // Where all may be flooded, any of it floods all.
        const auto any = [](const TileBits& b) {
            return std::any_of(b.begin(), b.end(), [](uint64_t row) { return row != 0; });
        };
        const bool whole = std::all_of(m.begin(), m.end(), [](uint64_t row) { return row == ~0ull; });
        if (whole && any(in)) now = m;
        for (bool more = !whole; more;) {
            more = false;
            const auto take = [&](size_t r, uint64_t from) {
                const uint64_t next = along(m[r], now[r] | in[r] | from);
                more |= next != now[r];
                now[r] = next;
            };
            take(0, 0);
            for (size_t r = 1; r < 64; ++r) take(r, now[r - 1] | now[r - 1] << 1);
            if (!more) break;
            more = false;
            for (size_t r = 63; r-- > 0;) take(r, now[r + 1] | now[r + 1] >> 1);
        }
        if (now == before) continue;
        wet.writable(tx, tz) = now;
        uint64_t newWest = 0, newEast = 0;
        for (size_t r = 0; r < 64; ++r) newWest |= (now[r] ^ before[r]) & 1, newEast |= (now[r] ^ before[r]) >> 63;
        const uint64_t newNorth = now[0] ^ before[0], newSouth = now[63] ^ before[63];
        if (newWest) push(tx - 1, tz);
        if (newEast) push(tx + 1, tz);
        if (newNorth) push(tx, tz - 1);
        if (newSouth) push(tx, tz + 1);
        if (newNorth & 1) push(tx - 1, tz - 1);
        if (newSouth >> 63) push(tx + 1, tz + 1);
    }
    return wet;
}

}  // namespace jam
