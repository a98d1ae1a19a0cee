// Water: floods, brims, leaks, islands and streams, against slow oracles.
#include "water/water.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "base/parallel.h"
#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "cover/rule_masks.h"
#include "cover/rules.h"
#include "files/fields.h"
#include "files/level_file.h"
#include "files/png.h"
#include "folder.h"
#include "handover/handover.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"
#include "water/figures.h"
#include "water/outline.h"
#include "water/rise.h"

using namespace jam;
using namespace jam::test;

namespace {

// --- the slow, obvious versions -------------------------------------------------------------------------------------

struct Grid {
    int w, d;
    std::vector<float> h;
    float at(int x, int z) const { return h[static_cast<size_t>(z * w + x)]; }
    bool edge(int x, int z) const { return x == 0 || z == 0 || x == w - 1 || z == d - 1; }
};

// Joined by an edge of the triangles that altitudeAt() speaks of: each cell is split from north-west to south-east.
template <class F>
void eachNeighbour(const Grid& g, int x, int z, F f) {
    for (int dz = -1; dz <= 1; ++dz)
        for (int dx = -1; dx <= 1; ++dx)
            if ((dx || dz) && dx != -dz && x + dx >= 0 && z + dz >= 0 && x + dx < g.w && z + dz < g.d)
                f(x + dx, z + dz);
}

// All samples joined to (x, z) below a height, by looking again until nothing changes.
std::vector<char> plainFlood(const Grid& g, const std::vector<std::pair<int, int>>& seeds, float height) {
    std::vector<char> in(g.h.size());
    for (const auto& [x, z] : seeds) in[static_cast<size_t>(z * g.w + x)] = g.at(x, z) < height;
    bool back = false;
    for (bool more = true; more; back = !back) {
        more = false;
        for (int k = 0; k < g.w * g.d; ++k) {
            const int i = back ? g.w * g.d - 1 - k : k, x = i % g.w, z = i / g.w;
            if (in[static_cast<size_t>(z * g.w + x)] || g.at(x, z) >= height) continue;
            bool joined = false;
            eachNeighbour(g, x, z, [&](int a, int b) { joined = joined || in[static_cast<size_t>(b * g.w + a)]; });
            if (joined) in[static_cast<size_t>(z * g.w + x)] = 1, more = true;
        }
    }
    return in;
}

// The brim of a sample: every sample takes the least that its neighbours let through, until nothing changes.
template <class Lost>
std::vector<float> plainBrims(const Grid& g, Lost lost) {
    std::vector<float> f(g.h.size(), 1e30f);
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x)
            if (lost(x, z)) f[static_cast<size_t>(z * g.w + x)] = g.at(x, z);
    bool back = false;  // to and fro, or it would take as many rounds as a way is long
    for (bool more = true; more; back = !back) {
        more = false;
        for (int k = 0; k < g.w * g.d; ++k) {
            const int i = back ? g.w * g.d - 1 - k : k, x = i % g.w, z = i / g.w;
            float& mine = f[static_cast<size_t>(z * g.w + x)];
            eachNeighbour(g, x, z, [&](int a, int b) {
                const float through = std::max(g.at(x, z), f[static_cast<size_t>(b * g.w + a)]);
                if (through < mine) mine = through, more = true;
            });
        }
    }
    return f;
}

std::vector<float> plainBrims(const Grid& g) {
    return plainBrims(g, [&](int x, int z) { return g.edge(x, z); });
}

Level levelOf(const Grid& g) {
    Level l = flatLevel(g.w, g.d);
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x) l.strata[0].heights.set(x, z, g.at(x, z));
    return l;
}
Grid gridOf(const Level& l) {
    Grid g{l.columns, l.rows, std::vector<float>(static_cast<size_t>(l.columns) * static_cast<size_t>(l.rows))};
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x) g.h[static_cast<size_t>(z * g.w + x)] = groundSample(l, x, z);
    return g;
}

Pool poolOver(const Level& l, int c, int r, float height, const std::string& name = "pond") {
    Pool p;
    p.name = name;
    p.x = l.originX + c * l.spacing, p.z = l.originZ + r * l.spacing;
    p.height = height;
    return p;
}

bool same(const BitTiles& bits, const std::vector<char>& oracle) {
    for (int z = 0; z < bits.rows(); ++z)
        for (int x = 0; x < bits.columns(); ++x)
            if (bits.at(x, z) != (oracle[static_cast<size_t>(z * bits.columns() + x)] != 0)) return false;
    return true;
}

// What a pool covers and the brim at its place, by the words of water.h.
struct PlainExtent {
    std::vector<char> wet;
    bool leaks = false;
    float brim = 1e30f;  // above which it is lost, if anywhere
};
PlainExtent plainExtent(const Grid& g, int c, int r, float height) {
    const auto lost = [&](int x, int z) { return g.edge(x, z) || g.at(x, z) < g.at(c, r) - kLeastHollow; };
    PlainExtent e{plainFlood(g, {{c, r}}, height)};
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x) e.leaks = e.leaks || (lost(x, z) && e.wet[static_cast<size_t>(z * g.w + x)]);
    if (!e.leaks) return e;
    const std::vector<float> brims = plainBrims(g, lost);
    e.brim = brims[static_cast<size_t>(r * g.w + c)];
    Grid own = g;
    for (size_t i = 0; i < own.h.size(); ++i)
        if (brims[i] < e.brim) own.h[i] = 1e30f;  // it drains lower
    e.wet = plainFlood(own, {{c, r}}, height);
    return e;
}

void checkGrid(const Grid& g) {
    const std::vector<float> brims = plainBrims(g);
    std::vector<float> filled(g.h.size());
    REQUIRE(fillToBrim({g.h.data(), g.w, g.d, g.w}, {filled.data(), g.w, g.d, g.w}));
    REQUIRE(filled == brims);
}

void checkPools(const Grid& g, const std::vector<float>& heights) {
    const Level l = levelOf(g);
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x)
            for (const float h : heights) {
                const Pool p = poolOver(l, x, z, h);
                const Extent e = extentOf(l, p);
                const PlainExtent plain = plainExtent(g, x, z, h);
                REQUIRE(same(e.wet, plain.wet));
                REQUIRE(e.leaks == plain.leaks);
                const auto leak = leakOf(l, p);
                REQUIRE(leak.has_value() == e.leaks);
                if (!leak) continue;
                const float brim = plain.brim;
                REQUIRE(leak->brim == brim);
                REQUIRE(leak->over == h - brim);
                // The way begins at the brim and never rises above it; it ends where water is lost.
                REQUIRE(groundSample(l, static_cast<int>(l.toColumn(leak->x)), static_cast<int>(l.toRow(leak->z))) ==
                        brim);
                for (const auto& [px, pz] : leak->way)
                    REQUIRE(g.at(static_cast<int>(l.toColumn(px)), static_cast<int>(l.toRow(pz))) <= brim);
                const int ex = static_cast<int>(l.toColumn(leak->way.back()[0])),
                          ez = static_cast<int>(l.toRow(leak->way.back()[1]));
                REQUIRE((g.edge(ex, ez) || g.at(ex, ez) < g.at(x, z)));
            }
}

