// Where there is no ground: one definition, and everything that keeps to it.
#include <catch2/catch.hpp>
#include <cmath>
#include <glm/geometric.hpp>
#include <nlohmann/json.hpp>

#include "base/maths.h"
#include "cover/weights.h"
#include "files/level_file.h"
#include "files/png.h"
#include "folder.h"
#include "handover/handover.h"
#include "level/changes.h"
#include "level/ground.h"
#include "level/opening.h"
#include "levels.h"
#include "plain_pick.h"
#include "shape/gaps.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "survey/openings.h"
#include "survey/pick.h"
#include "survey/profile.h"
#include "survey/slope.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

// Random masks with soft and sheer places, away from any middle.
Level holedLevel(uint32_t seed, int columns = 23, int rows = 17) {
    Random random(seed);
    Level level = hillyLevel(columns, rows, seed);
    level.smoothEdges = seed % 2 == 0;
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            if (wholeBetween(random, 0, 3) == 0)
                level.opening.set(c, r, static_cast<uint8_t>(wholeBetween(random, 0, 255)));
            if (wholeBetween(random, 0, 5) == 0) level.noLand.set(c, r, 255);
        }
    return level;
}

// The plain oracle: barycentric on the triangle that holds the point, or the mean of the cell.
bool plainlyGround(const Level& l, double column, double row) {
    const int c = std::min(static_cast<int>(std::floor(column)), l.columns - 2),
              r = std::min(static_cast<int>(std::floor(row)), l.rows - 2);
    const auto gap = [&](int x, int z) { return static_cast<double>(std::max(l.opening.at(x, z), l.noLand.at(x, z))); };
    if (!l.smoothEdges) return (gap(c, r) + gap(c + 1, r) + gap(c, r + 1) + gap(c + 1, r + 1)) / 4 < 127.5;
    const double u = column - c, v = row - r;
    // Weights of the corners north-west, south-east, and the one on the point's side of the diagonal.
    const double third = u >= v ? u - v : v - u, se = std::min(u, v), nw = 1 - third - se;
    return nw * gap(c, r) + se * gap(c + 1, r + 1) + third * (u >= v ? gap(c + 1, r) : gap(c, r + 1)) < 127.5;
}

Stroke dot(Tool tool, double x, double z, float radius) {
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.radius = radius;
    s.settings.flow = false;
    s.points = {{x, z, 1, 0}};
    return s;
}

double openCells(const Level& level) {
    double n = 0;
    for (int r = 0; r + 1 < level.rows; ++r)
        for (int c = 0; c + 1 < level.columns; ++c)
            n += !groundAt(level, level.originX + (c + 0.5) * level.spacing, level.originZ + (r + 0.5) * level.spacing);
    return n;
}

}  // namespace

TEST_CASE("ground, picking and profiles agree about gaps on random masks", "[property]") {
    Random random(17);
    for (uint32_t seed = 1; seed <= 30; ++seed) {
        const Level l = holedLevel(seed);
        const HeightPyramid pyramid(l);
        for (int i = 0; i < 300; ++i) {
            const double c = between(random, 0, l.columns - 1), r = between(random, 0, l.rows - 1),
                         x = l.originX + c * l.spacing, z = l.originZ + r * l.spacing;
            const bool ground = plainlyGround(l, c, r);
            REQUIRE(groundAt(l, x, z) == ground);
            const Ray down{{x, 500, z}, {0, -1, 0}};
            REQUIRE(pickGround(l, pyramid, down).has_value() == ground);
            REQUIRE(pickGround(l, pyramid, down, 1e9, Meet::surface).has_value());
            const std::vector<float> p = groundProfile(l, x, z, x, z, 2);
            REQUIRE(std::isnan(p[0]) != ground);
        }
        // Slanted rays go through holes and meet what lies behind, like the plain walk.
        for (int i = 0; i < 200; ++i) {
            const Ray ray{{l.originX + between(random, -5, l.columns + 5), between(random, -20, 60),
                           l.originZ + between(random, -5, l.rows + 5)},
                          {between(random, -1, 1), between(random, -1, 0.2), between(random, -1, 1)}};
            const auto fast = pickGround(l, pyramid, ray), slow = pickPlainly(l, ray);
            REQUIRE(fast.has_value() == slow.has_value());
            if (fast) REQUIRE(glm::length(*fast - *slow) < 1e-6);
            if (fast)
                REQUIRE(plainlyGround(l, std::clamp(l.toColumn(fast->x), 0.0, l.columns - 1.0),
                                      std::clamp(l.toRow(fast->z), 0.0, l.rows - 1.0)));
        }
        CHECK_FALSE(groundAt(l, l.originX - 0.01, l.originZ + 1));
    }
}

