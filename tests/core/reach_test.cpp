// What a body reaches against a slow oracle, and the ways that it finds.
#include <catch2/catch.hpp>

#include "walk_levels.h"

using namespace jam;
using namespace jam::test;

// --- reach --------------------------------------------------------------------------------------------------------

TEST_CASE("reach is the slow oracle's on every grid of 3 x 3 of three heights") {
    for (int n = 0; n < 19683; ++n) {
        std::vector<float> h;
        for (int i = 0, k = n; i < 9; ++i, k /= 3) h.push_back(0.7f * static_cast<float>(k % 3));
        Level l = levelOf(3, 3, h);
        put(l, "a", 0, 0), put(l, "b", 2, 1, "goal"), put(l, "c", 1, 2, "supply");
        CAPTURE(n);
        checkReach(l, kBodies[static_cast<size_t>(n % 3)]);
    }
}

TEST_CASE("reach is the slow oracle's on random ground, one-way drops, pits and openings included", "[property]") {
    Random random(16);
    for (int k = 0; k < 36; ++k) {
        // The last ones are wider or deeper than what is looked at in one go.
        const bool wide = k >= 30 && k % 2, deep = k >= 30 && !wide;
        const int w = wide ? wholeBetween(random, 63, 150) : wholeBetween(random, 5, 34);
        const int d = deep ? wholeBetween(random, 30, 70) : wholeBetween(random, 5, wide ? 9 : 29);
        Level l = brokenLevel(w, d, static_cast<uint32_t>(k) + 1);
        const double rough = k % 3 == 0 ? 1.5 : 0.2;
        for (int r = 0; r < d; ++r)
            for (int c = 0; c < w; ++c)
                l.strata[0].heights.set(c, r,
                                        l.strata[0].heights.at(c, r) + static_cast<float>(between(random, 0, rough)));
        if (k % 2)
            for (int n = 0; n < 3; ++n) {
                const int x = wholeBetween(random, 1, w - 2), z = wholeBetween(random, 1, d - 2);
                for (int r = std::max(z - 1, 0); r <= std::min(z + 1, d - 1); ++r)
                    (n ? l.opening : l.noLand).set(x, r, 255);
            }
        for (const char* name : {"a", "b", "c", "d"}) {
            int c, r;
            do c = wholeBetween(random, 0, w - 1), r = wholeBetween(random, 0, d - 1);
            while (!groundAt(l, l.originX + c, l.originZ + r));
            put(l, name, c, r, *name == 'a' || *name == 'c' ? "start" : "goal");
        }
        Body body = kBodies[static_cast<size_t>(k % 3)];
        CAPTURE(k, w, d);
        checkReach(l, body);
        // And the same bits for any number of threads.
        const Reach all = surveyReach(l, body);
        const ThreadLimit one(1);
        const Reach alone = surveyReach(l, body);
        REQUIRE(std::equal(&all.classes.at(0, 0), &all.classes.at(0, 0) + w * d, &alone.classes.at(0, 0)));
    }
}

TEST_CASE("what many samples lead to at once is what each of them leads to by itself", "[property]") {
    Random random(27);
    for (int k = 0; k < 6; ++k) {
        const int w = wholeBetween(random, 60, 140), d = wholeBetween(random, 5, 40);
        Level l = brokenLevel(w, d, static_cast<uint32_t>(k) + 40);
        put(l, "a", 3, 3);
        for (int n = 0; n < 40; ++n) l.opening.set(wholeBetween(random, 0, w - 1), wholeBetween(random, 0, d - 1), 255);
        ReachGround g = *surveyReach(l, kBodies[static_cast<size_t>(k % 3)]).ground;
        // In some, water that is too deep to jump out of.
        if (k % 2)
            for (int i = 0; i < w * d; ++i) g.deep.push_back(static_cast<uint8_t>(i % 7 ? 0 : 255));
        const Flights flights(g.body, g.spacing);
        std::set<std::array<uint32_t, 3>> each, together;
        Flights::Memory memory;
        const int first = k < 3 ? 0 : 2, end = k < 3 ? d : d - 1;
        for (uint32_t r = static_cast<uint32_t>(first); r < static_cast<uint32_t>(end); ++r)
            for (uint32_t c = 0; c < static_cast<uint32_t>(w); ++c) {
                const int ic = static_cast<int>(c), ir = static_cast<int>(r);
                const uint32_t own = g.nodes.at(ic, ir);
                if (own == ReachGround::kNoNode) continue;
                g.eachBeside(ic, ir, [&](int x, int z) {
                    const uint32_t to = g.nodes.at(x, z);
                    const bool slope = own >= g.pieces && to >= g.pieces;
                    if (to != own && to != ReachGround::kNoNode && !slope &&
                        g.brow(ic, ir, x, z) <= g.heights.at(ic, ir))
                        each.insert({c, r, to});
                });
                if (own >= g.pieces) continue;
                flights.from(g, ic, ir, memory, [&](int x, int z, const Flights::Hop&, uint32_t to) {
                    if (to < g.pieces || std::max(std::abs(x - ic), std::abs(z - ir)) == 1) each.insert({c, r, to});
                });
            }
        FlightRows rows(flights, g, first, end);
        rows.each([&](int c, int r, uint32_t to) {
            together.insert({static_cast<uint32_t>(c), static_cast<uint32_t>(r), to});
        });
        CAPTURE(k, w, d);
        REQUIRE(each.size() > 100);
        REQUIRE(together == each);
    }
}