Grid tinyGrid(int w, int d, long long number) {
    Grid g{w, d, {}};
    for (int i = 0; i < w * d; ++i, number /= 3) g.h.push_back(static_cast<float>(number % 3));
    return g;
}

// A bowl of 2 m depth in flat ground at 5 m, with a notch to the east down to `notch` metres.
Level bowl(float notch, int columns = 61, int rows = 49, double spacing = 1) {
    Level l = flatLevel(columns, rows, 3, spacing);
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            const double away = std::hypot(c - 25.0, r - 22.0);
            float h = 5 + 3 * static_cast<float>(std::exp(-(away - 12) * (away - 12) / 8));
            if (away < 12) h = std::max(3.f, 8 - static_cast<float>(12 - away));
            if (std::abs(r - 22) <= 1 && c > 25) h = std::min(h, std::max(notch, away < 9 ? 3.f : 0.f));
            if (c > 40) h = std::min(h, notch - 0.1f * static_cast<float>(c - 40));
            l.strata[0].heights.set(c, r, h);
        }
    return l;
}

// Islands by the definition: pieces of what is not wet, joined as triangles are, that reach no edge of the level.
int plainIslands(const Grid& g, const std::vector<char>& wet) {
    std::vector<char> seen = wet;
    int islands = 0;
    for (int i = 0; i < static_cast<int>(seen.size()); ++i) {
        if (seen[static_cast<size_t>(i)]) continue;
        std::vector<int> open{i};
        seen[static_cast<size_t>(i)] = 1;
        bool inside = true;
        while (!open.empty()) {
            const int k = open.back();
            open.pop_back();
            inside = inside && !g.edge(k % g.w, k / g.w);
            eachNeighbour(g, k % g.w, k / g.w, [&](int a, int b) {
                char& s = seen[static_cast<size_t>(b * g.w + a)];
                if (!s) s = 1, open.push_back(b * g.w + a);
            });
        }
        islands += inside;
    }
    return islands;
}

}  // namespace

TEST_CASE("brims are the slow oracle's on every grid of 3 x 3 of three heights") {
    for (int n = 0; n < 19683; ++n) checkGrid(tinyGrid(3, 3, n));
}

TEST_CASE("brims are the slow oracle's on one in 997 grids of 4 x 4 of three heights") {
    for (long long n = 0; n < 43046721; n += 997) checkGrid(tinyGrid(4, 4, n));
}

TEST_CASE("brims are the slow oracle's on every grid of 4 x 4 of three heights", "[.exhaustive]") {
    // The oracle and the fill are told apart from Catch's own cost.
    for (long long n = 0; n < 43046721; ++n) {
        const Grid g = tinyGrid(4, 4, n);
        std::vector<float> filled(16);
        if (!fillToBrim({g.h.data(), 4, 4, 4}, {filled.data(), 4, 4, 4}) || filled != plainBrims(g)) FAIL(n);
    }
}

TEST_CASE("pools, leaks and their ways are the slow oracle's on tiny grids") {
    for (int n = 0; n < 19683; n += 7) checkPools(tinyGrid(3, 3, n), {1, 2, 3});
    for (long long n = 5; n < 43046721; n += 94307) checkPools(tinyGrid(4, 4, n), {0.5f, 2, 2.5f});
}

TEST_CASE("floods, leaks and islands are the slow oracle's on random ground, across tiles", "[property]") {
    Random random(15);
    int leaking = 0;
    for (int k = 0; k < 14; ++k) {
        // Oblong, across a few tiles, with plateaus so that heights are equal often.
        Grid g{wholeBetween(random, 60, 140), wholeBetween(random, 30, 135), {}};
        const Level hills = hillyLevel(g.w, g.d, static_cast<uint32_t>(k) + 1);
        g.h = gridOf(hills).h;
        if (k % 2)
            for (float& h : g.h) h = std::round(h);
        const Level l = levelOf(g);
        const std::vector<float> brims = plainBrims(g);
        for (int n = 0; n < 6; ++n) {
            int c = wholeBetween(random, 0, g.w - 1), r = wholeBetween(random, 0, g.d - 1);
            // By the bottom of a hollow, or anywhere.
            if (const auto brims = brimsAt(l, l.originX + c, l.originZ + r, -1e9f); n % 3 && !brims.empty())
                c = brims[0].column, r = brims[0].row;
            const float h = g.at(c, r) + static_cast<float>(between(random, 0.1, n % 2 ? 9 : 2));
            const Pool p = poolOver(l, c, r, h);
            const Extent e = extentOf(l, p);
            const PlainExtent plain = plainExtent(g, c, r, h);
            const std::vector<char>& wet = plain.wet;
            REQUIRE(same(e.wet, wet));
            REQUIRE(e.leaks == plain.leaks);
            leaking += e.leaks;
            const PoolFigures f = poolFigures(l, p);
            double volume = 0, area = 0;
            float deepest = 0;
            for (size_t i = 0; i < wet.size(); ++i)
                if (wet[i]) volume += h - g.h[i], area += 1, deepest = std::max(deepest, h - g.h[i]);
            CHECK(f.area == area);
            CHECK(f.volume == Approx(volume));
            CHECK(f.deepest == deepest);
            CHECK(f.islands == plainIslands(g, wet));
        }
        std::vector<float> filled(g.h.size());
        REQUIRE(fillToBrim({g.h.data(), g.w, g.d, g.w}, {filled.data(), g.w, g.d, g.w}));
        REQUIRE(filled == brims);
    }
    CHECK(leaking > 20);
    CHECK(leaking < 70);
}

TEST_CASE("a sea is all low ground that the edge reaches, and what is no land") {
    Random random(4);
    Level l = hillyLevel(130, 90, 6);
    const Grid g = gridOf(l);
    Pool sea;
    sea.sea = true;
    sea.name = "bay";
    sea.height = 4;
    std::vector<std::pair<int, int>> edge;
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x)
            if (g.edge(x, z)) edge.emplace_back(x, z);
    CHECK(same(extentOf(l, sea).wet, plainFlood(g, edge, 4)));
    CHECK_FALSE(extentOf(l, sea).leaks);
    // High ground by the edge that is taken away lets it in; an opening inside drains it.
    const int c = 40, r = 30;
    for (int z = 0; z < 45; ++z)
        for (int x = c - 4; x < c + 5; ++x) l.noLand.set(x, z, 255);
    CHECK(extentOf(l, sea).wet.at(c, r));
    Level pierced = l;
    for (int z = 40; z < 46; ++z)
        for (int x = c + 5; x < c + 12; ++x) {
            pierced.opening.set(x, z, 255);
            pierced.strata[0].heights.set(x, z, -10);
        }
    const Extent holed = extentOf(pierced, sea);
    CHECK(holed.leaks);
    CHECK_FALSE(holed.wet.at(c + 7, 43));
    CHECK(leakOf(pierced, sea)->opening);
    // A pool next to an opening leaks through it.
    Level pond = bowl(9);
    pond.opening.set(25, 22, 255);
    const Pool p = poolOver(pond, 28, 22, 5);
    const auto leak = leakOf(pond, p);
    REQUIRE(leak);
    CHECK(leak->opening);
    CHECK(leak->brim == Approx(3));
}