TEST_CASE("the edges of the ground have ground on their left and none on their right", "[property]") {
    for (uint32_t seed = 1; seed <= 40; ++seed) {
        const Level l = holedLevel(seed);
        std::vector<EdgePiece> edges;
        edgesOf(l, l.bounds(), edges);
        REQUIRE(!edges.empty());
        for (const EdgePiece& e : edges) {
            const double dc = e.c1 - e.c0, dr = e.r1 - e.r0, length = std::hypot(dc, dr);
            if (length < 0.01) continue;
            const double c = (e.c0 + e.c1) / 2, r = (e.r0 + e.r1) / 2, nc = dr / length * 1e-3,
                         nr = -dc / length * 1e-3;
            INFO("seed " << seed << " at " << c << ", " << r);
            CHECK(plainlyGround(l, c + nc, r + nr));
            CHECK_FALSE(plainlyGround(l, c - nc, r - nr));
        }
        // Piece by piece they are the same as all at once.
        std::vector<EdgePiece> parts;
        for (const Region& part :
             {Region{0, 0, 9, l.rows}, Region{9, 0, l.columns, 5}, Region{9, 5, l.columns, l.rows}})
            edgesOf(l, part, parts);
        CHECK(parts.size() == edges.size());
    }
}

TEST_CASE("an opening is as large as the brush's half strength, and does not grow below a resting hand") {
    Level l = lopsidedLevel();
    l.opening = l.noLand = Gaps(l.columns, l.rows, 0);
    const double x = l.originX + 70, z = l.originZ + 60;
    Stroke s = dot(Tool::openUp, x, z, 12);
    s.settings.falloff.softness = 0;
    REQUIRE(runStroke(l, s));
    const double once = openCells(l);
    // 12 m in cells of 1.5 m; a sheer edge lies half a cell beyond the last sample inside.
    CHECK(once > kPi * 8 * 8);
    CHECK(once < kPi * 8.6 * 8.6);
    CHECK(groundAt(l, x + 12.8, z));
    CHECK_FALSE(groundAt(l, x + 10.5, z));
    s.settings.flow = true;
    s.points = {{x, z, 1, 0}, {x, z, 1, 3}};
    REQUIRE(runStroke(l, s));
    CHECK(openCells(l) == once);
    CHECK(checkLevel(l).empty());
    // Shift closes it again.
    s.settings = inverted(s.settings);
    CHECK(s.settings.tool == Tool::closeUp);
    s.settings.radius = 16;
    REQUIRE(runStroke(l, s));
    CHECK(openCells(l) == 0);
    l.opening.dropDefaultTiles();
    CHECK_FALSE(hasGaps(l));
}

TEST_CASE("an opening over everything is refused, and nothing changes") {
    Level l = lopsidedLevel();
    const Level before = l;
    const Result<Change> r = runStroke(l, dot(Tool::openUp, l.originX + 100, l.originZ + 60, 1000));
    REQUIRE_FALSE(r);
    CHECK(r.error().field == "opening");
    CHECK(l == before);
    // Land may all be taken: that is how islands begin.
    CHECK(runStroke(l, dot(Tool::takeLand, l.originX + 100, l.originZ + 60, 1000)));
    CHECK(openCells(l) == (l.columns - 1) * (l.rows - 1));
    CHECK(checkGroundLeft(l));
}

