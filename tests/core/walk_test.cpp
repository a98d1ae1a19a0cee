// Bodies on foot, spots, and where one gets to: against slow oracles, and each against the other.
#include "walk/walker.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <cstdio>
#include <set>

#include "base/maths.h"
#include "base/parallel.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "files/fields.h"
#include "files/level_file.h"
#include "files/spots_json.h"
#include "files/walk_file.h"
#include "folder.h"
#include "handover/handover.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "survey/check.h"
#include "survey/mend_reach.h"
#include "walk/flight_rows.h"
#include "walk/flights.h"
#include "walk/follow.h"
#include "walk/reach.h"
#include "walk/recording.h"
#include "walk/spots.h"
#include "walk/ways.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

Level levelOf(int w, int d, const std::vector<float>& h, double spacing = 1) {
    Level l = flatLevel(w, d, 1, spacing);
    l.lowest = -200, l.highest = 500;
    for (int r = 0; r < d; ++r)
        for (int c = 0; c < w; ++c) l.strata[0].heights.set(c, r, h[static_cast<size_t>(r * w + c)] - l.startHeight);
    return l;
}

// A level by a function of the sample.
template <class F>
Level shaped(int w, int d, F f, double spacing = 1) {
    std::vector<float> h;
    for (int r = 0; r < d; ++r)
        for (int c = 0; c < w; ++c) h.push_back(static_cast<float>(f(c, r)));
    return levelOf(w, d, h, spacing);
}

uint32_t put(Level& l, const std::string& name, int c, int r, const std::string& kind = "start") {
    Spot s;
    s.name = name, s.kind = kind;
    s.x = l.originX + c * l.spacing, s.z = l.originZ + r * l.spacing;
    return addSpot(l, s).value();
}

// --- the slow, obvious reach --------------------------------------------------------------------------------------

struct PlainReach {
    int w, d;
    std::vector<char> ground, firm;
    std::vector<int> piece;  // -1 without
    std::vector<std::set<int>> to;

    int at(int c, int r) const { return r * w + c; }
    bool holds(int c, int r) const { return c >= 0 && r >= 0 && c < w && r < d; }
    std::vector<char> from(int start, bool back = false) const {
        std::vector<char> in(to.size());
        in[static_cast<size_t>(start)] = 1;
        for (bool more = true; more;) {
            more = false;
            for (size_t a = 0; a < to.size(); ++a)
                for (const int b : to[a]) {
                    const size_t x = back ? static_cast<size_t>(b) : a, y = back ? a : static_cast<size_t>(b);
                    if (in[x] && !in[y]) in[y] = 1, more = true;
                }
        }
        return in;
    }
};

// Straight from what reach.h says, of a level without water.
PlainReach plainReach(const Level& l, const Body& body) {
    PlainReach p{l.columns, l.rows, {}, {}, {}, {}};
    const auto n = static_cast<size_t>(p.w * p.d);
    std::vector<double> h(n);
    for (int r = 0; r < p.d; ++r)
        for (int c = 0; c < p.w; ++c) {
            h[static_cast<size_t>(p.at(c, r))] = static_cast<double>(groundSample(l, c, r));
            p.ground.push_back(gapSample(l, c, r) <= kGapEdge);
        }
    p.firm.assign(n, 0);
    p.piece.assign(n, -1);
    p.to.resize(n);
    const auto H = [&](int c, int r) { return h[static_cast<size_t>(p.at(c, r))]; };
    const auto G = [&](int c, int r) { return p.ground[static_cast<size_t>(p.at(c, r))] != 0; };
    std::vector<std::pair<int, int>> joined;
    const double most = std::tan(static_cast<double>(body.slope) * kRadians);
    for (int r = 0; r + 1 < p.d; ++r)
        for (int c = 0; c + 1 < p.w; ++c)
            for (const bool upper : {true, false}) {
                const int mc = upper ? c + 1 : c, mr = upper ? r : r + 1;
                if (!G(c, r) || !G(mc, mr) || !G(c + 1, r + 1)) continue;
                const double east = (upper ? H(mc, mr) - H(c, r) : H(c + 1, r + 1) - H(mc, mr)) / l.spacing;
                const double south = (upper ? H(c + 1, r + 1) - H(mc, mr) : H(mc, mr) - H(c, r)) / l.spacing;
                if (std::hypot(east, south) > most) continue;
                const int corners[] = {p.at(c, r), p.at(mc, mr), p.at(c + 1, r + 1)};
                for (const int a : corners)
                    for (const int b : corners)
                        if (a != b) joined.emplace_back(a, b);
            }
    for (const auto& [a, b] : joined) p.firm[static_cast<size_t>(a)] = 1, p.to[static_cast<size_t>(a)].insert(b);
    const auto eachBeside = [&](int c, int r, const auto& f) {
        for (int z = r - 1; z <= r + 1; ++z)
            for (int x = c - 1; x <= c + 1; ++x)
                if ((x != c || z != r) && p.holds(x, z)) f(x, z);
    };
    // Between two corners of a cell that are not its north-west and south-east ones lies the side that joins those.
    const auto brow = [&](int c, int r, int x, int z) {
        if ((x - c) * (z - r) != -1) return H(x, z);
        const double ridge = (H(c, z) + H(x, r)) / 2;
        return std::max(H(x, z), static_cast<double>(static_cast<float>(ridge)));
    };
    for (int r = 1; r + 1 < p.d; ++r)
        for (int c = 1; c + 1 < p.w; ++c) {
            bool pit = G(c, r);
            eachBeside(c, r, [&](int x, int z) { pit = pit && G(x, z) && brow(c, r, x, z) > H(c, r); });
            if (pit) p.firm[static_cast<size_t>(p.at(c, r))] = 1;
        }
    int pieces = 0;
    for (size_t i = 0; i < n; ++i) {
        if (!p.firm[i] || p.piece[i] >= 0) continue;
        std::vector<char> in = p.from(static_cast<int>(i));  // walking alone is there so far
        for (size_t k = 0; k < n; ++k)
            if (in[k]) p.piece[k] = pieces;
        ++pieces;
    }
    for (int r = 0; r < p.d; ++r)
        for (int c = 0; c < p.w; ++c) {
            const auto own = static_cast<size_t>(p.at(c, r));
            if (!p.ground[own]) continue;
            eachBeside(c, r, [&](int x, int z) {
                if (G(x, z) && brow(c, r, x, z) <= H(c, r)) p.to[own].insert(p.at(x, z));
            });
            if (!p.firm[own]) continue;
            // Ring by ring, by way of what lies nearest to the straight line.
            std::set<std::pair<int, int>> flown;
            for (int ring = 1; ring <= kFarthestFlight; ++ring)
                for (int dr = -ring; dr <= ring; ++dr)
                    for (int dc = -ring; dc <= ring; ++dc) {
                        if (std::max(std::abs(dc), std::abs(dr)) != ring) continue;
                        if (dc * dc + dr * dr > kFarthestFlight * kFarthestFlight || !p.holds(c + dc, r + dr)) continue;
                        const double high = flightHeight(body, l.spacing * std::hypot(dc, dr));
                        if (high < -12 && ring > 1) continue;
                        const auto k = static_cast<size_t>(p.at(c + dc, r + dr));
                        if (p.ground[k] && p.piece[k] == p.piece[own]) continue;
                        const double up = ring == 1 ? brow(c, r, c + dc, r + dr) : h[k];
                        if (p.ground[k] &&
                            static_cast<float>(up) > static_cast<float>(h[own]) + static_cast<float>(high))
                            continue;
                        bool by = ring == 1;
                        const double s = (ring - 1.0) / ring, x = dc * s, z = dr * s;
                        for (const double side : {-1e-6, 1e-6}) {
                            const std::pair<int, int> before{static_cast<int>(std::floor(x + 0.5 + side)),
                                                             static_cast<int>(std::floor(z + 0.5 + side))};
                            by = by || flown.contains(before);
                        }
                        if (!by) continue;
                        flown.insert({dc, dr});
                        if (p.ground[k] && (p.firm[k] || ring == 1)) p.to[own].insert(static_cast<int>(k));
                    }
        }
    return p;
}