TEST_CASE("a click fills a hollow to its brim, and the next click fills the one around it") {
    // A pit of 1 m in a basin of 4 m in a slope; dents of 5 cm do not count.
    Level l = flatLevel(101, 81);
    for (int r = 0; r < 81; ++r)
        for (int c = 0; c < 101; ++c) {
            const double basin = std::hypot(c - 50.0, r - 40.0), pit = std::hypot(c - 66.0, r - 42.0);
            double h = 20 - 0.02 * c + 0.05 * ((c * 7 + r * 3) % 2);
            if (basin < 25) h = std::min(h, 16 + 4.0 * basin * basin / 625);
            if (basin < 8) h -= 0.5 * (8 - basin);
            if (pit < 5) h = std::max(h - 3, 15.3);
            l.strata[0].heights.set(c, r, static_cast<float>(h));
        }
    const Grid g = gridOf(l);
    const double x = l.originX + 67, z = l.originZ + 42;
    const auto brims = brimsAt(l, x, z, -1e9f, 9);
    REQUIRE(brims.size() == 2);
    CHECK(brims[0].height < brims[1].height);
    CHECK(brims[1].out);
    CHECK_FALSE(brims[0].out);
    // The outermost is what water can stand at before it leaves the level, by the oracle.
    CHECK(brims[1].height == plainBrims(g)[42 * 101 + 67]);
    // Below each brim nothing lower than its bottom is reached; just above it, it is.
    for (const Brim& b : brims)
        for (const bool over : {false, true}) {
            const auto wet = plainFlood(g, {{b.column, b.row}}, b.height + (over ? 0.01f : 0));
            bool lower = false;
            for (int i = 0; i < g.w * g.d; ++i)
                lower = lower || (wet[static_cast<size_t>(i)] &&
                                  (g.h[static_cast<size_t>(i)] < g.at(b.column, b.row) - kLeastHollow ||
                                   g.edge(i % g.w, i / g.w)));
            CHECK(lower == over);
        }
    Result<Pool> first = poolAt(l, x, z);
    REQUIRE(first);
    CHECK(first.value().height == brims[0].height);
    first.value().name = "pit";
    REQUIRE(addPool(l, first.value()));
    refillWater(l);
    CHECK(poolAt(l, x, z).value().height == brims[1].height);
    // From the slope above it runs into the basin, and elsewhere out of the level.
    const Result<Pool> off = poolAt(l, l.originX + 5, l.originZ + 5);
    REQUIRE_FALSE(off);
    CHECK(off.error().problem.find("runs off here, to x") != std::string::npos);
    const Result<Pool> none = poolAt(l, l.originX + 95, l.originZ + 5);
    REQUIRE_FALSE(none);
    CHECK(none.error().problem.find("holds no water") != std::string::npos);
    CHECK_FALSE(poolAt(l, 1e5, 0));
}

TEST_CASE("raising a surface step by step runs two pools together exactly when the sill is passed") {
    Level l = flatLevel(40, 30);
    for (int r = 0; r < 30; ++r)
        for (int c = 0; c < 40; ++c) {
            const bool left = c > 4 && c < 16 && r > 5 && r<25, right = c> 19 && c < 34 && r > 5 && r < 25;
            float h = left ? 1.f : right ? 2.f : 9.f;
            if (r == 12 && c >= 16 && c <= 19) h = 4.3f;  // the sill
            l.strata[0].heights.set(c, r, h);
        }
    const auto one = addPool(l, poolOver(l, 8, 10, 3, "left")), other = addPool(l, poolOver(l, 25, 10, 3.5f, "right"));
    REQUIRE(one);
    REQUIRE(other);
    for (float h = 3; h < 6; h += 0.1f) {
        l.pool(one.value())->height = h;
        refillWater(l);
        const PoolFigures f = poolFigures(l, *l.pool(one.value()));
        const bool over = h > 4.3f;
        CHECK(f.meets.empty() == !over);
        CHECK((l.water.at(25, 10).body == one.value()) == over);
        CHECK(l.water.at(25, 10).surface == (over ? h : 3.5f));
        CHECK(l.water.at(17, 12).wet() == over);
        CHECK_FALSE(f.leak);
        CHECK(checkLevel(l).empty());
    }
}

TEST_CASE("a leak is told, and both ways of mending close it") {
    for (const double spacing : {0.5, 1.0, 3.0}) {
        Level l = bowl(4.4f, 61, 49, spacing);
        const auto id = addPool(l, poolOver(l, 22, 22, 5.2f, "mill pond"));
        REQUIRE(id);
        refillWater(l);
        const auto leak = leakOf(l, *l.pool(id.value()));
        REQUIRE(leak);
        CHECK(leak->towards == "east");
        CHECK(leak->brim == Approx(4.4f));
        CHECK(leak->over == Approx(0.8f).margin(1e-5));
        CHECK(leak->way.size() > 5);
        CHECK_FALSE(leak->opening);
        // The slope beyond the rim stays dry.
        CHECK_FALSE(l.water.at(55, 22).wet());
        CHECK(l.water.at(25, 22).wet());

        Level lower = l;
        REQUIRE(lowerToBrim(lower, id.value()));
        CHECK(poolFigures(lower, *lower.pool(id.value())).brim == Approx(4.4f));
        lower.pool(id.value())->height -= 0.3f;
        CHECK(poolFigures(lower, *lower.pool(id.value())).brim == Approx(4.4f));
        lower.pool(id.value())->height += 0.3f;
        CHECK_FALSE(leakOf(lower, *lower.pool(id.value())));
        CHECK_FALSE(lowerToBrim(lower, id.value()));

        Level dammed = l;
        const Result<double> earth = raiseRim(dammed, id.value(), {static_cast<float>(2 * spacing), 4, 0.25f});
        REQUIRE(earth);
        CHECK(earth.value() > 0);
        CHECK_FALSE(leakOf(dammed, *dammed.pool(id.value())));
        Change change = changesBetween(dammed, l);
        refreshWater(dammed, change);
        CHECK_FALSE(dammed.water.at(55, 22).wet());
        double sum = 0, highest = 0;
        for (int r = 0; r < l.rows; ++r)
            for (int c = 0; c < l.columns; ++c) {
                const float more = groundSample(dammed, c, r) - groundSample(l, c, r);
                REQUIRE(more >= 0);
                sum += more * spacing * spacing;
                if (more > 0) highest = std::max<double>(highest, groundSample(dammed, c, r));
            }
        CHECK(sum == Approx(earth.value()));
        CHECK(highest <= Approx(5.45));
        CHECK_FALSE(raiseRim(dammed, id.value(), {}));  // it does not leak any more
        CHECK(checkLevel(dammed).empty());
    }
}