TEST_CASE("gaps keep to the fence, to limits and to mirrors, and undo is the level before") {
    Level l = lopsidedLevel();
    l.opening = l.noLand = Gaps(l.columns, l.rows, 0);
    l.fenced = true;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < 40; ++c) l.fence.set(c, r, kInside);
    Stroke s = dot(Tool::takeLand, l.originX + 60, l.originZ + 50, 30);
    const Level before = l;
    const Result<Change> change = runStroke(l, s);
    REQUIRE(change);
    CHECK(openCells(l) > 100);
    CHECK(groundAt(l, l.originX + 1.5 * 42, l.originZ + 50));
    CHECK_FALSE(groundAt(l, l.originX + 1.5 * 37, l.originZ + 50));
    CHECK(l.opening == before.opening);
    const Change found = changesBetween(l, before);
    CHECK_FALSE(found.gaps.empty());
    CHECK(found.ground.empty());
    CHECK(found.cover.empty());
    // What the stroke says it touched holds all that differs.
    bool inside = true;
    found.gaps.each([&](int, int, const Region& r) {
        for (int z = r.z0; z < r.z1; ++z)
            for (int x = r.x0; x < r.x1; ++x)
                if (l.noLand.at(x, z) != before.noLand.at(x, z))
                    inside = inside && change.value().gaps.bounds().contains(x, z);
    });
    CHECK(inside);
    // Mirrored across, both sides are the same.
    Level m = flatLevel(51, 41);
    Stroke both = dot(Tool::openUp, 9, 4, 6);
    both.settings.mirror.kind = MirrorKind::acrossX;
    REQUIRE(runStroke(m, both));
    CHECK(openCells(m) > 60);
    for (int r = 0; r < 41; ++r)
        for (int c = 0; c < 51; ++c) REQUIRE(m.opening.at(c, r) == m.opening.at(50 - c, r));
}

TEST_CASE("paint and wash keep to where land is") {
    for (const Tool tool : {Tool::paint, Tool::wash}) {
        Level l = lopsidedLevel();
        const Level before = l;
        // The corner without land lies in the north-west.
        Stroke s = dot(tool, l.originX + 6, l.originZ + 4, 40);
        s.settings.strength = 1;
        s.settings.layer = l.layers[8].id;
        REQUIRE(runStroke(l, s));
        const int f = tool == Tool::paint ? l.coverFactor : 1;
        int kept = 0, painted = 0;
        for (int r = 0; r < 10; ++r)
            for (int c = 0; c < 20; ++c) {
                const bool same = tool == Tool::paint ? l.layers[8].coverage.at(c * f, r * f) ==
                                                            before.layers[8].coverage.at(c * f, r * f)
                                                      : l.wash.at(c, r) == before.wash.at(c, r);
                painted += !same;
                if (l.noLand.at(c, r) != 255) continue;
                CHECK(same);
                ++kept;
            }
        CHECK(kept > 20);
        CHECK(painted > 20);
    }
}

TEST_CASE("what has no ground does not count in surveys") {
    Level l = flatLevel(41, 31, 2);
    for (int r = 0; r < 31; ++r)
        for (int c = 0; c < 41; ++c) {
            l.strata[0].heights.set(c, r, c < 20 ? 0.f : 5.f * static_cast<float>(c - 20));
            l.layers[1].coverage.set(c, r, c < 20 ? 0 : kFullCover);
        }
    CHECK(surveyGround(l).highest == 100);
    for (int r = 0; r < 31; ++r)
        for (int c = 20; c < 41; ++c) l.noLand.set(c, r, 255);
    const GroundFigures g = surveyGround(l);
    CHECK(g.highest == 0);
    CHECK(g.counted == 20 * 31);
    CHECK(g.atMost(90) == Approx(1));
    CHECK(layerShares(l)[1] == 0);
    CHECK(layerShares(l)[0] == 1);
    for (int r = 0; r < 31; ++r)
        for (int c = 0; c < 20; ++c) l.opening.set(c, r, 255);
    CHECK(surveyGround(l).counted == 0);
    CHECK(surveyGround(l).highest == 100);
    CHECK(layerShares(l)[0] == 0);
}

TEST_CASE("openings are found, and those that cannot be got at are told") {
    // Walkable ground everywhere but on a table in the east whose flanks are walls.
    Level l = flatLevel(60, 40, 1, 2);
    for (int r = 12; r < 30; ++r)
        for (int c = 35; c < 55; ++c) l.strata[0].heights.set(c, r, 30);
    const auto cut = [&](int c0, int r0, int c1, int r1) {
        for (int r = r0; r <= r1; ++r)
            for (int c = c0; c <= c1; ++c) l.opening.set(c, r, 255);
    };
    CHECK(surveyOpenings(l, 35).empty());
    cut(10, 10, 14, 12);
    cut(40, 20, 43, 21);
    const std::vector<FoundOpening> found = surveyOpenings(l, 35);
    REQUIRE(found.size() == 2);
    // Cells with half of their corners open are open too: 6 x 4 and 5 x 3 cells of 4 square metres, less the corners.
    CHECK(found[0].area == (6 * 4 - 4) * 4);
    CHECK(found[0].reached);
    CHECK(found[1].area == (5 * 3 - 4) * 4);
    CHECK_FALSE(found[1].reached);
    CHECK(std::abs(l.toColumn(found[1].x) - 41.5) < 4);
    CHECK(groundAt(l, found[1].x, found[1].z));
    // Flanks that can be walked make it one piece of ground.
    CHECK(surveyOpenings(l, 89).back().reached);
    // A hole in the middle of nothing is none.
    for (int r = 0; r < 40; ++r)
        for (int c = 30; c < 60; ++c) l.noLand.set(c, r, 255);
    CHECK(surveyOpenings(l, 35).size() == 1);
    // One over everything has no rim.
    cut(0, 0, 59, 39);
    CHECK(surveyOpenings(l, 35).empty());
}