// Everything that reach tells of a level, against the slow version.
void checkReach(const Level& l, const Body& body) {
    const Reach reach = surveyReach(l, body);
    const PlainReach plain = plainReach(l, body);
    const auto sampleOf = [&](const Spot& s) {
        return plain.at(static_cast<int>(std::lround(l.toColumn(s.x))), static_cast<int>(std::lround(l.toRow(s.z))));
    };
    std::vector<std::vector<char>> there, back;
    for (const Spot& s : l.spots)
        there.push_back(plain.from(sampleOf(s))), back.push_back(plain.from(sampleOf(s), true));
    size_t at = 0;
    for (size_t i = 0; i < l.spots.size(); ++i)
        for (size_t k = 0; k < l.spots.size(); ++k)
            if (i != k) {
                const ReachPair& pair = reach.pairs[at++];
                REQUIRE(pair.from == l.spots[i].id);
                REQUIRE(pair.to == l.spots[k].id);
                REQUIRE(pair.reached == (there[i][static_cast<size_t>(sampleOf(l.spots[k]))] != 0));
            }
    for (size_t i = 0; i < plain.to.size(); ++i) {
        const int c = static_cast<int>(i) % l.columns, r = static_cast<int>(i) / l.columns;
        bool got = false, home = false, on = false;
        for (size_t k = 0; k < l.spots.size(); ++k) {
            const bool start = l.spots[k].kind == "start";
            got = got || (start && there[k][i]);
            home = home || (start && back[k][i]);
            on = on || back[k][i];
        }
        const Reached is = !plain.ground[i] ? Reached::nothing
                           : !got           ? plain.firm[i] ? Reached::never : Reached::nothing
                           : home           ? Reached::both
                           : on             ? Reached::oneWay
                                            : Reached::trap;
        CAPTURE(c, r);
        REQUIRE(static_cast<int>(reach.classes.at(c, r)) == static_cast<int>(is));
    }
}

// A firm sample, whose four neighbours are firm too when that can be had.
std::optional<std::pair<int, int>> firmSample(const Reach& reach, Random& random, Reached which) {
    for (int attempt = 0; attempt < 400; ++attempt) {
        const int c = wholeBetween(random, 1, reach.ground->columns - 2),
                  r = wholeBetween(random, 1, reach.ground->rows - 2);
        if (reach.ground->kinds.at(c, r) == ReachGround::kFirm && reach.classes.at(c, r) == static_cast<uint8_t>(which))
            return std::pair{c, r};
    }
    return std::nullopt;
}

// Ground that is steep and broken: hills, terraces, pits, walls.
Level brokenLevel(int w, int d, uint32_t seed) {
    Random random(seed);
    Level l = hillyLevel(w, d, seed);
    l.lowest = -200, l.highest = 500;
    for (int n = 0; n < 12; ++n) {
        const double x = between(random, 0, w), z = between(random, 0, d), radius = between(random, 2, 9),
                     height = between(random, -5, 5);
        for (int r = 0; r < d; ++r)
            for (int c = 0; c < w; ++c)
                if (std::hypot(c - x, r - z) < radius)
                    l.strata[0].heights.set(c, r, l.strata[0].heights.at(c, r) + static_cast<float>(height));
    }
    return l;
}

}  // namespace

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