TEST_CASE("mending a leak refuses what cannot hold, and changes nothing") {
    Level l = bowl(4.4f);
    const auto id = addPool(l, poolOver(l, 22, 22, 5.2f));
    const Level before = l;
    CHECK_FALSE(raiseRim(l, id.value(), {0.1f, 6, 0.3f}));
    CHECK_FALSE(raiseRim(l, 999, {}));
    Level low = l;
    low.highest = 5.3f;
    CHECK(raiseRim(low, id.value(), {}).error().problem.find("above the level's range") != std::string::npos);
    // A course owns the rim: earth is not piled up below it.
    Level crossed = l;
    Course road;
    for (const double z : {-20.0, 20.0}) {
        Post p;
        p.x = 6, p.z = z, p.height = 4.4f, p.width = 10;
        road.posts.push_back(p);
    }
    addCourse(crossed, "road", road);
    const Level asItWas = crossed;
    const Result<double> refused = raiseRim(crossed, id.value(), {});
    REQUIRE_FALSE(refused);
    CHECK(refused.error().problem.find("course owns") != std::string::npos);
    CHECK(crossed == asItWas);
    Level locked = l;
    locked.strata[0].locked = true;
    CHECK_FALSE(raiseRim(locked, id.value(), {}));
    CHECK(l == before);
}

TEST_CASE("water follows the ground with any work, as if it were made anew", "[property]") {
    Random random(88);
    Level level = hillyLevel(150, 110, 12, 3);
    for (int i = 0; i < 3; ++i) {
        Result<Pool> p = poolAt(level, between(random, -60, 60), between(random, -40, 40));
        if (!p) continue;
        p.value().name = freeWaterName(level, "pond");
        REQUIRE(addPool(level, p.value()));
    }
    Pool sea = poolOver(level, 0, 0, 1.5f, "bay");
    sea.sea = true;
    REQUIRE(addPool(level, sea));
    Course bed;
    bed.use = CourseUse::carve;
    for (const double x : {-50.0, -10.0, 30.0}) {
        Post p;
        p.x = x, p.z = 0.3 * x, p.height = static_cast<float>(6 - 0.05 * x), p.width = 4, p.shoulder = 5;
        bed.posts.push_back(p);
    }
    Stream stream;
    stream.name = "beck";
    stream.course = addCourse(level, "beck's bed", bed);
    REQUIRE(addStream(level, stream));
    level = commitWork(level, level).value().level;
    CHECK(level.water.presentTiles() == 0);  // nothing differs, so nothing followed yet
    refillWater(level);
    CHECK(level.water.presentTiles() > 0);
    for (int i = 0; i < 40; ++i) {
        Stroke s;
        s.settings = usualSettings(i % 3 ? Tool::raise : Tool::lower);
        s.settings.radius = static_cast<float>(between(random, 3, 14));
        s.points = {{between(random, -70, 70), between(random, -50, 50), 1, 0}};
        s.points.push_back({s.points[0].x + between(random, -20, 20), s.points[0].z, 1, 1});
        Level next = level;
        REQUIRE(runStroke(next, s));
        const Change all = changesBetween(next, level);
        const Result<Commit> done = commitWork(level, next);
        REQUIRE(done);
        Level anew = done.value().level;
        anew.water = TiledGrid<Wet>(anew.columns, anew.rows, {});
        refillWater(anew);
        REQUIRE(done.value().level.water == anew.water);
        REQUIRE(done.value().level.pools == anew.pools);
        // What is told as changed holds all that differs.
        const Level& now = done.value().level;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c)
                if (!(now.water.at(c, r) == level.water.at(c, r))) REQUIRE(done.value().change.water.contains(c, r));
        level = now;
    }
}

TEST_CASE("a pool whose place is filled up keeps what is left of it") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 25, 22, 5));
    refillWater(l);
    Level filled = l;
    for (int r = 18; r < 27; ++r)
        for (int c = 21; c < 30; ++c) filled.strata[0].heights.set(c, r, 7);
    const Level now = commitWork(l, filled).value().level;
    const Pool& p = *now.pool(id.value());
    CHECK_FALSE(now.water.at(25, 22).wet());
    CHECK(now.water.at(static_cast<int>(std::lround(now.toColumn(p.x))), static_cast<int>(std::lround(now.toRow(p.z))))
              .wet());
    CHECK(poolFigures(now, p).islands == 1);
    CHECK(poolFigures(now, p).area > 100);
}

TEST_CASE("the same water whatever the number of threads") {
    const Level level = bowl(9, 150, 90);
    const Result<Pool> p = poolAt(level, level.originX + 25, level.originZ + 22);
    REQUIRE(p);
    Level a = level, b = level;
    Pool pool = p.value();
    pool.name = "pond";
    REQUIRE(addPool(a, pool));
    REQUIRE(addPool(b, pool));
    {
        const ThreadLimit one(1);
        refillWater(a);
    }
    refillWater(b);
    CHECK(a == b);
}

// --- streams ---------------------------------------------------------------------------------------------------------

namespace {

// Ground that falls to the east, with a pond in a bowl at the end, and a stream that runs into it.
Level brook(bool fall, uint32_t& stream, uint32_t& pond) {
    Level l = flatLevel(141, 61, 3);
    for (int r = 0; r < 61; ++r)
        for (int c = 0; c < 141; ++c) {
            const double away = std::hypot(c - 115.0, r - 30.0);
            double h = 20 - 0.1 * c + (fall && c > 50 ? -3 : 0) + 0.4 * std::sin(c * 0.7);
            h = std::max(h, 6.0);
            if (away < 18) h = 1 + away * away * 0.02;
            l.strata[0].heights.set(c, r, static_cast<float>(h));
        }
    Course bed;
    bed.use = CourseUse::carve;
    const double xs[] = {10, 48, 52, 90, 110};
    const float hs[] = {18.5f, 14.5f, fall ? 11.f : 14.f, 7, 3}, ws[] = {2, 2, 3, 5, 6};
    for (int i = 0; i < 5; ++i) {
        Post p;
        p.x = l.originX + xs[i], p.z = l.originZ + 30 + (i == 2 ? 2 : 0), p.height = hs[i], p.width = ws[i],
        p.shoulder = 4;
        bed.posts.push_back(p);
    }
    Stream s;
    s.name = "mill stream";
    s.course = addCourse(l, "bed", bed);
    s.depth = 0.4f;
    const auto pool = addPool(l, poolOver(l, 115, 30, 5, "mill pond"));
    const auto made = addStream(l, s);
    REQUIRE(pool);
    REQUIRE(made);
    refillWater(l);
    pond = pool.value(), stream = made.value();
    return l;
}

}  // namespace

