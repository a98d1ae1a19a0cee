#include "water/figures.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "base/maths.h"
#include "base/range.h"
#include "base/text.h"
#include "grid/distance.h"
#include "level/ground.h"
#include "level/opening.h"
#include "water/rise.h"

namespace jam {

namespace {

const char* compass(double east, double south) {
    static constexpr const char* kNames[] = {"east", "south-east", "south", "south-west",
                                             "west", "north-west", "north", "north-east"};
    const int n = static_cast<int>(std::lround(std::atan2(south, east) / (kTurn / 8)));
    return kNames[(n + 8) % 8];
}

// Its lowest way out, from a place of the pool: the samples from there over the rim to where the water stays or leaves
// the level.
struct WayOut {
    float brim = -std::numeric_limits<float>::infinity();
    std::vector<std::array<int, 2>> samples;
};
// `to` says where it is lost. A sea is lost in an opening, and followed back from there to the level's edge.
WayOut wayOut(const Level& level, int column, int row, const BitTiles* to, const Context& context) {
    WayOut w;
    Rise rise(level, column, row);
    std::array<int, 2> end{column, row};
    bool lost = false;
    float lowest = std::numeric_limits<float>::infinity();
    while (const std::optional<Rise::Step> s = rise.next()) {
        if (context.cancelled()) return {};
        const bool edge = s->column == 0 || s->row == 0 || s->column == level.columns - 1 || s->row == level.rows - 1;
        if (!lost) {
            w.brim = std::max(w.brim, s->ground);
            lost = to ? to->at(s->column, s->row) : edge;
            if (!lost) continue;
        }
        // It runs on as long as it finds lower ground.
        if (s->ground > lowest + kLeastHollow) break;
        if (s->ground < lowest || s->out) lowest = s->ground, end = {s->column, s->row};
        if (s->out) break;
    }
    if (!lost) return {};
    for (int c = end[0], r = end[1];;) {
        w.samples.push_back({c, r});
        const auto [pc, pr] = rise.from(c, r);
        if (pc == c && pr == r) break;
        c = pc, r = pr;
    }
    if (to) std::reverse(w.samples.begin(), w.samples.end());
    return w;
}

std::optional<Leak> leakOf(const Level& level, const Pool& pool, const Extent& extent, const Context& context) {
    if (!extent.leaks || context.cancelled()) return std::nullopt;
    const auto nearest = nearestSample(level, pool.x, pool.z);
    int c = nearest[0], r = nearest[1];
    if (pool.sea) {
        bool first = true;
        extent.drain.each([&](int x, int z) {
            if (first) c = x, r = z;
            first = false;
        });
    }
    const WayOut way = wayOut(level, c, r, pool.sea ? nullptr : &extent.to, context);
    if (way.samples.empty()) return std::nullopt;
    // The rim is the highest place of the way, the last of those.
    size_t rim = 0;
    float highest = -std::numeric_limits<float>::infinity();
    const bool gaps = hasGaps(level);
    for (size_t i = 0; i < way.samples.size(); ++i) {
        const auto [x, z] = way.samples[i];
        if (gaps && gapSample(level, x, z) > kGapEdge) continue;
        if (const float h = groundSample(level, x, z); h >= highest) highest = h, rim = i;
    }
    double east = 0, south = 0;
    long long n = 0;
    extent.wet.each([&](int x, int z) { east += x, south += z, ++n; });
    Leak leak;
    const auto at = [&](const std::array<int, 2>& s) -> std::array<double, 2> {
        return {level.originX + s[0] * level.spacing, level.originZ + s[1] * level.spacing};
    };
    leak.x = at(way.samples[rim])[0], leak.z = at(way.samples[rim])[1];
    leak.brim = way.brim;
    leak.over = pool.height - way.brim;
    leak.towards = n > 0 ? compass(way.samples[rim][0] - east / static_cast<double>(n),
                                   way.samples[rim][1] - south / static_cast<double>(n))
                         : "away";
    for (size_t i = rim; i < way.samples.size(); ++i) leak.way.push_back(at(way.samples[i]));
    const auto [lc, lr] = way.samples.back();
    leak.opening = gaps && gapSample(level, lc, lr) > kGapEdge;
    return leak;
}

// Pieces of ground that stand out of the water, with water all round.
int islandsIn(const Level& level, const BitTiles& wet) {
    const Region box = wet.bounds();
    if (box.empty()) return 0;
    // What can be reached from beyond is no island. Outside of the box everything is reached.
    const auto dry = [&](const BitTiles* taken) -> Allowed {
        return [&wet, &box, taken](int tx, int tz, TileBits& bits) {
            const TileBits* w = wet.tile(tx, tz);
            const TileBits* t = taken ? taken->tile(tx, tz) : nullptr;
            for (int r = 0; r < 64; ++r) {
                const int z = tz * 64 + r, from = std::max(box.x0 - tx * 64, 0), to = std::min(box.x1 - tx * 64, 64);
                uint64_t b = 0;
                if (z >= box.z0 && z < box.z1 && from < to)
                    b = (to == 64 ? ~0ull : (1ull << to) - 1) & ~((1ull << from) - 1);
                const auto i = static_cast<size_t>(r);
                bits[i] = b & ~(w ? (*w)[i] : 0) & ~(t ? (*t)[i] : 0);
            }
        };
    };
    BitTiles rim(level.columns, level.rows);
    for (int x = box.x0; x < box.x1; ++x) rim.set(x, box.z0), rim.set(x, box.z1 - 1);
    for (int z = box.z0; z < box.z1; ++z) rim.set(box.x0, z), rim.set(box.x1 - 1, z);
    const BitTiles outside = flood(rim, dry(nullptr));
    BitTiles left(level.columns, level.rows);
    for (int tz = box.z0 / 64; tz <= (box.z1 - 1) / 64; ++tz)
        for (int tx = box.x0 / 64; tx <= (box.x1 - 1) / 64; ++tx) {
            TileBits b;
            dry (&outside)(tx, tz, b);
            if (std::any_of(b.begin(), b.end(), [](uint64_t row) { return row != 0; })) left.writable(tx, tz) = b;
        }
    int islands = 0;
    for (int tz = 0; tz < left.down(); ++tz)
        for (int tx = 0; tx < left.across(); ++tx) {
            if (!left.tile(tx, tz)) continue;
            for (size_t r = 0; r < 64; ++r)
                while (const uint64_t row = left.writable(tx, tz)[r]) {
                    ++islands;
                    BitTiles seed(level.columns, level.rows);
                    seed.set(tx * 64 + __builtin_ctzll(row), tz * 64 + static_cast<int>(r));
                    flood(seed, [&](int x, int z, TileBits& b) {
                        const TileBits* l = left.tile(x, z);
                        b = l ? *l : TileBits{};
                    }).eachTile([&](int x, int z, const TileBits& taken) {
                        TileBits& l = left.writable(x, z);
                        for (size_t i = 0; i < 64; ++i) l[i] &= ~taken[i];
                    });
                }
        }
    return islands;
}

}  // namespace

std::optional<Leak> leakOf(const Level& level, const Pool& pool, const Context& context) {
    return leakOf(level, pool, extentOf(level, pool, context), context);
}

PoolFigures poolFigures(const Level& level, const Pool& pool, const Context& context) {
    const Extent e = extentOf(level, pool, context);
    PoolFigures f;
    f.height = pool.height;
    if (context.cancelled()) return f;
    constexpr int kTile = TiledGrid<float>::kTile;
    const double square = level.spacing * level.spacing;
    const bool gaps = hasGaps(level);
    Raster<float> ground(kTile, kTile);
    std::set<uint32_t> meets;
    e.wet.eachTile([&](int tx, int tz, const TileBits& bits) {
        const Region r = level.water.tileRegion(tx, tz);
        readGround(level, r, ground.view());
        const Wet* water = level.water.tile(tx, tz);
        for (int z = 0; z < r.depth(); ++z)
            for (uint64_t row = bits[static_cast<size_t>(z)]; row; row &= row - 1) {
                const int x = __builtin_ctzll(row);
                f.area += square;
                if (water)
                    if (const Wet& w = water[z * kTile + x]; w.wet() && w.body != pool.id && level.pool(w.body))
                        meets.insert(w.body);
                // A sea has no bed where there is no land.
                if (gaps && gapSample(level, r.x0 + x, r.z0 + z) > kGapEdge) continue;
                const float deep = pool.height - ground.at(x, z);
                f.volume += deep * square;
                f.deepest = std::max(f.deepest, deep);
            }
    });
    for (const Pool& o : level.pools) {
        const auto [c, r] = nearestSample(level, o.x, o.z);
        if (o.id != pool.id && e.wet.at(c, r)) meets.insert(o.id);
    }
    f.meets.assign(meets.begin(), meets.end());
    f.islands = islandsIn(level, e.wet);
    f.leak = leakOf(level, pool, e, context);
    if (f.leak) f.brim = f.leak->brim;
    else if (!pool.sea && f.area > 0) {
        // A surface that stands just at its brim is full and does not run over.
        const float below = std::nextafter(pool.height, -1e9f);
        const std::vector<Brim> brims = brimsAt(level, pool.x, pool.z, below, 1, context);
        if (!brims.empty()) f.brim = brims[0].height;
    }
    return f;
}

double manningSpeed(double depth, double width, double fall, double manning) {
    if (depth <= 0 || width <= 0 || fall <= 0) return 0;
    const double radius = depth * width / (width + 2 * depth);
    return std::min(std::cbrt(radius * radius) * std::sqrt(fall) / manning, kFastestWater);
}

StreamFigures streamFigures(const Level& level, const Stream& stream) {
    StreamFigures f;
    const std::vector<LinePoint> line = streamLine(level, stream);
    if (line.size() < 2) return f;
    f.length = line.back().along;
    f.fall = line.front().height - line.back().height;
    double seconds = 0, drop = 0;
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const LinePoint &a = line[i], &b = line[i + 1];
        const double run = b.along - a.along, down = a.height - b.height;
        if (run <= 1e-9) continue;
        const double speed = manningSpeed(stream.depth, a.width, down / run, stream.manning);
        f.fastest = std::max(f.fastest, speed);
        seconds += run / std::max(speed, 0.05);
        if (down / run > kFallSlope) drop += down;
        if (down / run <= kFallSlope || i + 2 == line.size()) {
            f.falls += drop >= kLeastFall;
            drop = 0;
        }
    }
    f.mean = seconds > 0 ? f.length / seconds : 0;
    // Just beyond the shoulders, on either side, the ground has to be higher than the water.
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const LinePoint &a = line[i], &b = line[i + 1];
        const double length = std::hypot(b.x - a.x, b.z - a.z), out = 0.5 * a.width + a.shoulder + level.spacing;
        // Where it falls, it stands free.
        if (length < 1e-9 || a.height - b.height > kFallSlope * length || level.pool(waterAt(level, a.x, a.z).body))
            continue;
        for (const double side : {-1.0, 1.0}) {
            const double x = a.x - side * out * (b.z - a.z) / length, z = a.z + side * out * (b.x - a.x) / length;
            if (!level.holds(x, z) || waterAt(level, x, z).wet()) continue;
            double bank = altitudeAt(level, x, z);
            // Whatever rises between the bed and there holds it too.
            for (double share = 0.5; share < 1; share += 0.1)
                bank = std::max(bank, altitudeAt(level, a.x + share * (x - a.x), a.z + share * (z - a.z)));
            if (a.height - bank > f.over) f.over = a.height - bank, f.x = a.x, f.z = a.z;
        }
    }
    const Wet end = waterAt(level, line.back().x, line.back().z);
    if (level.pool(end.body)) f.into = end.body;
    return f;
}