TEST_CASE("a cancelled survey stops, and large levels are looked at by every second sample") {
    Level l = flatLevel(5001, 40, 1, 0.5);
    put(l, "a", 100, 20), put(l, "b", 4900, 20, "goal");
    const Reach r = surveyReach(l, kBodies[0]);
    CHECK(r.ground->stride == 2);
    CHECK(r.ground->spacing == 1);
    CHECK(r.pairs[0].reached);
    std::atomic<bool> stop{true};
    Context c;
    c.cancel = &stop;
    CHECK(surveyReach(l, kBodies[0], c).pairs.empty());
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

namespace {

void goOn(Walker& w, const WalkInput& in, double seconds) {
    for (int i = 0; i < seconds * Walker::kStepsASecond; ++i) w.step(in);
}
WalkInput towards(double degrees, bool run = false) {
    WalkInput in;
    in.forward = 1, in.run = run, in.heading = headingOf(degrees);
    return in;
}

}  // namespace

TEST_CASE("it walks where it looks, as fast as it should, and stops") {
    const Level l = shaped(200, 200, [](int, int) { return 7; });
    for (const double to : {0.0, 37.0, 90.0, 135.0, 180.0, 250.0, 315.0}) {
        Walker w(l, kBodies[0], 0, 0);
        goOn(w, towards(to), 1);
        goOn(w, towards(to), 2);
        CHECK(std::hypot(w.state().vx, w.state().vz) == Approx(2.5).epsilon(0.001));
        CHECK(w.state().x == Approx(std::sin(to * kRadians) * 7.5).margin(0.3));
        CHECK(w.state().z == Approx(-std::cos(to * kRadians) * 7.5).margin(0.3));
        CHECK(w.state().y == 7);
        goOn(w, {}, 1);
        CHECK(std::hypot(w.state().vx, w.state().vz) < 1e-3);
        WalkInput right = towards(to, true);
        right.forward = 0, right.right = 1;
        const double x = w.state().x, z = w.state().z;
        goOn(w, right, 1);
        CHECK(w.state().x - x == Approx(std::cos(to * kRadians) * 5).margin(0.5));
        CHECK(w.state().z - z == Approx(std::sin(to * kRadians) * 5).margin(0.5));
    }
}

TEST_CASE("headings are exact enough, and turn the right way") {
    for (int h = 0; h < 65536; h += 7) CHECK(headingOf(degreesOf(static_cast<uint16_t>(h))) == h);
    CHECK(headingOf(-90) == 49152);
    CHECK(headingOf(360) == 0);
}

TEST_CASE("it climbs what it can stand on, and slides back from what is steeper") {
    for (const double degrees : {10.0, 38.0, 42.0, 60.0}) {
        const Level l = shaped(120, 30,
                               [&](int c, int) { return std::max(0.0, (c - 30) * std::tan(degrees * kRadians)); });
        Walker w(l, kBodies[0], l.originX + 25, l.originZ + 15);
        CAPTURE(degrees);
        goOn(w, towards(90), 12);
        if (degrees < 40) CHECK(w.state().x > l.originX + 45);
        else CHECK(w.state().x < l.originX + 31.1);
        // Put down on the slope.
        Walker s(l, kBodies[0], l.originX + 60, l.originZ + 15);
        goOn(s, {}, 30);
        if (degrees < 40) CHECK(s.state().x == Approx(l.originX + 60).margin(0.01));
        else CHECK(s.state().x < l.originX + 31);
        CHECK(s.state().gait == Gait::firm);
    }
}

TEST_CASE("it steps up what is no higher than a step, jumps up what is no higher than a jump") {
    for (const double high : {0.3, 0.6, 1.2}) {
        // A sheer step, on ground so fine that the face is narrow.
        const Level l = shaped(
            200, 20, [&](int c, int) { return c < 100 ? 0.0 : high; }, 0.25);
        const auto reached = [&](bool jump) {
            Walker w(l, kBodies[0], l.originX + 20, l.originZ + 2.5);
            for (int i = 0; i < 6 * Walker::kStepsASecond; ++i) {
                WalkInput in = towards(90);
                in.jump = jump && i % 100 == 0;
                w.step(in);
            }
            return w.state().x > l.originX + 26;
        };
        CAPTURE(high);
        CHECK(reached(false) == (high < 0.4));
        CHECK(reached(true) == (high < 0.9));
    }
}

TEST_CASE("on ground that is too steep it keeps its hold for a metre and no farther") {
    // Along the foot of a wall of 60 degrees, leaning into it.
    const Level l = shaped(120, 40, [](int, int r) { return r < 20 ? (20 - r) * std::tan(60 * kRadians) : 0.0; });
    Walker w(l, kBodies[0], l.originX + 10, l.originZ + 21);
    double on = 0, farthest = 0;
    bool slid = false;
    for (int i = 0; i < 12 * Walker::kStepsASecond; ++i) {
        const double x = w.state().x, z = w.state().z;
        w.step(towards(82, true));
        const double way = std::hypot(w.state().x - x, w.state().z - z);
        on = w.state().gait == Gait::stepping ? on + way : 0;
        slid = slid || w.state().gait == Gait::sliding;
        farthest = std::max(farthest, on);
    }
    CHECK(slid);
    CHECK(farthest > 0.5);
    CHECK(farthest < Walker::kStride + 0.1);
    CHECK(w.state().y < 0.4 + 1e-6);
}

TEST_CASE("a jump is as high as it says, and lands where it began") {
    const Level l = shaped(60, 60, [](int, int) { return 2; });
    for (const float high : {0.5f, 0.9f, 3.f}) {
        Body b = kBodies[0];
        b.jump = high;
        Walker w(l, b, 0, 0);
        WalkInput in;
        in.jump = true;
        double top = 0;
        int airborne = 0;
        for (int i = 0; i < 400; ++i) {
            w.step(in);
            top = std::max(top, w.state().y - 2);
            airborne += w.state().gait == Gait::air;
        }
        CHECK(top == Approx(high).epsilon(0.04));
        CHECK(w.state().y == 2);
        // Held down, it is one jump.
        CHECK(airborne * Walker::kStep == Approx(2 * std::sqrt(2 * high / 9.81)).epsilon(0.05));
    }
}

TEST_CASE("it wades slower, swims where it is deep, dives and comes up, and climbs out") {
    Level l = shaped(100, 30, [](int c, int) {
        return c < 30 ? 0.0 : c > 70 ? 0.0 : -std::min({(c - 30) * 0.4, (70 - c) * 0.4, 6.0});
    });
    Pool p;
    p.name = "pond", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = -0.3f;
    REQUIRE(addPool(l, p));
    refillWater(l);
    Walker w(l, kBodies[0], l.originX + 20, l.originZ + 15);
    bool swam = false;
    double slowest = 9;
    for (int i = 0; i < 60 * Walker::kStepsASecond && w.state().x < l.originX + 80; ++i) {
        w.step(towards(90));
        if (w.state().gait == Gait::swimming) {
            swam = true;
            CHECK(w.state().y == Approx(-0.3 - 1.1).margin(1e-6));
            CHECK(w.state().depth == Approx(1.1).margin(1e-6));
        }
        if (i > 240) slowest = std::min(slowest, std::hypot(w.state().vx, w.state().vz));
    }
    CHECK(swam);
    CHECK(w.state().x >= l.originX + 80);
    CHECK(slowest == Approx(1).margin(0.05));
    CHECK(w.eyeUnderWater() == 0);
    // Down to the bed and up again.
    Walker d(l, kBodies[0], l.originX + 50, l.originZ + 15);
    WalkInput dive;
    dive.dive = true;
    goOn(d, dive, 10);
    CHECK(d.state().y == Approx(groundSample(l, 50, 15)));
    CHECK(d.eyeUnderWater() > 3);
    goOn(d, {}, 20);
    CHECK(d.state().y == Approx(-1.4).margin(1e-6));
    // A cart sinks, and says where.
    Walker cart(l, kBodies[2], l.originX + 20, l.originZ + 15);
    goOn(cart, towards(90), 20);
    REQUIRE(cart.state().loss == Loss::sunk);
    CHECK(lossInWords(l, cart.state()) == "sank in pond");
}

TEST_CASE("a stream carries who stands in it, the farther the deeper it is") {
    // A bed that falls to the east, in a valley.
    Level l = shaped(120, 41, [](int c, int r) { return 20 - 0.06 * c + 0.25 * std::abs(r - 20); });
    Course c;
    c.use = CourseUse::carve;
    c.sunk = 1.5f;
    for (const double x : {10.0, 60.0, 110.0})
        c.posts.push_back({l.originX + x, l.originZ + 20, std::nullopt, 6, 1, 0});
    Stream s;
    s.name = "brook", s.course = addCourse(l, "bed", c), s.manning = 0.05f;
    const auto carried = [&](float depth) {
        Level with = l;
        s.depth = depth;
        REQUIRE(addStream(with, s));
        refillWater(with);
        Walker w(with, kBodies[0], l.originX + 40, l.originZ + 20);
        goOn(w, {}, 4);
        CHECK(w.state().depth == Approx(depth).margin(0.1));
        return w.state().x - (l.originX + 40);
    };
    const double shallow = carried(0.2f), deep = carried(0.8f);
    CHECK(shallow > 0.2);
    CHECK(deep > 3 * shallow);
}

TEST_CASE("nobody leaps out of deep water onto what is higher than a step") {
    // A basin whose rim stands 0.7 m over where a swimmer's soles are: less than a jump, more than a step.
    Level l = shaped(60, 30, [](int c, int) { return c < 30 ? -6.0 : -0.6; });
    Pool p;
    p.name = "basin", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = -0.2f;
    REQUIRE(addPool(l, p));
    refillWater(l);
    const uint32_t deep = put(l, "deep", 10, 15), shelf = put(l, "shelf", 50, 15, "goal");
    CHECK_FALSE(surveyReach(l, kBodies[0]).reaches(deep, shelf));
    CHECK(surveyReach(l, kBodies[0]).reaches(shelf, deep));
    Body frog = kBodies[0];
    frog.step = 0.8f;
    CHECK(surveyReach(l, frog).reaches(deep, shelf));
    Walker w(l, kBodies[0], l.originX + 20, l.originZ + 15);
    for (int i = 0; i < 20 * Walker::kStepsASecond; ++i) {
        WalkInput in = towards(90, true);
        in.jump = i % 30 == 0;
        w.step(in);
    }
    CHECK(w.state().x < l.originX + 30.1);
}

TEST_CASE("openings let it through, the land's edge lets it fall, and it is told where") {
    Level l = shaped(60, 40, [](int, int) { return 3; });
    for (int r = 15; r < 25; ++r)
        for (int c = 30; c < 36; ++c) l.opening.set(c, r, 255);
    for (int r = 0; r < 40; ++r)
        for (int c = 0; c < 8; ++c) l.noLand.set(c, r, 255);
    const struct {
        double heading;
        Loss loss;
        std::string words;
    } ways[] = {{90, Loss::opening, "fell through an opening"},
                {0, Loss::edge, "fell off the north edge"},
                {180, Loss::edge, "fell off the south edge"},
                {270, Loss::coast, "fell off the land's edge"}};
    for (const auto& way : ways) {
        Walker w(l, kBodies[0], l.originX + 20, l.originZ + 20);
        goOn(w, towards(way.heading), 25);
        CAPTURE(way.words);
        REQUIRE(w.state().gait == Gait::lost);
        CHECK(w.state().loss == way.loss);
        CHECK(lossInWords(l, w.state()) == way.words);
        const WalkState was = w.state();
        goOn(w, towards(0), 1);
        CHECK(w.state() == was);
    }
    Walker east(l, kBodies[0], l.originX + 50, l.originZ + 20);
    goOn(east, towards(90), 15);
    CHECK(lossInWords(l, east.state()) == "fell off the east edge");
}

namespace {

// Walks at random on steep and broken ground, each a minute long; every tenth twice.
void walkAtRandom(int walks) {
    Random random(7);
    std::vector<Level> levels;
    for (uint32_t seed = 1; seed <= 20; ++seed) {
        levels.push_back(brokenLevel(48, 40, seed));
        Level& l = levels.back();
        if (seed % 4 == 0) l.opening.set(20, 20, 255), l.noLand.set(0, 0, 255);
        if (seed % 5 == 0) {
            Pool p;
            p.name = "sea", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = 1;
            REQUIRE(addPool(l, p));
            refillWater(l);
        }
    }
    double deepest = 0;
    for (int k = 0; k < walks; ++k) {
        const Level& l = levels[static_cast<size_t>(k) % levels.size()];
        const Body& body = kBodies[static_cast<size_t>(k % 3)];
        const double x = l.originX + between(random, 3, 44), z = l.originZ + between(random, 3, 36);
        Walker w(l, body, x, z);
        WalkRecord record = recordAt(l, body, x, z);
        WalkInput in;
        for (int i = 0; i < 60 * Walker::kStepsASecond && w.state().gait != Gait::lost; ++i) {
            if (i % 40 == 0) {
                in.forward = static_cast<int8_t>(wholeBetween(random, -1, 1));
                in.right = static_cast<int8_t>(wholeBetween(random, -1, 1));
                in.heading = static_cast<uint16_t>(wholeBetween(random, 0, 65535));
                in.run = wholeBetween(random, 0, 1);
                in.dive = wholeBetween(random, 0, 4) == 0;
            }
            in.jump = wholeBetween(random, 0, 60) == 0;
            if (k % 10 == 0) record.add(in);
            w.step(in);
            if (groundAt(l, w.state().x, w.state().z))
                deepest = std::max(deepest, altitudeAt(l, w.state().x, w.state().z) - w.state().y);
        }
        CAPTURE(k);
        REQUIRE(deepest <= 1e-9);
        if (k % 10 == 0) REQUIRE(replayWalk(l, record).end == w.state());
    }
}

}  // namespace

TEST_CASE("it is never below the ground, and the same walk gives the same bits", "[property]") { walkAtRandom(120); }

TEST_CASE("it is never below the ground in ten thousand walks of a minute", "[.exhaustive]") { walkAtRandom(10000); }

TEST_CASE("a walk ends in these bits on any machine") {
    // Heights that floats hold exactly, and headings all round.
    const Level l = shaped(40, 40, [](int c, int r) { return 0.25 * ((c * 7 + r * 5) % 9) + 0.125 * (c / 4); });
    Walker w(l, kBodies[1], 0, 0);
    for (int i = 0; i < 2400; ++i) {
        WalkInput in;
        in.forward = 1;
        in.right = static_cast<int8_t>(i / 300 % 3 - 1);
        in.heading = static_cast<uint16_t>(i * 2731);
        in.run = i / 500 % 2;
        in.jump = i % 190 == 0;
        w.step(in);
    }
    char text[200];
    std::snprintf(text, sizeof text, "%a %a %a", w.state().x, w.state().y, w.state().z);
    CHECK(std::string(text) == "0x1.bdcd7ffea3ec3p-2 0x1.d91c1ba2fcadcp-1 -0x1.0cb2a3a2bb69bp-1");
}

TEST_CASE("what is reached on foot lies inside what reach says", "[property]") {
    Random random(11);
    int left = 0;
    for (int k = 0; k < 260; ++k) {
        Level l = brokenLevel(48, 40, static_cast<uint32_t>(k % 40) + 100);
        const Body& body = kBodies[static_cast<size_t>(k % 2)];
        const Reach first = surveyReach(l, body);
        std::vector<std::pair<int, int>> firm;
        for (int r = 2; r < 38; ++r)
            for (int c = 2; c < 46; ++c)
                if (first.ground->kinds.at(c, r) == ReachGround::kFirm) firm.emplace_back(c, r);
        const auto [c, r] = firm[static_cast<size_t>(wholeBetween(random, 0, static_cast<int>(firm.size()) - 1))];
        put(l, "start", c, r);
        const Reach reach = surveyReach(l, body);
        Walker w(l, body, l.spots[0].x, l.spots[0].z);
        WalkInput in;
        for (int i = 0; i < 60 * Walker::kStepsASecond; ++i) {
            if (i % 50 == 0) in = towards(between(random, 0, 360), wholeBetween(random, 0, 1));
            w.step(in);
            if (w.state().gait == Gait::lost) break;
            if (w.state().gait != Gait::firm) continue;
            // The corners of the cell that it stands in.
            const int x = std::min(static_cast<int>(l.toColumn(w.state().x)), l.columns - 2),
                      z = std::min(static_cast<int>(l.toRow(w.state().z)), l.rows - 2);
            bool in_ = false;
            for (const auto& [dc, dr] : {std::pair{0, 0}, {1, 0}, {0, 1}, {1, 1}}) {
                const auto is = static_cast<Reached>(reach.classes.at(x + dc, z + dr));
                in_ = in_ || is == Reached::both || is == Reached::oneWay || is == Reached::trap;
            }
            CAPTURE(k, i, w.state().x, w.state().z, w.state().y);
            if (!in_) ++left;
            REQUIRE(in_);
        }
    }
    CHECK(left == 0);
}

TEST_CASE("what reach says is reached by following the way that was found", "[property]") {
    Random random(5);
    int onFoot = 0, leaping = 0, leapt = 0;
    for (int k = 0; k < 260; ++k) {
        Level l = brokenLevel(48, 40, static_cast<uint32_t>(k) + 300);
        const Body& body = kBodies[static_cast<size_t>(k % 3)];
        put(l, "start", 24, 20);
        const Reach reach = surveyReach(l, body);
        if (!reach.nowhere.empty()) continue;
        for (int n = 0; n < 6; ++n) {
            const auto goal = firmSample(reach, random, n % 2 ? Reached::both : Reached::oneWay);
            if (!goal) continue;
            const double x = l.originX + goal->first, z = l.originZ + goal->second;
            const auto way = wayBetween(l, *reach.ground, l.spots[0].x, l.spots[0].z, x, z);
            CAPTURE(k, n, goal->first, goal->second);
            REQUIRE(way);
            Walker w(l, body, way->points.front().x, way->points.front().z);
            WayFollower hand(*way);
            for (int i = 0; i < 200 * Walker::kStepsASecond && !hand.there() && !hand.stuck(); ++i)
                w.step(hand.next(w.state()));
            if (way->feat) continue;
            if (way->leaps + way->drops == 0) {
                CHECK(hand.there());
                CHECK(way->steepest <= body.slope + 0.1);
                ++onFoot;
            } else {
                leapt += hand.there();
                ++leaping;
            }
        }
    }
    CHECK(onFoot > 100);
    // Feats on narrow ledges fail a hand that goes by rule now and then.
    CHECK(leaping > 80);
    CHECK(leapt >= 0.8 * leaping);
}

// --- spots --------------------------------------------------------------------------------------------------------

TEST_CASE("a pad evens the ground under its spot, moves with it, and gives the ground back") {
    Level l = hillyLevel(120, 90, 4);
    const uint32_t id = put(l, "hut", 40, 50);
    const Level before = l;
    Level next = l;
    REQUIRE(setPad(next, id, Pad{8, 5, std::nullopt}));
    next = commitWork(before, next).value().level;
    const double at = altitudeAt(before, l.spot(id)->x, l.spot(id)->z);
    for (const auto& [dx, dz] : {std::pair{0, 0}, {7, 0}, {0, -7}, {-5, 5}})
        CHECK(altitudeAt(next, l.spot(id)->x + dx, l.spot(id)->z + dz) == Approx(at).margin(1e-4));
    CHECK(altitudeAt(next, l.spot(id)->x + 13.5, l.spot(id)->z) ==
          altitudeAt(before, l.spot(id)->x + 13.5, l.spot(id)->z));
    CHECK(padOf(next, *next.spot(id)) == Pad{8, 5, std::nullopt});
    CHECK(checkLevel(next).empty());
    Level moved = next;
    REQUIRE(moveSpot(moved, id, l.spot(id)->x + 40, l.spot(id)->z - 20));
    moved = commitWork(next, moved).value().level;
    CHECK(changesBetween(moved, next).spots);
    CHECK_FALSE(changesBetween(next, next).spots);
    CHECK(altitudeAt(moved, l.spot(id)->x, l.spot(id)->z) == at);
    CHECK(altitudeAt(moved, l.spot(id)->x + 5, l.spot(id)->z) == altitudeAt(before, l.spot(id)->x + 5, l.spot(id)->z));
    const double there = altitudeAt(before, l.spot(id)->x + 40, l.spot(id)->z - 20);
    CHECK(altitudeAt(moved, l.spot(id)->x + 45, l.spot(id)->z - 22) == Approx(there).margin(1e-4));
    Level gone = moved;
    REQUIRE(setPad(gone, id, std::nullopt));
    gone = commitWork(moved, gone).value().level;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) REQUIRE(groundSample(gone, c, r) == groundSample(before, c, r));
    Level deleted = moved;
    removeSpot(deleted, id);
    CHECK(deleted.spots.empty());
    CHECK(deleted.strata.size() == before.strata.size());
}