TEST_CASE("a stream's surface only falls, keeps to its bed, and meets its pool without a step") {
    for (const bool fall : {false, true}) {
        uint32_t stream = 0, pond = 0;
        const Level l = brook(fall, stream, pond);
        const Stream& s = *l.stream(stream);
        const std::vector<LinePoint> line = streamLine(l, s), bed = lineOf(l, 1);
        REQUIRE(line.size() == bed.size());
        bool joined = false;
        for (size_t i = 0; i < line.size(); ++i) {
            INFO(l.toColumn(line[i].x) << " " << l.toRow(line[i].z) << " bed " << bed[i].height);
            if (i > 0) CHECK(line[i].height <= line[i - 1].height);
            const Wet w = waterAt(l, line[i].x, line[i].z);
            REQUIRE(w.wet());
            if (w.body == stream) CHECK(line[i].height == Approx(bed[i].height + 0.4).margin(0.2));
            else CHECK(line[i].height == Approx(std::max(bed[i].height + 0.4, 5.0)));
            // Where the pool takes over, both stand at one height but for what the bed falls on the way of a sample.
            if (i > 0 && w.body == pond && !joined) {
                CHECK(line[i - 1].height - line[i].height < 0.3);
                joined = true;
            }
            if (joined) CHECK(w.body == pond);
        }
        CHECK(joined);
        // It does not stand beyond its shoulders, nor above ground higher than its surface.
        for (int r = 0; r < l.rows; ++r)
            for (int c = 0; c < l.columns; ++c) {
                const float h = s.surface.at(c, r);
                if (h == kDry) continue;
                CHECK(groundSample(l, c, r) < h);
                double away = 1e9;
                for (const LinePoint& p : line)
                    away = std::min(away,
                                    std::hypot(p.x - l.originX - c, p.z - l.originZ - r) - 0.5 * p.width - p.shoulder);
                CHECK(away < 1);
            }
        // Wider where the posts say so.
        const auto across = [&](int c) {
            int n = 0;
            for (int r = 0; r < l.rows; ++r) n += l.water.at(c, r).body == stream;
            return n;
        };
        CHECK(across(80) > across(20));
        const StreamFigures f = streamFigures(l, s);
        CHECK(f.falls == (fall ? 1 : 0));
        CHECK(f.into == pond);
        CHECK(f.fall == Approx(18.9 - 5).margin(0.05));
        CHECK(f.fastest > f.mean);
        if (!fall) CHECK(f.over < 0.5);  // the ground's ripples are as high as the stream is deep
        // It runs east where it runs, and stands in the pond.
        const auto flow = flowAt(l, l.originX + 30, l.originZ + 30);
        CHECK(flow[0] > 0.5);
        CHECK(std::abs(flow[1]) < flow[0]);
        CHECK(flowAt(l, l.originX + 118, l.originZ + 30) == std::array<double, 2>{0, 0});
        CHECK(checkLevel(l).empty());
    }
}

TEST_CASE("the speed of a stream is Manning's") {
    // 0.5 m deep, 4 m wide: hydraulic radius 2 / 5 = 0.4 m.
    CHECK(manningSpeed(0.5, 4, 0.01, 0.04) == Approx(std::pow(0.4, 2.0 / 3) * 0.1 / 0.04));
    CHECK(manningSpeed(0.5, 4, 0, 0.04) == 0);
    CHECK(manningSpeed(0.5, 4, -0.1, 0.04) == 0);
    CHECK(manningSpeed(40, 400, 1, 0.01) == kFastestWater);
}

TEST_CASE("a stream on ground lower than its surface says that it stands over its banks") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(false, stream, pond);
    l.stream(stream)->depth = 6;
    refillWater(l);
    const StreamFigures f = streamFigures(l, *l.stream(stream));
    CHECK(f.over > 1);
    CHECK(l.holds(f.x, f.z));
}

TEST_CASE("a stream goes with its course, and follows its posts") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(false, stream, pond);
    Level moved = l;
    for (Post& p : moved.strata[1].course->posts) p.z += 8;
    const Level now = commitWork(l, moved).value().level;
    CHECK(l.water.at(30, 30).body == stream);
    CHECK(now.water.at(30, 38).body == stream);
    CHECK_FALSE(now.water.at(30, 30).wet());
    Level hidden = l;
    hidden.strata[1].visible = false;
    CHECK_FALSE(commitWork(l, hidden).value().level.water.at(30, 30).wet());
    Level gone = l;
    REQUIRE(removeStratum(gone, gone.strata[1].id));
    gone = commitWork(l, gone).value().level;
    CHECK(gone.streams.empty());
    CHECK_FALSE(gone.water.at(30, 30).wet());
    CHECK(gone.water.at(115, 30).body == pond);
}

// --- wrong input, files, other work ----------------------------------------------------------------------------------

TEST_CASE("pools and streams that cannot be are refused in words") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(false, stream, pond);
    const Level before = l;
    const auto refuses = [&](const Result<uint32_t>& r, const char* words) {
        INFO(words);
        REQUIRE_FALSE(r);
        CHECK(r.error().sentence().find(words) != std::string::npos);
    };
    refuses(addPool(l, poolOver(l, 5, 5, 3, "mill pond")), "another pool or stream is called");
    refuses(addPool(l, poolOver(l, 5, 5, 3, "mill stream")), "another pool or stream is called");
    refuses(addPool(l, poolOver(l, 5, 5, 3, "")), "empty");
    refuses(addPool(l, poolOver(l, 5, 5, l.highest + 1)), "beyond the level's range");
    refuses(addPool(l, poolOver(l, 5, 5, std::nanf(""))), "height");
    refuses(addPool(l, poolOver(l, -5, 5, 3)), "outside of the level");
    Pool murky = poolOver(l, 5, 5, 3);
    murky.look.clearness = 0;
    refuses(addPool(l, murky), "clearness");
    Stream s;
    s.name = "other";
    s.course = l.strata[1].id;
    refuses(addStream(l, s), "runs there");
    s.course = l.strata[0].id;
    refuses(addStream(l, s), "no such course");
    CHECK(l == before);
    Level other = l;
    Course road = *l.strata[1].course;
    road.use = CourseUse::grade;
    s.course = addCourse(other, "road", road);
    refuses(addStream(other, s), "does not carve");
    road.use = CourseUse::carve;
    std::reverse(road.posts.begin(), road.posts.end());
    s.course = addCourse(other, "backwards", road);
    refuses(addStream(other, s), "uphill");
    Level plain = l;  // by the ground it rises too
    for (Post& p : road.posts) p.height.reset();
    s.course = addCourse(plain, "backwards on the ground", road);
    refuses(addStream(plain, s), "uphill");
    s.depth = 0;
    s.course = addCourse(other, "forwards", *l.strata[1].course);
    refuses(addStream(other, s), "depth");
    Level many = l;
    for (int i = 0; many.pools.size() + many.streams.size() < kMaxWaters; ++i)
        REQUIRE(addPool(many, poolOver(many, 5, 5, 3, "p" + std::to_string(i))));
    refuses(addPool(many, poolOver(many, 5, 5, 3, "one more")), "64");
}

TEST_CASE("water goes through the level file, and through undo, without being stored") {
    const Folder folder;
    uint32_t stream = 0, pond = 0;
    Level l = brook(true, stream, pond);
    l.pools[0].look = {{0.2f, 0.4f, 0.1f}, 5, 0.2f, 7, 0.4f, 1};
    l.streams[0].manning = 0.07f;
    refillWater(l);
    REQUIRE(saveLevel(l, folder.path / "water.jamhill"));
    const Result<Level> back = loadLevel(folder.path / "water.jamhill");
    REQUIRE(back);
    CHECK(back.value().pools == l.pools);
    CHECK(back.value().streams == l.streams);
    CHECK(back.value().water == l.water);
    CHECK(back.value() == l);
    // A course that no longer carves leaves the stream dry, and the level opens all the same.
    Level dry = l;
    dry.strata[1].course->use = CourseUse::grade;
    dry = commitWork(l, dry).value().level;
    CHECK_FALSE(dry.water.at(30, 30).wet());
    REQUIRE(saveLevel(dry, folder.path / "dry.jamhill"));
    const Result<Level> opened = loadLevel(folder.path / "dry.jamhill");
    REQUIRE(opened);
    CHECK(opened.value() == dry);
}

