// Levels to walk on, and a slow oracle of what is reached.
#pragma once

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
#include "walk/walker.h"
#include "walk/ways.h"
#include "water/water.h"

namespace jam::test {

inline Level levelOf(int w, int d, const std::vector<float>& h, double spacing = 1) {
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

inline uint32_t put(Level& l, const std::string& name, int c, int r, const std::string& kind = "start") {
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
inline PlainReach plainReach(const Level& l, const Body& body) {
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
inline void checkReach(const Level& l, const Body& body) {
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
inline std::optional<std::pair<int, int>> firmSample(const Reach& reach, Random& random, Reached which) {
    for (int attempt = 0; attempt < 400; ++attempt) {
        const int c = wholeBetween(random, 1, reach.ground->columns - 2),
                  r = wholeBetween(random, 1, reach.ground->rows - 2);
        if (reach.ground->kinds.at(c, r) == ReachGround::kFirm && reach.classes.at(c, r) == static_cast<uint8_t>(which))
            return std::pair{c, r};
    }
    return std::nullopt;
}

// Ground that is steep and broken: hills, terraces, pits, walls.
inline Level brokenLevel(int w, int d, uint32_t seed) {
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

inline void goOn(Walker& w, const WalkInput& in, double seconds) {
    for (int i = 0; i < seconds * Walker::kStepsASecond; ++i) w.step(in);
}
inline WalkInput towards(double degrees, bool run = false) {
    WalkInput in;
    in.forward = 1, in.run = run, in.heading = headingOf(degrees);
    return in;
}

}  // namespace jam::test