TEST_CASE("spots and bodies are kept in the level file, and wrong ones refused in words") {
    Folder folder;
    Level l = lopsidedLevel();
    Spot s;
    s.name = "Start hut", s.x = l.originX + 30, s.z = l.originZ + 21, s.facing = 137.5;
    const uint32_t id = addSpot(l, s).value();
    s.name = "Jam kitchen", s.kind = "tasting table", s.x += 20;
    REQUIRE(addSpot(l, s));
    REQUIRE(setPad(l, id, Pad{3, 2, 4.5f}));
    Body goat{"goat", 1.1f, 0.3f, 0.7f, 55, 3, 7, 1.6f, 0.6f, true};
    REQUIRE(keepBody(l, goat));
    l.body = "goat";
    REQUIRE(saveLevel(l, folder.path / "l.jamhill"));
    const Level back = loadLevel(folder.path / "l.jamhill").value();
    CHECK(back.spots == l.spots);
    CHECK(back.bodies == l.bodies);
    CHECK(back.body == "goat");
    CHECK(bodyOf(back) == goat);
    CHECK(padOf(back, *back.spot(id)) == Pad{3, 2, 4.5f});
    CHECK(changesBetween(back, lopsidedLevel()).spots);
    const Json manifest = manifestOf(l);
    REQUIRE(manifest["spots"].size() == 2);
    CHECK(manifest["spots"][0]["name"] == "Start hut");
    CHECK(manifest["spots"][0]["y"].get<double>() == Approx(altitudeAt(l, l.spots[0].x, l.spots[0].z)));
    CHECK(manifest["body"]["name"] == "goat");
    // Wrong ones.
    s.x = l.originX + 1e5;
    CHECK(addSpot(l, s).error().sentence().find("called \"Jam kitchen\" already") != std::string::npos);
    s.name = "far off";
    CHECK(addSpot(l, s).error().sentence().find("outside of the level") != std::string::npos);
    s.x = l.originX + 50, s.z = l.originZ + 40;
    Level holed = flatLevel(40, 40);
    for (int r = 5; r < 12; ++r)
        for (int c = 5; c < 12; ++c) holed.opening.set(c, r, 255);
    s.x = holed.originX + 8, s.z = holed.originZ + 8;
    CHECK(addSpot(holed, s).error().sentence().find("no ground") != std::string::npos);
    Body flat = goat;
    flat.name = "flat", flat.height = 0;
    CHECK(keepBody(l, flat).error().sentence().find("height") != std::string::npos);
    flat.height = 1, flat.run = 1;
    CHECK(keepBody(l, flat).error().sentence().find("slower than it walks") != std::string::npos);
    goat.name = "walker";
    CHECK_FALSE(keepBody(l, goat));
    // Cut off, it goes with its pad.
    const Level cut = cropLevel(l, {40, 0, l.columns, l.rows}).value();
    CHECK(cut.spot(id) == nullptr);
    CHECK(cut.strata.size() + 1 == l.strata.size());
    CHECK(checkLevel(cut).empty());
}

