#include "water/water.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "level/ground.h"
#include "level/opening.h"
#include "water/ground_below.h"
#include "water/rise.h"
#include "water/stream.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<float>::kTile;

// The samples of a tile that have no ground, and those of them that are no land at all.
void gapBits(const Level& level, int tx, int tz, TileBits& gone, TileBits& sea) {
    gone = sea = {};
    const uint8_t *o = level.opening.tile(tx, tz), *h = level.hatches.tile(tx, tz), *n = level.noLand.tile(tx, tz);
    if (!o && !h && !n) return;
    for (size_t r = 0; r < kTile; ++r)
        for (size_t c = 0; c < kTile; ++c) {
            const bool none = n && n[r * kTile + c] > kGapEdge;
            const bool open = (o && o[r * kTile + c] > kGapEdge) || (h && h[r * kTile + c] > kGapEdge);
            gone[r] |= static_cast<uint64_t>(none || open) << c;
            sea[r] |= static_cast<uint64_t>(none) << c;
        }
}

// Which of a tile's samples lie inside the level, and which of them on its edge.
TileBits insideBits(const Level& level, int tx, int tz) {
    TileBits b{};
    const int wide = std::min(kTile, level.columns - tx * kTile);
    for (int r = 0; r < std::min(kTile, level.rows - tz * kTile); ++r)
        b[static_cast<size_t>(r)] = wide == kTile ? ~0ull : (1ull << wide) - 1;
    return b;
}
TileBits edgeBits(const Level& level, int tx, int tz) {
    TileBits b{};
    const TileBits in = insideBits(level, tx, tz);
    const int right = level.columns - 1 - tx * kTile, low = level.rows - 1 - tz * kTile;
    for (size_t r = 0; r < kTile; ++r) {
        if (tx == 0) b[r] |= in[r] & 1;
        if (right < kTile) b[r] |= in[r] & 1ull << right;
    }
    if (tz == 0) b[0] = in[0];
    if (low < kTile) b[static_cast<size_t>(low)] = in[static_cast<size_t>(low)];
    return b;
}

// Where water leaves the level: its edge, and gaps.
TileBits wayOutBits(const Level& level, int tx, int tz, bool gaps) {
    TileBits out = edgeBits(level, tx, tz);
    if (!gaps) return out;
    TileBits gone, sea;
    gapBits(level, tx, tz, gone, sea);
    for (size_t r = 0; r < kTile; ++r) out[r] |= gone[r];
    return out;
}

// Ground below a height, and gaps where there are any.
Allowed belowOrGone(const Level& level, float height, bool gaps, Raster<float>* lowest = nullptr) {
    return [below = groundBelow(level, height, lowest), &level, gaps](int tx, int tz, TileBits& bits) {
        below(tx, tz, bits);
        if (!gaps) return;
        TileBits gone, sea;
        gapBits(level, tx, tz, gone, sea);
        for (size_t r = 0; r < kTile; ++r) bits[r] |= gone[r];
    };
}

// `bits` and not `out`.
BitTiles without(const BitTiles& bits, const BitTiles& out) {
    BitTiles left(bits.columns(), bits.rows());
    bits.eachTile([&](int tx, int tz, const TileBits& b) {
        TileBits& to = left.writable(tx, tz);
        to = b;
        if (const TileBits* o = out.tile(tx, tz))
            for (size_t r = 0; r < kTile; ++r) to[r] &= ~(*o)[r];
    });
    return left;
}

Extent seaOf(const Level& level, const Pool& pool, bool gaps, const Context& context) {
    BitTiles edge(level.columns, level.rows);
    for (int tz = 0; tz < edge.down(); ++tz)
        for (int tx = 0; tx < edge.across(); ++tx)
            if (tx == 0 || tz == 0 || tx == edge.across() - 1 || tz == edge.down() - 1 ||
                level.columns - 1 < (tx + 1) * kTile || level.rows - 1 < (tz + 1) * kTile)
                edge.writable(tx, tz) = edgeBits(level, tx, tz);
    Extent e{flood(edge, belowOrGone(level, pool.height, gaps), context), {}, {}, false};
    if (!gaps) return e;
    // Openings drain it; what is no land belongs to it.
    BitTiles drain(level.columns, level.rows);
    e.wet.eachTile([&](int tx, int tz, const TileBits& wet) {
        TileBits gone, sea;
        gapBits(level, tx, tz, gone, sea);
        for (size_t r = 0; r < kTile; ++r)
            if (const uint64_t falls = wet[r] & gone[r] & ~sea[r]) drain.writable(tx, tz)[r] |= falls, e.leaks = true;
    });
    if (e.leaks) e.wet = without(e.wet, drain), e.drain = std::move(drain);
    return e;
}