TEST_CASE("down is not up: a ledge that can be dropped from is one way, a pit a trap, an island of ground a pocket") {
    // West: a plateau 3 m up; middle: ground; a pit 4 m deep; a knoll 5 m up.
    Level l = shaped(80, 40, [](int c, int r) {
        if (c < 15) return 3;
        if (std::hypot(c - 40, r - 20) < 6) return -4;
        if (std::hypot(c - 65, r - 20) < 6) return 5;
        return 0;
    });
    const uint32_t ledge = put(l, "ledge", 5, 20), yard = put(l, "yard", 28, 20, "goal"),
                   pit = put(l, "pit", 40, 20, "supply"), knoll = put(l, "knoll", 65, 20, "lookout");
    Reach r = surveyReach(l, kBodies[0]);
    CHECK(r.reaches(ledge, yard));
    CHECK_FALSE(r.reaches(yard, ledge));
    CHECK(r.reaches(yard, pit));
    CHECK_FALSE(r.reaches(pit, yard));
    CHECK_FALSE(r.reaches(ledge, knoll));
    CHECK(r.reaches(knoll, pit));
    CHECK(r.spotsReached() == std::array{3, 4});
    CHECK(r.nowhere.empty());
    REQUIRE(r.pockets.size() == 1);
    CHECK(r.pockets[0].x == Approx(l.originX + 65).margin(1));
    CHECK(r.traps.empty());  // a spot lies in it, so that somebody is meant to end there
    CHECK(r.classes.at(28, 20) == static_cast<uint8_t>(Reached::oneWay));
    CHECK(r.classes.at(5, 20) == static_cast<uint8_t>(Reached::both));
    CHECK(r.classes.at(65, 20) == static_cast<uint8_t>(Reached::never));
    // Four sides are open: all belong to one way round.
    REQUIRE(r.waysOut.size() == 1);
    CHECK(r.waysOut[0].size >= 230);
    removeSpot(l, pit);
    r = surveyReach(l, kBodies[0]);
    REQUIRE(r.traps.size() == 1);
    CHECK(r.traps[0].y == Approx(-4));
    CHECK(r.traps[0].x == Approx(l.originX + 40).margin(1));
    // Who jumps 4 m has neither trap nor pocket.
    Body flea = kBodies[0];
    flea.jump = 6;
    r = surveyReach(l, flea);
    CHECK(r.traps.empty());
    CHECK(r.pockets.empty());
    CHECK(r.reaches(yard, ledge));
}

TEST_CASE("swimmers cross a pool and others sink in it; a sheer bank keeps both out") {
    Level l = shaped(60, 30, [](int c, int) {
        return c < 20 ? 0.0 : c < 40 ? -5.0 + 0.25 * std::max(c - 20, 0) * 0 : 0.0;
    });
    // Shores of 27 degrees on both sides.
    for (int r = 0; r < 30; ++r)
        for (int c = 20; c < 40; ++c) {
            const double deep = std::min({(c - 20) * 0.5, (40 - c) * 0.5, 4.0});
            l.strata[0].heights.set(c, r, static_cast<float>(-deep));
        }
    Pool p;
    p.name = "ditch", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = -0.2f;
    REQUIRE(addPool(l, p));
    refillWater(l);
    const uint32_t west = put(l, "west", 5, 15), east = put(l, "east", 55, 15, "goal");
    CHECK(surveyReach(l, kBodies[0]).reaches(west, east));
    Body cart = kBodies[2];
    cart.slope = 35;
    CHECK_FALSE(surveyReach(l, cart).reaches(west, east));
    cart.wade = 6;
    CHECK(surveyReach(l, cart).reaches(west, east));
    // The far bank as a wall of 3 m: swum to, not climbed.
    for (int r = 0; r < 30; ++r)
        for (int c = 38; c < 60; ++c) l.strata[0].heights.set(c, r, 3);
    refillWater(l);
    CHECK_FALSE(surveyReach(l, kBodies[0]).reaches(west, east));
    CHECK(surveyReach(l, kBodies[0]).reaches(east, west));
    CHECK(
        wayBetween(l, *surveyReach(l, kBodies[0]).ground, l.originX + 55, l.originZ + 15, l.originX + 5, l.originZ + 15)
            ->drops > 0);
}