TEST_CASE("files with wrong spots or bodies are refused in words, whatever is wrong") {
    const Level l = flatLevel(20, 20);
    const auto read = [&](const std::string& text) {
        std::optional<Error> error;
        const Json json = Json::parse(text);
        Fields f(json, "level.json", error);
        Level to = l;
        to.nextId = 9;
        readSpots(f, to);
        return error ? error->sentence() : std::string();
    };
    const std::string start = R"({"id":1,"name":"a","kind":"start","x":0,"z":0})";
    CHECK(read("{}").empty());
    CHECK(read("{\"spots\":[" + start + "]}").empty());
    const std::pair<std::string, std::string> wrong[] = {
        {"{\"spots\":[" + start + "," + start + "]}", "the same"},
        {R"({"spots":[{"id":1,"name":"a","kind":"start","x":0,"z":0},{"id":2,"name":"a","kind":"goal","x":0,"z":0}]})",
         "already"},
        {R"({"spots":[{"id":1,"name":"","kind":"start","x":0,"z":0}]})", "has none"},
        {R"({"spots":[{"id":1,"name":"a","kind":"","x":0,"z":0}]})", "spots[0].kind"},
        {R"({"spots":[{"id":1,"name":"a","kind":"start","x":900,"z":0}]})", "spots[0].x"},
        {R"({"spots":[{"id":99,"name":"a","kind":"start","x":0,"z":0}]})", "spots[0].id"},
        {R"({"bodies":[{"name":"a","height":0}]})", "bodies[0].height"},
        {R"({"bodies":[{"name":"a","pace":9,"run":2}]})", "slower"},
        {R"({"bodies":[{"name":"walker"}]})", "already"},
        {R"({"body":"ghost"})", "no body"}};
    for (const auto& [text, words] : wrong) {
        CAPTURE(text);
        CHECK(read(text).find(words) != std::string::npos);
    }
    std::string many = "{\"spots\":[";
    for (int i = 0; i < 10000; ++i) many += (i ? "," : "") + start;
    CHECK(read(many + "]}").find("spots") != std::string::npos);
}