TEST_CASE("gaps, how they are cut, and the cliff go through the level file") {
    const Folder folder;
    Level l = lopsidedLevel();
    l.smoothEdges = false;
    l.cliff = 12.5f;
    REQUIRE(saveLevel(l, folder.path / "g.jamhill"));
    const Level back = loadLevel(folder.path / "g.jamhill").take();
    CHECK(back == l);
    CHECK(back.opening == l.opening);
    CHECK(hasGaps(back));
    Level other = l;
    other.cliff = 3;
    CHECK_FALSE(changesBetween(l, other).gaps.empty());
    other = l;
    other.smoothEdges = true;
    CHECK_FALSE(changesBetween(l, other).gaps.empty());
}

TEST_CASE("hand over says where there is ground, and only where there are gaps", "[property]") {
    const Folder folder;
    for (uint32_t seed = 1; seed <= 4; ++seed) {
        const Level l = holedLevel(seed);
        const auto out = folder.path / std::to_string(seed);
        REQUIRE(handOver(l, out, {}));
        const Bytes bytes = bytesOf(out / "ground.png");
        const Pixels mask = decodePng(bytes, "ground.png", 100).take();
        REQUIRE(mask.width == l.columns);
        REQUIRE(mask.height == l.rows);
        // Read as the manifest says it gives the same ground, at the middle of cells too.
        const nlohmann::json told = nlohmann::json::parse(bytesOf(out / "manifest.json"))["ground"];
        CHECK(told["smooth"] == l.smoothEdges);
        const double ends = told["endsAt"];
        const auto there = [&](int c, int r) {
            return static_cast<double>(mask.samples[static_cast<size_t>(r * l.columns + c)]);
        };
        for (int r = 0; r + 1 < l.rows; ++r)
            for (int c = 0; c + 1 < l.columns; ++c) {
                const double middle = l.smoothEdges
                                          ? (there(c, r) + there(c + 1, r + 1)) / 2
                                          : (there(c, r) + there(c + 1, r) + there(c, r + 1) + there(c + 1, r + 1)) / 4;
                REQUIRE((middle > ends) == plainlyGround(l, c + 0.5, r + 0.5));
            }
    }
    Level whole = holedLevel(1);
    whole.opening = whole.noLand = Gaps(whole.columns, whole.rows, 0);
    REQUIRE(handOver(whole, folder.path / "whole", {}));
    CHECK_FALSE(std::filesystem::exists(folder.path / "whole" / "ground.png"));
}

TEST_CASE("gaps are filled by the fence, inside or outside of it", "[property]") {
    Level l = lopsidedLevel();
    l.opening = l.noLand = Gaps(l.columns, l.rows, 0);
    l.fenced = true;
    for (int r = 10; r < 40; ++r)
        for (int c = 60; c < 100; ++c) l.fence.set(c, r, kInside);
    fillGaps(l, &Level::noLand, true, true);
    CHECK(l.noLand.at(70, 20) == 0);
    CHECK(l.noLand.at(59, 20) == 255);
    CHECK(l.noLand.at(0, 0) == 255);
    fillGaps(l, &Level::opening, true, false);
    CHECK(l.opening.at(70, 20) == 255);
    CHECK(l.opening.at(0, 0) == 0);
    fillGaps(l, &Level::opening, false, false);
    CHECK(l.opening.presentTiles() == 0);
    l.fenced = false;
    fillGaps(l, &Level::noLand, false, false);
    CHECK_FALSE(hasGaps(l));
}
