// Pools, brims and leaks against slow oracles, and water that follows the ground.
#include <catch2/catch.hpp>

#include "water_levels.h"

using namespace jam;
using namespace jam::test;

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