// --- recorded walks -----------------------------------------------------------------------------------------------

TEST_CASE("a recorded walk leads to the same place to the bit, from its file too, and belongs to its level") {
    Folder folder;
    Level l = brokenLevel(60, 50, 8);
    l.name = "Broken";
    Random random(3);
    const double x = l.originX + 20, z = l.originZ + 25;
    Walker w(l, kBodies[1], x, z);
    WalkRecord record = recordAt(l, kBodies[1], x, z);
    WalkInput in;
    for (int i = 0; i < 3000; ++i) {
        if (i % 37 == 0)
            in = towards(between(random, 0, 360), i % 2), in.right = static_cast<int8_t>(wholeBetween(random, -1, 1));
        in.jump = i % 91 == 0;
        w.step(in);
        record.add(in);
    }
    CHECK(record.steps() == 3000);
    CHECK(record.seconds() == 25);
    CHECK(record.runs.size() < 200);
    CHECK(replayWalk(l, record).end == w.state());
    REQUIRE(writeWalk(record, folder.path / "a.walk"));
    const Result<WalkRecord> back = readWalk(folder.path / "a.walk", l);
    REQUIRE(back);
    CHECK(back.value() == record);
    const Replayed again = replayWalk(l, back.value());
    CHECK(again.end == w.state());
    CHECK(again.trace.size() == 251);
    CHECK(again.length > 10);
    // Another level, or another file.
    Level other = l;
    other.name = "Elsewhere";
    CHECK(readWalk(folder.path / "a.walk", other).error().sentence().find("walked in \"Broken\"") != std::string::npos);
    CHECK_FALSE(readWalk(folder.path / "a.walk", flatLevel(60, 51)));
    const std::string text = walkText(record);
    Random bytes(9);
    for (int n = 0; n < 3000; ++n) {
        std::string bad = text.substr(0, 600);
        const Bytes m = mutated(Bytes(bad.begin(), bad.end()), bytes);
        const auto read = parseWalk(std::string(m.begin(), m.end()), "bad.walk", l);
        if (!read) CHECK(read.error().sentence().find("bad.walk") != std::string::npos);
    }
    const auto withRun = [&](const std::string& run) {
        Json j = Json::parse(text);
        j["runs"] = Json::array({Json::parse(run)});
        return parseWalk(j.dump(), "bad.walk", l);
    };
    CHECK(withRun("[5,1,0,300,0,1,0]"));
    for (const char* run :
         {"[0,1,0,3,0,0,0]", "[5,2,0,3,0,0,0]", "[5,1,0,65536,0,0,0]", "[5,1,0,3,0,0]", "[5,1,0,3,0,0,2]",
          "[5,1,0.5,3,0,0,0]", "[99999999999,0,0,0,0,0,0]", "[18446744073709551615,0,0,0,0,0,0]", "7"})
        CHECK(withRun(run).error().sentence().find("runs") != std::string::npos);
}