TEST_CASE("a leap crosses an opening that is no wider than it reaches") {
    for (const int wide : {2, 3, 9}) {
        Level l = shaped(40, 9, [](int, int) { return 0; });
        for (int r = 0; r < 9; ++r)
            for (int c = 20; c < 20 + wide; ++c) l.opening.set(c, r, 255);
        const uint32_t a = put(l, "a", 5, 4), b = put(l, "b", 35, 4, "goal");
        CAPTURE(wide);
        // 5 m/s, 0.86 s in the air: 4.3 m at most, from sample to sample.
        CHECK(surveyReach(l, kBodies[0]).reaches(a, b) == (wide <= 3));
        CHECK_FALSE(surveyReach(l, kBodies[2]).reaches(a, b));
    }
}

TEST_CASE("a cancelled survey stops, and large levels are looked at in blocks") {
    Level l = flatLevel(5002, 40, 1, 0.5);
    put(l, "a", 100, 20), put(l, "b", 4900, 20, "goal");
    const Reach r = surveyReach(l, kBodies[0]);
    const ReachGround& g = *r.ground;
    CHECK(g.stride == 2);
    CHECK(g.spacing == 1);
    CHECK(r.pairs[0].reached);
    // The last samples, which no block fills, are there.
    CHECK(g.columns == 2502);
    CHECK(g.rows == 21);
    CHECK(g.xOf(g.columns - 1) == l.originX + 5001 * 0.5);
    CHECK(g.zOf(g.rows - 1) == l.originZ + 39 * 0.5);
    CHECK(g.kinds.at(g.columns - 1, g.rows - 1) == ReachGround::kFirm);
    std::atomic<bool> stop{true};
    Context c;
    c.cancel = &stop;
    CHECK(surveyReach(l, kBodies[0], c).pairs.empty());
}

TEST_CASE("in blocks, a wall and an opening one sample wide bar the way, wherever they lie, and a gate lets through") {
    for (const int at : {30, 31})
        for (const bool wall : {true, false}) {
            Level l = shaped(64, 41, [&](int c, int) { return wall && c == at ? 9 : 0; });
            for (int r = 0; !wall && r < 41; ++r)
                for (int c = at; c < at + 8; ++c) l.opening.set(c, r, 255);
            const uint32_t a = put(l, "a", 5, 5), b = put(l, "b", 60, 35, "goal");
            CAPTURE(at, wall);
            CHECK_FALSE(surveyReach(l, kBodies[0]).reaches(a, b));
            const Reach blocks = surveyReach(l, kBodies[0], {}, 33);
            REQUIRE(blocks.ground->stride == 2);
            CHECK_FALSE(blocks.reaches(a, b));
            // Wide enough that blocks fit in.
            for (int r = 20; r < 25; ++r)
                for (int c = at; c < at + 8; ++c) l.opening.set(c, r, 0), l.strata[0].heights.set(c, r, -l.startHeight);
            CHECK(surveyReach(l, kBodies[0], {}, 33).reaches(a, b));
        }
}