TEST_CASE("cropping and resampling keep pools and streams, and their water follows") {
    uint32_t stream = 0, pond = 0;
    const Level l = brook(true, stream, pond);
    const Level piece = commitWork(l, cropLevel(l, {20, 5, 141, 55}).value()).value().level;
    CHECK(piece.pools.size() == 1);
    CHECK(piece.water.at(115 - 20, 30 - 5).body == pond);
    CHECK(piece.water.at(30 - 20, 30 - 5).body == stream);
    CHECK(checkLevel(piece).empty());
    // One whose place is cut off goes.
    const Level west = commitWork(l, cropLevel(l, {0, 0, 80, 61}).value()).value().level;
    CHECK(west.pools.empty());
    CHECK(checkLevel(west).empty());
    const Level fine = commitWork(l, resampleLevel(l, 281, 121, 0.5).value()).value().level;
    CHECK(fine.water.at(230, 60).body == pond);
    CHECK(fine.water.at(60, 60).body == stream);
    CHECK(poolFigures(fine, fine.pools[0]).volume == Approx(poolFigures(l, l.pools[0]).volume).epsilon(0.05));
    CHECK(checkLevel(fine).empty());
}

TEST_CASE("a pool that is cut in two stays in the deeper part, on whichever side that is") {
    for (const bool west : {true, false}) {
        Level l = flatLevel(81, 41, 1, 2);
        l.lowest = -50, l.highest = 50;
        const auto dig = [&](int c0, int c1, int r0, int r1, float to) {
            for (int r = r0; r < r1; ++r)
                for (int c = c0; c < c1; ++c) l.strata[0].heights.set(c, r, to);
        };
        dig(10, 25, 15, 35, west ? -9.f : -4.f);
        dig(55, 70, 15, 35, west ? -4.f : -9.f);
        dig(10, 70, 4, 16, -12);  // what joins the two, and is deepest, is cut off
        const Level dry = l;
        Pool p;
        p.name = "two bays", p.height = -1, p.x = l.originX + 80, p.z = l.originZ + 16;
        REQUIRE(addPool(l, p));
        l = commitWork(dry, l).value().level;
        REQUIRE(l.water.at(17, 25).wet());
        REQUIRE(l.water.at(62, 25).wet());
        const Level cut = commitWork(l, cropLevel(l, {0, 18, 81, 41}).value()).value().level;
        REQUIRE(cut.pools.size() == 1);
        CHECK(cut.water.at(17, 7).wet() == west);
        CHECK(cut.water.at(62, 7).wet() == !west);
    }
}

TEST_CASE("what stands over a place is told by its triangle") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 25, 22, 5));
    refillWater(l);
    Random random(3);
    for (int i = 0; i < 4000; ++i) {
        const double x = between(random, -29, 29), z = between(random, -23, 23);
        const Wet w = waterAt(l, x, z);
        const double ground = altitudeAt(l, x, z);
        if (w.wet()) CHECK(ground < 5);
        CHECK(depthAt(l, x, z) == (w.wet() ? Approx(5 - ground) : Approx(0)));
        // In the bowl everything lower than the surface is wet, on the shore between samples too.
        if (std::hypot(l.toColumn(x) - 25, l.toRow(z) - 22) < 10) CHECK((ground < 5) == (w.body == id.value()));
    }
    CHECK_FALSE(waterAt(l, 1e4, 0).wet());
}

TEST_CASE("outlines are closed, hold exactly what is wet, and run round islands the other way", "[property]") {
    Random random(21);
    const auto inside = [](const std::vector<Outline>& lines, double x, double z) {
        int turns = 0;  // crossings of a ray to the east, by their direction
        for (const Outline& l : lines)
            for (size_t i = 0; i < l.size(); ++i) {
                const auto &a = l[i], &b = l[(i + 1) % l.size()];
                if ((a[1] > z) == (b[1] > z)) continue;
                if (a[0] + (z - a[1]) / (b[1] - a[1]) * (b[0] - a[0]) > x) turns += b[1] > a[1] ? 1 : -1;
            }
        return turns;
    };
    for (const uint32_t seed : {2u, 3u, 9u}) {
        Level l = hillyLevel(140, 90, seed);
        Pool sea = poolOver(l, 0, 0, 3.3f, "bay");
        sea.sea = true;
        const auto id = addPool(l, sea);
        REQUIRE(id);
        refillWater(l);
        const std::vector<Outline> lines = outlineOf(l, l.pools[0]);
        REQUIRE_FALSE(lines.empty());
        int wet = 0;
        for (int i = 0; i < 3000; ++i) {
            const double x = between(random, l.originX + 0.01, l.originX + l.width() - 0.01),
                         z = between(random, l.originZ + 0.01, l.originZ + l.depth() - 0.01);
            const Wet w = waterAt(l, x, z);
            if (std::abs(altitudeAt(l, x, z) - 3.3) < 0.01) continue;
            wet += w.wet();
            REQUIRE(inside(lines, x, z) == (w.wet() ? 1 : 0));
        }
        CHECK(wet > 300);
        CHECK(wet < 2700);
    }
}

TEST_CASE("in a closed valley a pool leaks over its rim into lower dry ground, until that holds water as high") {
    Level l = flatLevel(50, 30);
    for (int r = 0; r < 30; ++r)
        for (int c = 0; c < 50; ++c) {
            const bool left = c > 4 && c < 20 && r > 5 && r<25, right = c> 23 && c < 44 && r > 5 && r < 25;
            l.strata[0].heights.set(c, r, left ? 5.f : right ? 1.f : r == 12 && c >= 20 && c <= 23 ? 8.f : 20.f);
        }
    const uint32_t upper = addPool(l, poolOver(l, 10, 12, 8, "upper")).value();
    refillWater(l);
    CHECK_FALSE(leakOf(l, *l.pool(upper)));
    CHECK(poolFigures(l, *l.pool(upper)).brim == 8);
    l.pool(upper)->height = 8.5f;
    refillWater(l);
    const auto leak = leakOf(l, *l.pool(upper));
    REQUIRE(leak);
    CHECK(leak->towards == "east");
    CHECK(leak->over == 0.5f);
    CHECK(groundSample(l, static_cast<int>(l.toColumn(leak->way.back()[0])),
                       static_cast<int>(l.toRow(leak->way.back()[1]))) == 1);
    CHECK(l.water.at(10, 12).body == upper);
    CHECK_FALSE(l.water.at(30, 12).wet());
    // A dam closes it, within the level.
    Level dammed = l;
    REQUIRE(raiseRim(dammed, upper, {1, 1, 0.2f}));
    CHECK_FALSE(leakOf(dammed, *dammed.pool(upper)));
    // Water below takes it up only when it stands as high as the upper one's bed.
    const uint32_t lower = addPool(l, poolOver(l, 30, 12, 4, "lower")).value();
    refillWater(l);
    CHECK(leakOf(l, *l.pool(upper)));
    CHECK(l.water.at(30, 12).body == lower);
    l.pool(lower)->height = 5;
    refillWater(l);
    CHECK_FALSE(leakOf(l, *l.pool(upper)));
    CHECK(l.water.at(30, 12).body == upper);
    CHECK(poolFigures(l, *l.pool(upper)).meets == std::vector{lower});
}