// --- mending ------------------------------------------------------------------------------------------------------

TEST_CASE("a bank along a way out closes it, on level and on falling ground, for who jumps too", "[property]") {
    for (const double spacing : {0.5, 1.0})
        for (const double fall : {0.0, 0.4, -0.4})
            for (const Body& body : kBodies) {
                // Walls all round but for a gap in the east.
                Level l = shaped(
                    70, 60,
                    [&](int c, int r) {
                        const double rim = std::max({5.0 - c, 5.0 - r, c - 64.0, r - 54.0, 0.0});
                        const bool gap = c >= 60 && r > 22 && r < 34;
                        return fall * std::max(c - 50, 0) * spacing + (gap ? 0.0 : std::min(rim, 1.0) * 9);
                    },
                    spacing);
                put(l, "start", 30, 28);
                const Reach before = surveyReach(l, body);
                CAPTURE(spacing, fall, body.name);
                REQUIRE(before.waysOut.size() == 1);
                CHECK(before.waysOut[0].towards == "east");
                const Result<Mended> done = bankAlong(l, before, before.waysOut[0], {2.5f, 1.5f});
                REQUIRE(done);
                CHECK(done.value().earth > 1);
                const Reach after = surveyReach(done.value().level, body);
                CHECK(after.waysOut.empty());
                CHECK(groundSample(done.value().level, 30, 28) == groundSample(l, 30, 28));
                Walker w(done.value().level, body, l.spots[0].x, l.spots[0].z);
                for (int i = 0; i < 40 * Walker::kStepsASecond; ++i) {
                    WalkInput in = towards(90, true);
                    in.jump = i % 20 == 0;
                    w.step(in);
                }
                CHECK(w.state().gait != Gait::lost);
            }
}

