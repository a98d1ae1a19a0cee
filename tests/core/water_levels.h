// Levels with water, and slow oracles of it.
#pragma once

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
#include "water/water.h"

namespace jam::test {

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
inline std::vector<char> plainFlood(const Grid& g, const std::vector<std::pair<int, int>>& seeds, float height) {
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

inline std::vector<float> plainBrims(const Grid& g) {
    return plainBrims(g, [&](int x, int z) { return g.edge(x, z); });
}

inline Level levelOf(const Grid& g) {
    Level l = flatLevel(g.w, g.d);
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x) l.strata[0].heights.set(x, z, g.at(x, z));
    return l;
}
inline Grid gridOf(const Level& l) {
    Grid g{l.columns, l.rows, std::vector<float>(static_cast<size_t>(l.columns) * static_cast<size_t>(l.rows))};
    for (int z = 0; z < g.d; ++z)
        for (int x = 0; x < g.w; ++x) g.h[static_cast<size_t>(z * g.w + x)] = groundSample(l, x, z);
    return g;
}

inline Pool poolOver(const Level& l, int c, int r, float height, const std::string& name = "pond") {
    Pool p;
    p.name = name;
    p.x = l.originX + c * l.spacing, p.z = l.originZ + r * l.spacing;
    p.height = height;
    return p;
}

inline bool same(const BitTiles& bits, const std::vector<char>& oracle) {
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
inline PlainExtent plainExtent(const Grid& g, int c, int r, float height) {
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

inline void checkGrid(const Grid& g) {
    const std::vector<float> brims = plainBrims(g);
    std::vector<float> filled(g.h.size());
    REQUIRE(fillToBrim({g.h.data(), g.w, g.d, g.w}, {filled.data(), g.w, g.d, g.w}));
    REQUIRE(filled == brims);
}

inline void checkPools(const Grid& g, const std::vector<float>& heights) {
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

inline Grid tinyGrid(int w, int d, long long number) {
    Grid g{w, d, {}};
    for (int i = 0; i < w * d; ++i, number /= 3) g.h.push_back(static_cast<float>(number % 3));
    return g;
}

// A bowl of 2 m depth in flat ground at 5 m, with a notch to the east down to `notch` metres.
inline Level bowl(float notch, int columns = 61, int rows = 49, double spacing = 1) {
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
inline int plainIslands(const Grid& g, const std::vector<char>& wet) {
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

// Ground that falls to the east, with a pond in a bowl at the end, and a stream that runs into it.
inline Level brook(bool fall, uint32_t& stream, uint32_t& pond) {
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

}  // namespace jam::test