TEST_CASE("a hole dug in a pool's bed is no leak, and its place moves there") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 22, 20, 5));
    refillWater(l);
    Level dug = l;
    for (int r = 24; r < 27; ++r)
        for (int c = 26; c < 29; ++c) dug.strata[0].heights.set(c, r, -3);
    const Level now = commitWork(l, dug).value().level;
    const Pool& p = *now.pool(id.value());
    CHECK_FALSE(leakOf(now, p));
    CHECK(groundSample(now, static_cast<int>(std::lround(now.toColumn(p.x))),
                       static_cast<int>(std::lround(now.toRow(p.z)))) == -3);
    CHECK(now.water.at(22, 20).body == id.value());
}

TEST_CASE("a stream drawn down a slope follows the ground, and never stands above it") {
    // A hillside that is steep above and gentle below: a straight line from its head to its foot would hang in the air.
    Level l = flatLevel(121, 61, 2);
    for (int r = 0; r < 61; ++r)
        for (int c = 0; c < 121; ++c)
            l.strata[0].heights.set(
                c, r, static_cast<float>(30 * std::exp(-c / 25.0) + 0.3 * std::sin(c * 0.9) - 0.02 * c + 3));
    Course bed;
    bed.use = CourseUse::carve;
    bed.sunk = 0.8f;
    for (const double c : {6.0, 112.0}) {
        Post p;
        p.x = l.originX + c, p.z = l.originZ + 30, p.width = 3, p.shoulder = 4;
        bed.posts.push_back(p);
    }
    Stream s;
    s.name = "rill";
    s.course = addCourse(l, "bed", bed);
    REQUIRE(addStream(l, s));
    refillWater(l);
    const std::vector<LinePoint> line = lineOf(l, 1);
    for (size_t i = 0; i < line.size(); ++i) {
        Raster<float> below(1, 1);
        const int c = static_cast<int>(std::lround(l.toColumn(line[i].x)));
        readGroundBelow(l, 1, {c, 30, c + 1, 31}, below.view());
        CHECK(line[i].height < below.at(0, 0) - 0.2);
        if (i > 0) CHECK(line[i].height <= line[i - 1].height);
    }
    CHECK(line.front().height == Approx(30 * std::exp(-6 / 25.0) + 0.3 * std::sin(5.4) - 0.12 + 3 - 0.8).margin(0.05));
    CHECK(streamFigures(l, l.streams[0]).over < 0.05);
    // A post with a height of its own holds the line.
    Level held = l;
    held.strata[1].course->posts[0].height = 29;
    held.strata[1].course->posts[1].height = 3;
    CHECK(lineOf(held, 1)[line.size() / 2].height == Approx(16).margin(0.5));
}

TEST_CASE("a clip takes its pools along, moved, turned and scaled with its ground") {
    uint32_t stream = 0, pond = 0;
    const Level l = brook(false, stream, pond);
    const Region box{92, 6, 140, 56};
    const Result<Level> clip = liftClip(l, box, "pond");
    REQUIRE(clip);
    CHECK(clip.value().pools.size() == 1);
    CHECK(clip.value().streams.empty());
    CHECK(checkLevel(clip.value()).empty());
    const Result<Level> without = liftClip(l, {0, 0, 60, 40}, "bank");
    REQUIRE(without);
    CHECK(without.value().pools.empty());
    Level ground = flatLevel(200, 160, 3);
    Placement p;
    p.x = 20, p.z = -15, p.turn = 90, p.heightScale = 0.5, p.raise = 3;
    const Result<Level> set = setDown(ground, clip.value(), {p}, {});
    REQUIRE(set);
    const Level now = commitWork(ground, set.value()).value().level;
    REQUIRE(now.pools.size() == 1);
    const double foot = clipFoot(clip.value());
    CHECK(now.pools[0].height == Approx(foot + 0.5 * (5 - foot) + 3));
    CHECK(now.pools[0].name == "mill pond");
    CHECK(poolFigures(now, now.pools[0]).area == Approx(poolFigures(l, l.pools[0]).area).epsilon(0.1));
    // Once more it gets another name; laid over the ground it has no height of its own, and stays away.
    p.x = -40;
    const Result<Level> twice = setDown(now, clip.value(), {p}, {});
    REQUIRE(twice);
    CHECK(twice.value().pools[1].name == "mill pond 2");
    SetDownWish over;
    over.join = ClipJoin::add;
    CHECK(setDown(ground, clip.value(), {p}, over).value().pools.empty());
}

TEST_CASE("water is handed over: outline, height and look, a picture of its depth, and a mask") {
    const Folder folder;
    uint32_t stream = 0, pond = 0;
    const Level l = brook(false, stream, pond);
    HandoverWish wish;
    wish.set("pictures", 0).set("weights", 0);
    const auto names = handOver(l, folder.path / "out", wish);
    REQUIRE(names);
    const Bytes text = bytesOf(folder.path / "out" / "manifest.json");
    const Json j = Json::parse(text.begin(), text.end())["water"];
    CHECK(j["pools"][0]["name"] == "mill pond");
    CHECK(j["pools"][0]["height"] == 5);
    CHECK(j["pools"][0]["outlines"].size() == 1);
    CHECK(j["streams"][0]["line"].size() == streamLine(l, l.streams[0]).size());
    const float white = j["depth"]["white"].get<float>();
    const Result<Pixels> depth = decodePng(bytesOf(folder.path / "out" / "water-depth.png"), "depth", 8193),
                         mask = decodePng(bytesOf(folder.path / "out" / "water.png"), "mask", 8193);
    REQUIRE(depth);
    REQUIRE(mask);
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            const auto i = static_cast<size_t>(r * l.columns + c);
            const Wet w = l.water.at(c, r);
            CHECK(mask.value().samples[i] == (w.wet() ? 255 : 0));
            const float metres = w.wet() ? w.surface - groundSample(l, c, r) : 0;
            CHECK(depth.value().samples[i] / 65535.f * white == Approx(metres).margin(white / 60000));
        }
    // Without water there are no such files.
    Level dry = l;
    dry.pools.clear(), dry.streams.clear();
    refillWater(dry);
    const auto few = handOver(dry, folder.path / "dry", wish);
    REQUIRE(few);
    CHECK(few.value().size() == names.value().size() - 2);
}