TEST_CASE("a bank that does not help changes nothing and says why") {
    Level l = shaped(40, 40, [](int, int) { return 0; });
    put(l, "start", 20, 20);
    const Reach reach = surveyReach(l, kBodies[1]);
    REQUIRE(reach.waysOut.size() == 1);
    CHECK(bankAlong(l, reach, reach.waysOut[0], {0.5f, 1}).error().sentence().find("still") != std::string::npos);
    CHECK(bankAlong(l, reach, reach.waysOut[0], {-1, 1}).error().sentence().find("height") != std::string::npos);
    l.highest = 1;
    CHECK(bankAlong(l, reach, reach.waysOut[0], {2.5f, 1}).error().sentence().find("range") != std::string::npos);
    l.strata[0].locked = true;
    CHECK(bankAlong(l, reach, reach.waysOut[0], {2.5f, 1}).error().sentence().find("protected") != std::string::npos);
}

TEST_CASE("a ramp leads onto a stack of stone and out of a pit, and the hand gets there by it") {
    for (const double high : {6.0, -5.0}) {
        Level l = shaped(90, 80, [&](int c, int r) { return std::hypot(c - 60, r - 40) < 8 ? high : 0.0; });
        put(l, "start", 20, 40), put(l, "other", 60, 40, "lookout");
        for (const Body& body : kBodies) {
            Reach reach = surveyReach(l, body);
            const double x = l.originX + 60, z = l.originZ + 40;
            CAPTURE(high, body.name);
            REQUIRE(reach.spotsReached() == (high > 0 ? std::array{1, 2} : std::array{2, 2}));
            const Result<Mended> done = rampTo(l, reach, x, z);
            REQUIRE(done);
            const Level& eased = done.value().level;
            CHECK(eased.strata.size() == l.strata.size() + 1);
            CHECK(eased.strata.back().name == "Ramp");
            reach = surveyReach(eased, body);
            CHECK(reach.reaches(l.spots[0].id, l.spots[1].id));
            CHECK(reach.reaches(l.spots[1].id, l.spots[0].id));
            CHECK(reach.classes.at(60, 40) == static_cast<uint8_t>(Reached::both));
            // Up, that is.
            const Spot &foot = l.spots[high > 0 ? 0 : 1], &head = l.spots[high > 0 ? 1 : 0];
            const auto way = wayBetween(eased, *reach.ground, foot.x, foot.z, head.x, head.z);
            REQUIRE(way);
            CHECK(way->leaps + way->drops == 0);
            Walker w(eased, body, foot.x, foot.z);
            WayFollower hand(*way);
            for (int i = 0; i < 200 * Walker::kStepsASecond && !hand.there() && !hand.stuck(); ++i)
                w.step(hand.next(w.state()));
            CHECK(hand.there());
            CHECK(rampTo(eased, reach, x, z).error().sentence().find("already") != std::string::npos);
        }
    }
    // An island in a moat too wide for any ramp that long.
    Level far = shaped(200, 200, [](int c, int r) {
        const double d = std::hypot(c - 100, r - 100);
        return d < 9 ? 190.0 : 0.0;
    });
    put(far, "start", 5, 5), put(far, "top", 100, 100, "goal");
    CHECK(rampTo(far, surveyReach(far, kBodies[0]), far.originX + 100, far.originZ + 100)
              .error()
              .sentence()
              .find("no ramp") != std::string::npos);
}