std::array<double, 2> flowAt(const Level& level, double x, double z) {
    const Wet w = waterAt(level, x, z);
    const Stream* s = level.stream(w.body);
    if (!s) return {0, 0};
    const std::vector<LinePoint> line = streamLine(level, *s);
    double best = 1e30;
    std::array<double, 2> flow{0, 0};
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const LinePoint &a = line[i], &b = line[i + 1];
        const double run = b.along - a.along, away = std::hypot(0.5 * (a.x + b.x) - x, 0.5 * (a.z + b.z) - z);
        if (run <= 1e-9 || away >= best) continue;
        best = away;
        const double speed = manningSpeed(s->depth, a.width, (a.height - b.height) / run, s->manning);
        flow = {speed * (b.x - a.x) / run, speed * (b.z - a.z) / run};
    }
    return flow;
}

// --- mending ------------------------------------------------------------------------------------------------------

namespace {

Error noSuchPool() { return {"", "pool", "there is no such pool", "choose one of the level"}; }
Error noLeak(const Pool& pool) { return {"", pool.name, "it does not leak", "nothing has to be mended"}; }

}  // namespace

Status lowerToBrim(Level& level, uint32_t id) {
    Pool* pool = level.pool(id);
    if (!pool) return noSuchPool();
    const std::optional<Leak> leak = leakOf(level, *pool);
    if (!leak) return noLeak(*pool);
    if (!std::isfinite(leak->brim) || leak->brim < level.lowest)
        return Error{"", pool->name, "it has no brim: it stands in an opening", "move it or close the opening"};
    pool->height = leak->brim;
    return {};
}