TEST_CASE("water that cannot be is refused as reading refuses it, and names the field") {
    const Folder folder;
    uint32_t stream = 0, pond = 0;
    const Level l = brook(false, stream, pond);
    const auto refused = [&](const std::function<void(Level&)>& spoil, const char* words) {
        Level bad = l;
        spoil(bad);
        const Status saved = saveLevel(bad, folder.path / "bad.jamhill");
        REQUIRE_FALSE(saved);
        INFO(saved.error().sentence());
        CHECK(saved.error().sentence().find(words) != std::string::npos);
    };
    refused([](Level& b) { b.pools[0].height = 1e9f; }, "pools[0].height");
    refused([](Level& b) { b.pools[0].x = 1e9; }, "pools[0].x");
    refused([](Level& b) { b.streams[0].name = b.pools[0].name; }, "streams[0].name");
    refused([](Level& b) { b.streams[0].course = 77; }, "streams[0].course");
    refused([](Level& b) { b.streams[0].depth = -1; }, "streams[0].depth");
    refused([](Level& b) { b.pools[0].look.clearness = 0; }, "clearness");
    refused(
        [](Level& b) {
            for (int i = 0; i < 5000; ++i) {
                b.pools.push_back(b.pools[0]);
                b.pools.back().id = b.nextId++;
                b.pools.back().name = "p" + std::to_string(i);
            }
        },
        "pools");
}

TEST_CASE("rules by water measure depth, the way to the shore, and the height above it") {
    Level l = bowl(9);
    REQUIRE(addPool(l, poolOver(l, 25, 22, 5)));
    refillWater(l);
    const auto given = [&](RuleKind kind, float from, float to, int c, int r, float reach = 0) {
        Rule rule;
        rule.kind = kind, rule.from = from, rule.to = to, rule.fade = 0, rule.reach = reach;
        Raster<float> out(1, 1);
        readRules(l, 0, {rule}, {c, r, c + 1, r + 1}, out.view());
        return out.at(0, 0);
    };
    int shore = 25;  // the last wet sample to the west
    while (l.water.at(shore - 1, 22).wet()) --shore;
    const float deep = 5 - groundSample(l, 25, 22);
    CHECK(given(RuleKind::depth, deep - 0.01f, deep + 0.01f, 25, 22) == 1);
    CHECK(given(RuleKind::depth, deep + 0.01f, 99, 25, 22) == 0);
    CHECK(given(RuleKind::depth, 0, 99, shore - 1, 22) == 0);
    // Positive on dry ground, negative under water; the outline lies half a sample from both.
    CHECK(given(RuleKind::shore, 0.4f, 0.6f, shore - 1, 22) == 1);
    CHECK(given(RuleKind::shore, -0.6f, -0.4f, shore, 22) == 1);
    CHECK(given(RuleKind::shore, 2.4f, 2.6f, shore - 3, 22) == 1);
    CHECK(given(RuleKind::shore, -3, 0, shore - 3, 22) == 0);
    const float above = groundSample(l, shore - 2, 22) - 5;
    CHECK(above > 0.1f);
    CHECK(given(RuleKind::above, above - 0.01f, above + 0.01f, shore - 2, 22, 12) == 1);
    CHECK(given(RuleKind::above, above + 0.01f, 99, shore - 2, 22, 12) == 0);
    CHECK(given(RuleKind::above, 0, 99, shore - 14, 22, 4) == 0);
    CHECK(given(RuleKind::above, 0, 99, 25, 22, 4) == 0);
}

TEST_CASE("dents of a hand's breadth in a slope hold nothing") {
    Level l = flatLevel(80, 40);
    for (int r = 0; r < 40; ++r)
        for (int c = 0; c < 80; ++c)
            l.strata[0].heights.set(c, r, 20 - 0.1f * static_cast<float>(c) - ((c + 2 * r) % 9 == 0 ? 0.2f : 0.f));
    for (int c = 20; c < 50; c += 3) CHECK(brimsAt(l, l.originX + c, l.originZ + 20, -1e9f, 9).empty());
}

TEST_CASE("layers laid by water follow a pool that rises where no ground changed") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 25, 22, 4));
    refillWater(l);
    Rule silt;
    silt.kind = RuleKind::depth, silt.from = 0, silt.to = 99, silt.fade = 0;
    l.layers[1].rules = {silt};
    wakeRules(l, l.layers[1].id, false);
    Level higher = l;
    higher.pool(id.value())->height = 5;
    const Level now = commitWork(l, higher).value().level;
    int more = 0;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            CHECK(now.layers[1].coverage.at(c, r) == (now.water.at(c, r).wet() ? kFullCover : 0));
            more += now.water.at(c, r).wet() && !l.water.at(c, r).wet();
        }
    CHECK(more > 30);
}

TEST_CASE("a pool that leaks follows ground far down its way, in tiles where no water stands") {
    Level l = flatLevel(200, 30);
    for (int r = 0; r < 30; ++r)
        for (int c = 0; c < 200; ++c) {
            float h = 20;
            if (r > 9 && r < 16 && c > 4 && c < 196)
                h = c < 20 ? 5.f : c < 130 ? 8 - 0.025f * static_cast<float>(c - 20) : 1.f;
            l.strata[0].heights.set(c, r, h);
        }
    const uint32_t id = addPool(l, poolOver(l, 10, 12, 8.5f)).value();
    refillWater(l);
    CHECK(l.pools[0].leaks);
    CHECK_FALSE(l.water.at(140, 12).wet());
    Level filled = l;
    for (int r = 10; r < 16; ++r)
        for (int c = 130; c < 196; ++c) filled.strata[0].heights.set(c, r, 6);
    const Level now = commitWork(l, filled).value().level;
    CHECK_FALSE(now.pools[0].leaks);
    CHECK(now.water.at(140, 12).body == id);
    Level anew = now;
    refillWater(anew);
    CHECK(anew.water == now.water);
    // Dug again it is a hole in the bed that the water covers now, and no leak.
    Level dug = now;
    dug.strata = l.strata;
    CHECK_FALSE(commitWork(now, dug).value().level.pools[0].leaks);
}

TEST_CASE("that water is drawn otherwise is told apart from how it stands") {
    const Level level = lopsidedLevel();
    REQUIRE(level.pools.size() == 1);
    const auto changed = [&](auto change) {
        Level other = level;
        change(other);
        return changesBetween(other, level);
    };
    for (const auto& look : std::initializer_list<std::function<void(WaterLook&)>>{
             [](WaterLook& l) { l.colour[1] *= 0.9f; }, [](WaterLook& l) { l.clearness += 1; },
             [](WaterLook& l) { l.waves += 0.1f; }, [](WaterLook& l) { l.foam += 0.1f; }}) {
        const Change c = changed([&](Level& l) { look(l.pools[0].look); });
        CHECK(c.waterLooks);
        CHECK(c.waters);
        CHECK_FALSE(c.looks);
        Change both;
        both.add(c);
        CHECK(both.waterLooks);
    }
    CHECK_FALSE(changed([](Level& l) { l.pools[0].height += 1; }).waterLooks);
    CHECK_FALSE(changed([](Level& l) { l.pools[0].name = "mere"; }).waterLooks);
    CHECK_FALSE(changed([](Level& l) { l.pools.clear(); }).waterLooks);
    CHECK_FALSE(changed([](Level& l) {
                    Pool second = l.pools[0];
                    second.id = l.nextId++, second.name = "second";
                    l.pools.push_back(second);
                }).waterLooks);
    CHECK_FALSE(changed([](Level&) {}).waters);
}