// Ground that other pools cover, each by itself, as far as that holds them.
BitTiles coveredByOthers(const Level& level, const Pool& pool, float above, bool gaps, const Context& context) {
    BitTiles covered(level.columns, level.rows);
    for (const Pool& other : level.pools) {
        if (other.id == pool.id || other.height <= above || other.sea) continue;
        const auto [c, r] = nearestSample(level, other.x, other.z);
        BitTiles seed(level.columns, level.rows);
        seed.set(c, r);
        const BitTiles wet = flood(seed, belowOrGone(level, other.height, gaps), context);
        bool holds = true;
        wet.eachTile([&](int tx, int tz, const TileBits& w) {
            const TileBits out = wayOutBits(level, tx, tz, gaps);
            for (size_t row = 0; row < kTile; ++row) holds = holds && !(w[row] & out[row]);
        });
        if (!holds) continue;
        wet.eachTile([&](int tx, int tz, const TileBits& w) {
            TileBits& all = covered.writable(tx, tz);
            for (size_t row = 0; row < kTile; ++row) all[row] |= w[row];
        });
    }
    return covered;
}

// Where water of a pool that covers `wet` would leave it for good; nothing when it holds. `lowest` is known of every
// tile of it.
std::optional<BitTiles> runsOffTo(const Level& level, const Pool& pool, const BitTiles& wet,
                                  const Raster<float>& lowest, const Context& context) {
    const bool gaps = hasGaps(level);
    const auto [c, r] = nearestSample(level, pool.x, pool.z);
    const float place = groundSample(level, c, r);
    const Allowed lower = groundBelow(level, place - kLeastHollow);
    BitTiles to(level.columns, level.rows);
    bool any = false, dry = false;
    wet.eachTile([&](int tx, int tz, const TileBits& w) {
        TileBits low{};
        const bool edge = tx == 0 || tz == 0 || (tx + 1) * kTile >= level.columns || (tz + 1) * kTile >= level.rows;
        if (lowest.at(tx, tz) < place - kLeastHollow) lower(tx, tz, low);
        else if (!edge && !gaps) return;
        const TileBits out = wayOutBits(level, tx, tz, gaps);
        for (size_t row = 0; row < kTile; ++row)
            if (const uint64_t b = w[row] & (low[row] | out[row])) {
                to.writable(tx, tz)[row] |= b;
                any = true;
                dry = dry || (low[row] & w[row]);
            }
    });
    if (!any) return std::nullopt;
    if (!dry || level.pools.size() < 2) return to;
    // Lower ground that another pool covers does not drain this one.
    const BitTiles covered = coveredByOthers(level, pool, place - kLeastHollow, gaps, context);
    any = false;
    BitTiles left(level.columns, level.rows);
    to.eachTile([&](int tx, int tz, const TileBits& b) {
        const TileBits* under = covered.tile(tx, tz);
        const TileBits out = wayOutBits(level, tx, tz, gaps);
        for (size_t row = 0; row < kTile; ++row)
            if (const uint64_t still = b[row] & (under ? ~(*under)[row] | out[row] : ~0ull))
                left.writable(tx, tz)[row] = still, any = true;
    });
    if (!any) return std::nullopt;
    return left;
}

}  // namespace

Extent extentOf(const Level& level, const Pool& pool, const Context& context) {
    const bool gaps = hasGaps(level);
    if (pool.sea) return seaOf(level, pool, gaps, context);
    const auto [c, r] = nearestSample(level, pool.x, pool.z);
    BitTiles seed(level.columns, level.rows);
    Extent e{BitTiles(level.columns, level.rows), {}, {}, false};
    if (groundSample(level, c, r) >= pool.height || (gaps && gapSample(level, c, r) > kGapEdge)) return e;
    seed.set(c, r);
    Raster<float> lowest(seed.across(), seed.down());
    e.wet = flood(seed, belowOrGone(level, pool.height, gaps, &lowest), context);
    std::optional<BitTiles> to = runsOffTo(level, pool, e.wet, lowest, context);
    if (!to || context.cancelled()) return e;
    e.leaks = true;
    // Its brim, and the ground that drains lower.
    Rise rise(level, c, r);
    float brim = -std::numeric_limits<float>::infinity();
    while (const std::optional<Rise::Step> s = rise.next()) {
        brim = std::max(brim, s->ground);
        if (to->at(s->column, s->row) || context.cancelled()) break;
    }
    e.drain = flood(*to, belowOrGone(level, brim, gaps), context);
    e.to = std::move(*to);
    e.wet = flood(
        seed,
        [&, below = groundBelow(level, pool.height)](int tx, int tz, TileBits& bits) {
            below(tx, tz, bits);
            if (gaps) {
                TileBits gone, sea;
                gapBits(level, tx, tz, gone, sea);
                for (size_t row = 0; row < kTile; ++row) bits[row] &= ~gone[row];
            }
            if (const TileBits* d = e.drain.tile(tx, tz))
                for (size_t row = 0; row < kTile; ++row) bits[row] &= ~(*d)[row];
        },
        context);
    return e;
}