Result<double> raiseRim(Level& level, uint32_t id, const Dam& dam) {
    const Pool* pool = level.pool(id);
    if (!pool) return noSuchPool();
    if (const Status s = checkNumbers(dam, kDamNumbers); !s) return s.error();
    if (const Status s = checkShapeable(level); !s) return s.error();
    const Extent e = extentOf(level, *pool);
    if (!e.leaks) return noLeak(*pool);
    const float top = pool->height + dam.over;
    if (top > level.highest)
        return Error{
            "", pool->name,
            "the dam would stand at " + number(top) + " m, above the level's range (" + number(level.highest) + " m)",
            "lower the surface"};
    // Wherever the pool's samples touch ground by which it runs out, or the level's edge.
    BitTiles rim(level.columns, level.rows);
    Region reach;
    e.wet.each([&](int x, int z) {
        bool runs = !pool->sea && (x == 0 || z == 0 || x == level.columns - 1 || z == level.rows - 1);
        for (const auto& [dx, dz] : kJoined)
            runs = runs || (level.bounds().contains(x + dx, z + dz) && e.drain.at(x + dx, z + dz));
        if (!runs) return;
        rim.set(x, z);
        reach = reach.joined({x, z, x + 1, z + 1});
    });
    const double half = 0.5 * dam.width / level.spacing, sides = dam.sides / level.spacing, far = half + sides;
    reach = reach.grown(static_cast<int>(std::ceil(far)) + 1).clipped(level.bounds());
    const Raster<float> away = distancesTo(reach, level.bounds(), far + 1, [&](int x, int z) { return rim.at(x, z); });
    Level mended = level;
    Raster<float> before(reach.width(), reach.depth()), after = before;
    readGround(level, reach, before.view());
    for (int z = 0; z < reach.depth(); ++z)
        for (int x = 0; x < reach.width(); ++x) {
            const double beyond = away.at(x, z) - half;
            const float now = before.at(x, z);
            float to = top;
            if (beyond > 0)
                to = sides > 0 ? now + (top - now) * smoothstep(static_cast<float>(1 - beyond / sides)) : now;
            after.at(x, z) = std::max(now, to);
        }
    writeGround(mended, reach, before.view(), after.view());
    if (const Pool still = *mended.pool(id); extentOf(mended, still).leaks)
        return Error{"", pool->name, "it would leak still: a course owns the ground where it runs out",
                     "move the course, or lower the surface"};
    double earth = 0;
    Raster<float> made(reach.width(), reach.depth());
    readGround(mended, reach, made.view());
    for (int z = 0; z < reach.depth(); ++z)
        for (int x = 0; x < reach.width(); ++x)
            earth += (made.at(x, z) - before.at(x, z)) * level.spacing * level.spacing;
    level = std::move(mended);
    return earth;
}

}  // namespace jam