TEST_CASE("what is reached in blocks is reached by samples, and most of what is, is", "[property]") {
    Random random(61);
    int fine = 0, coarse = 0;
    for (int k = 0; k < 60; ++k) {
        const int w = wholeBetween(random, 41, 70), d = wholeBetween(random, 21, 40);
        Level l = k % 2 ? brokenLevel(w, d, static_cast<uint32_t>(k))
                        : shaped(w, d, [](int c, int r) { return 0.02 * c * std::sin(0.2 * r); });
        // Walls and openings one sample wide.
        for (int n = 0; n < 5; ++n) {
            const bool down = random() % 2, hole = random() % 3 == 0;
            const int from = wholeBetween(random, 2, (down ? d : w) - 12),
                      at = wholeBetween(random, 3, (down ? w : d) - 4);
            for (int i = from; i < from + wholeBetween(random, 8, 30) && i < (down ? d : w); ++i) {
                const int c = down ? at : i, r = down ? i : at;
                if (hole) l.opening.set(c, r, 255);
                else l.strata[0].heights.set(c, r, l.strata[0].heights.at(c, r) + 4);
            }
        }
        for (const char* name : {"a", "b", "c", "d"}) {
            int c, r;
            do c = wholeBetween(random, 1, w - 2), r = wholeBetween(random, 1, d - 2);
            while (!groundAt(l, l.originX + c, l.originZ + r));
            put(l, name, c, r, *name < 'c' ? "start" : "goal");
        }
        const Body& body = kBodies[static_cast<size_t>(k % 3)];
        const Reach all = surveyReach(l, body), blocks = surveyReach(l, body, {}, (std::max(w, d) + 2) / 2);
        REQUIRE(blocks.ground->stride == 2);
        CAPTURE(k, w, d);
        for (const ReachPair& p : all.pairs) fine += p.reached;
        for (const ReachPair& p : blocks.pairs)
            if (p.reached) {
                ++coarse;
                CAPTURE(p.from, p.to);
                CHECK(all.reaches(p.from, p.to));
            }
    }
    CHECK(coarse > fine / 3);
}

// --- ways ---------------------------------------------------------------------------------------------------------

TEST_CASE("a way goes round what is too steep, and says how long, how steep, how far up") {
    // A wall with a gate in the south; a ramp of 20 degrees behind it.
    Level l = shaped(60, 40, [](int c, int r) {
        const double ramp = std::clamp((c - 40) * std::tan(20 * kRadians), 0.0, 4.0);
        return c >= 20 && c <= 22 && r < 32 ? 8.0 : ramp;
    });
    put(l, "a", 5, 5), put(l, "b", 57, 5, "goal");
    const Reach r = surveyReach(l, kBodies[0]);
    const auto way = wayBetween(l, *r.ground, l.originX + 5, l.originZ + 5, l.originX + 57, l.originZ + 5);
    REQUIRE(way);
    const double straight = std::hypot(17, 27) + std::hypot(35, 27);
    CHECK(way->length > straight);
    CHECK(way->length < 1.06 * straight + 3);
    CHECK(way->seconds == Approx(way->length / 5).epsilon(0.02));
    CHECK(way->climb == Approx(4).margin(0.1));
    CHECK(way->fall == Approx(0).margin(0.1));
    CHECK(way->steepest == Approx(20).margin(0.5));
    CHECK(way->steepX > l.originX + 39);
    CHECK(way->leaps + way->drops == 0);
    CHECK_FALSE(wayBetween(l, *r.ground, l.originX + 5, l.originZ + 5, l.originX + 21, l.originZ + 5));
}

TEST_CASE("the quickest way keeps to a causeway where swimming would take longer") {
    const auto moat = [](int c) { return -std::max(std::min({(c - 40) * 0.6f, (60 - c) * 0.6f, 4.f}), 0.f); };
    Level l = shaped(100, 60, [&](int c, int r) { return r < 25 || r > 35 ? moat(c) : 0.f; });
    Pool p;
    p.name = "moat", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = -0.3f;
    REQUIRE(addPool(l, p));
    l.water = TiledGrid<Wet>(l.columns, l.rows, Wet{});
    refillWater(l);
    put(l, "a", 30, 15), put(l, "b", 70, 15, "goal");
    const Reach r = surveyReach(l, kBodies[0]);
    const auto way = wayBetween(l, *r.ground, l.originX + 30, l.originZ + 15, l.originX + 70, l.originZ + 15);
    REQUIRE(way);
    CHECK(way->deepest < 0.5);  // it cuts the corners of the shore
    CHECK(way->length == Approx(20 + 2 * std::hypot(10, 10)).epsilon(0.1));
    // And swims where there is no way round.
    for (int z = 25; z <= 35; ++z)
        for (int x = 41; x < 60; ++x) l.strata[0].heights.set(x, z, moat(x));
    refillWater(l);
    const Reach wet = surveyReach(l, kBodies[0]);
    const auto swum = wayBetween(l, *wet.ground, l.originX + 30, l.originZ + 15, l.originX + 70, l.originZ + 15);
    REQUIRE(swum);
    CHECK(swum->deepest > 3);
    CHECK(
        std::any_of(swum->points.begin(), swum->points.end(), [](const WayPoint& q) { return q.by == Stretch::swim; }));
}

// --- the body -----------------------------------------------------------------------------------------------------