namespace {

// The tiles round a region that its ground can concern: water one sample away may flow in.
template <class F>
bool anyTileBy(const TileSet& ground, const Level& level, F f) {
    bool any = false;
    ground.grown(1, level.bounds()).each([&](int tx, int tz, const Region&) { any = any || f(tx, tz); });
    return any;
}

bool concernsStream(const Level& level, const Stream& s, const Change& change) {
    if (change.waters || s.surface.columns() != level.columns) return true;
    if (std::find(change.strata.begin(), change.strata.end(), s.course) != change.strata.end()) return true;
    const Stratum* bed = bedOf(level, s);
    return anyTileBy(change.ground, level,
                     [&](int tx, int tz) { return s.surface.tile(tx, tz) || (bed && bed->owned.tile(tx, tz)); });
}

bool concernsPools(const Level& level, const Change& change) {
    if (change.waters) return true;
    if (level.pools.empty()) return false;
    TileSet changed = change.ground.joined(change.gaps);
    if (changed.empty()) return false;
    for (const Pool& p : level.pools) {
        const auto [c, r] = nearestSample(level, p.x, p.z);
        // What leaks may be held by ground far down its way.
        if (p.leaks || changed.contains(c, r)) return true;
        // At the edge a sea may come in.
        if (p.sea)
            for (const Region& s : changed.spots())
                if (s.x0 == 0 || s.z0 == 0 || s.x1 == level.columns || s.z1 == level.rows) return true;
    }
    return anyTileBy(changed, level, [&](int tx, int tz) { return level.water.tile(tx, tz) != nullptr; });
}

// Moves the place of a pool to the deepest sample that it covered and still does. Only ground that changed can have
// become deeper, unless its own place did.
void moveSeed(const Level& level, Pool& pool, const TileSet& changed) {
    if (pool.sea) return;
    const auto [c, r] = nearestSample(level, pool.x, pool.z);
    const bool gaps = hasGaps(level);
    const auto gone = [&](int x, int z) { return gaps && gapSample(level, x, z) > kGapEdge; };
    const float now = groundSample(level, c, r);
    float lowest = now < pool.height && !gone(c, r) ? now : pool.height;
    std::array<int, 2> best{-1, -1};
    Raster<float> ground(kTile, kTile);
    const auto look = [&](int tx, int tz, const Region&) {
        const Wet* t = level.water.tile(tx, tz);
        if (!t || std::none_of(t, t + kTile * kTile, [&](const Wet& w) { return w.body == pool.id; })) return;
        const Region region = level.water.tileRegion(tx, tz);
        readGround(level, region, ground.view());
        for (int z = 0; z < region.depth(); ++z)
            for (int x = 0; x < region.width(); ++x)
                if (t[z * kTile + x].body == pool.id && ground.at(x, z) < lowest && !gone(region.x0 + x, region.z0 + z))
                    lowest = ground.at(x, z), best = {region.x0 + x, region.z0 + z};
    };
    if (changed.contains(c, r)) presentTiles(level.water).each(look);
    else changed.each(look);
    if (best[0] < 0) return;
    pool.x = level.originX + best[0] * level.spacing;
    pool.z = level.originZ + best[1] * level.spacing;
}

// What stands in one tile, by the bits of the pools and the surfaces of the streams.
class TileWater {
public:
    // Reads it, and says whether it differs from `was`, which is null for dry.
    bool make(const Level& level, const std::vector<Extent>& extents, int tx, int tz, const Wet* was) {
        there_ = false;
        const TileBits* only = nullptr;
        Wet mine;
        int bodies = 0;
        for (size_t i = 0; i < extents.size(); ++i)
            if (const TileBits* b = extents[i].wet.tile(tx, tz)) {
                ++bodies, only = b;
                mine = {level.pools[i].height, level.pools[i].id};
            }
        for (const Stream& s : level.streams) bodies += 2 * (s.surface.tile(tx, tz) != nullptr);
        if (bodies == 0) return was != nullptr;
        if (bodies == 1 && was && alike(*only, mine, was)) return there_ = true, false;
        std::fill(tile_.begin(), tile_.end(), Wet{});
        for (size_t i = 0; i < extents.size(); ++i) {
            const TileBits* b = extents[i].wet.tile(tx, tz);
            if (!b) continue;
            const Wet pool{level.pools[i].height, level.pools[i].id};
            for (size_t r = 0; r < kTile; ++r)
                for (uint64_t row = (*b)[r]; row; row &= row - 1) {
                    Wet& w = tile_[r * kTile + static_cast<size_t>(__builtin_ctzll(row))];
                    if (pool.surface > w.surface) w = pool;
                }
        }
        for (const Stream& s : level.streams)
            if (const float* h = s.surface.tile(tx, tz))
                for (size_t i = 0; i < tile_.size(); ++i)
                    if (h[i] > tile_[i].surface) tile_[i] = {h[i], s.id};
        there_ = std::any_of(tile_.begin(), tile_.end(), [](const Wet& w) { return w.wet(); });
        return there_ ? !was || !std::equal(tile_.begin(), tile_.end(), was) : was != nullptr;
    }
    bool wet() const { return there_; }
    // The samples that differ from `was`, as a rectangle of the level.
    Region differing(const Wet* was, int tx, int tz) const {
        Region all;
        for (int z = 0; z < kTile; ++z)
            for (int x = 0; x < kTile; ++x) {
                const auto i = static_cast<size_t>(z * kTile + x);
                if (!((there_ ? tile_[i] : Wet{}) == (was ? was[i] : Wet{}))) all = all.joined({x, z, x + 1, z + 1});
            }
        return {all.x0 + tx * kTile, all.z0 + tz * kTile, all.x1 + tx * kTile, all.z1 + tz * kTile};
    }
    View<const Wet> view() const { return {tile_.data(), kTile, kTile, kTile}; }

private:
    // Whether a tile holds one pool's samples and nothing else.
    static bool alike(const TileBits& bits, const Wet& mine, const Wet* was) {
        static_assert(sizeof(Wet) == sizeof(uint64_t));
        const auto wet = std::bit_cast<uint64_t>(mine), dry = std::bit_cast<uint64_t>(Wet{});
        for (size_t r = 0; r < kTile; ++r) {
            std::array<uint64_t, kTile> row;
            std::memcpy(row.data(), was + r * kTile, sizeof(row));
            uint64_t differs = 0;
            for (size_t c = 0; c < kTile; ++c) differs |= row[c] ^ (dry ^ ((dry ^ wet) & -(bits[r] >> c & 1)));
            if (differs) return false;
        }
        return true;
    }
    std::vector<Wet> tile_ = std::vector<Wet>(kTile * kTile);
    bool there_ = false;
};

}  // namespace

TileSet refreshWater(Level& level, const Change& change, const Context& context) {
    if (level.water.columns() != level.columns || level.water.rows() != level.rows)
        level.water = TiledGrid<Wet>(level.columns, level.rows, {});
    bool any = concernsPools(level, change);
    for (Stream& s : level.streams)
        if (concernsStream(level, s, change)) runStream(level, s, context), any = true;
    if (!any || context.cancelled()) return {};
    const TileSet changed = change.ground.joined(change.gaps);
    std::vector<Extent> extents;
    for (Pool& p : level.pools) moveSeed(level, p, changed);
    for (const Pool& p : level.pools) {
        extents.push_back(extentOf(level, p, context));
        if (context.cancelled()) return {};
    }
    for (size_t i = 0; i < extents.size(); ++i) level.pools[i].leaks = extents[i].leaks;
    TileSet made;
    TileWater tile;
    for (int tz = 0; tz < level.water.tilesDown(); ++tz)
        for (int tx = 0; tx < level.water.tilesAcross(); ++tx) {
            if (!tile.make(level, extents, tx, tz, level.water.tile(tx, tz))) continue;
            const Region region = level.water.tileRegion(tx, tz);
            made.add(tile.differing(level.water.tile(tx, tz), tx, tz).clipped(region));
            if (tile.wet()) level.water.write(region, tile.view());
            else level.water.clearTile(tx, tz);
        }
    return made;
}

void refillWater(Level& level, const Context& context) {
    Change all;
    all.waters = true;
    refreshWater(level, all, context);
}

long long waterWork(const Level& level, const Change& change) {
    if (level.pools.empty() && level.streams.empty() && level.water.presentTiles() == 0 && !change.waters) return 0;
    long long all = 0;
    constexpr long long kPerTile = 512;  // whole words at a time: cheaper than looking at samples
    for (const Stream& s : level.streams)
        if (concernsStream(level, s, change)) all += 4096 * (4 + static_cast<long long>(s.surface.presentTiles()));
    if (all > 0 || concernsPools(level, change))
        all += kPerTile * (4 + static_cast<long long>(level.water.presentTiles()));
    return all;
}

}  // namespace jam
