// Kinds, what stands of them, singles: beside slow oracles, over edits, tiles and lopsided levels.
#include <catch2/catch.hpp>

#include <map>
#include <set>

#include "base/maths.h"
#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "cover/rules.h"
#include "dress/density.h"
#include "dress/kinds.h"
#include "dress/pattern.h"
#include "dress/plantings.h"
#include "files/level_file.h"
#include "folder.h"
#include "grow/recipe.h"
#include "level/ground.h"
#include "level/resize.h"
#include "levels.h"
#include "sequences.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

Kind kindOf(const char* recipe, const char* name) {
    Kind k;
    k.name = name;
    k.growth = usualGrowth(*recipeNamed(recipe));
    return k;
}

// Oblong, away from the origin, cover twice as fine, several tiles, hills.
Level lopsided(uint32_t seed = 3) {
    Level level = hillyLevel(170, 81, seed, 2);
    level.originX = -43.5, level.originZ = 1207;
    level.coverFactor = 2;
    for (Layer& l : level.layers) l.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    return level;
}

void fill(Level& level, uint32_t kind, double onHundred) {
    Kind& k = *level.kind(kind);
    for (int z = 0; z < level.coverRows(); ++z)
        for (int x = 0; x < level.coverColumns(); ++x) k.coverage.set(x, z, storedDensity(onHundred));
    if (k.alive) k.held = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), kFullCover);
}

std::map<uint64_t, Planting> standingIn(const Level& level, size_t kind) {
    Plantings all(level);
    std::map<uint64_t, Planting> found;
    size_t count = 0;
    for (int tz = 0; tz < all.tilesDown(); ++tz)
        for (int tx = 0; tx < all.tilesAcross(); ++tx)
            for (const Planting& p : all.tile(kind, tx, tz)) {
                ++count;
                if (!p.single) found[p.place] = p;
            }
    return found;
}

double nearestApart(const std::map<uint64_t, Planting>& all) {
    double least = 1e9;
    for (auto a = all.begin(); a != all.end(); ++a)
        for (auto b = std::next(a); b != all.end(); ++b)
            least = std::min(least, std::hypot(a->second.x - b->second.x, a->second.z - b->second.z));
    return least;
}

}  // namespace

TEST_CASE("the pattern has each rank once in a patch, and its first so many lie evenly apart", "[property]") {
    for (const auto& [px, pz, seed] : {std::tuple(0, 0, 1u), std::tuple(-3, 7, 9u)}) {
        std::set<int> ranks;
        std::vector<std::array<double, 2>> first;
        constexpr int kFirst = 60;
        for (int bz = 0; bz < kPatchBlocks; ++bz)
            for (int bx = 0; bx < kPatchBlocks; ++bx) {
                int before = -1;
                eachPlace(px * kPatchBlocks + bx, pz * kPatchBlocks + bz, seed, [&](const PatternPlace& p) {
                    CHECK(p.rank > before);
                    before = p.rank;
                    ranks.insert(p.rank);
                    // Inside its block but for what it is shaken.
                    CHECK(std::abs(p.x - ((px * kPatchBlocks + bx + 0.5) * kBlock)) <= kBlock / 2 + kPlaceApart);
                    CHECK(std::abs(p.z - ((pz * kPatchBlocks + bz + 0.5) * kBlock)) <= kBlock / 2 + kPlaceApart);
                    if (p.rank < kFirst) first.push_back({p.x, p.z});
                    return true;
                });
            }
        CHECK(ranks.size() == 65536);
        REQUIRE(first.size() == kFirst);
        double least = 1e9;
        for (size_t i = 0; i < first.size(); ++i)
            for (size_t k = i + 1; k < first.size(); ++k)
                least = std::min(least, std::hypot(first[i][0] - first[k][0], first[i][1] - first[k][1]));
        // At random they would lie a twentieth of the mean distance apart.
        CHECK(least > 0.5 * kPatch / std::sqrt(kFirst));
    }
}

TEST_CASE("a density gives as many as it says, and more of it adds and moves nothing", "[property]") {
    Level level = lopsided();
    const uint32_t id = addKind(level, kindOf("stone", "stones")).value();
    std::map<uint64_t, Planting> before;
    for (const double density : {0.2, 1.0, 3.7, 12.0, 45.0}) {
        fill(level, id, density);
        const auto now = standingIn(level, 0);
        const double expected = density * level.width() * level.depth() / 100;
        CHECK(static_cast<double>(now.size()) == Approx(expected).epsilon(0.12).margin(6));
        for (const auto& [place, p] : before) {
            REQUIRE(now.contains(place));
            CHECK(now.at(place) == p);
        }
        before = now;
    }
}

TEST_CASE("what stands follows the slow definition, tile by tile", "[property]") {
    Level level = lopsided(11);
    Kind k = kindOf("bush", "bushes");
    k.apart = 3.1f, k.clump = 25, k.lean = 0.5f, k.tilt = 8;
    const uint32_t id = addKind(level, k).value();
    fill(level, id, 6);
    for (int z = 0; z < level.coverRows(); ++z)  // bare to the west, thinner to the south
        for (int x = 0; x < level.coverColumns(); ++x)
            level.kind(id)->coverage.set(x, z,
                                         x < 60 ? 0 : storedDensity(9.0 * (level.coverRows() - z) / level.coverRows()));
    const auto found = standingIn(level, 0);
    CHECK(found.size() > 100);
    CHECK(nearestApart(found) >= 3.1);
    // Each lies on the ground, inside the level, in the bounds of its kind.
    for (const auto& [place, p] : found) {
        CHECK(level.holds(p.x, p.z));
        CHECK(p.x > level.originX + 59 * level.coverSpacing());
        CHECK(static_cast<double>(p.y) == Approx(altitudeAt(level, p.x, p.z) - 0.05).margin(1e-3));
        CHECK(p.size >= k.sizeFrom);
        CHECK(p.size <= k.sizeTo);
        CHECK(p.variant < 4);
        CHECK(p.turn >= 0);
        CHECK(p.turn < 360);
    }
    // Without the distance there are more, and those that stood stand where they did.
    level.kind(id)->apart = 0;
    const auto more = standingIn(level, 0);
    CHECK(more.size() > found.size());
    for (const auto& [place, p] : found) CHECK(more.contains(place));
}

TEST_CASE("distances hold and nothing jumps however the tiles of the ground are cut", "[property]") {
    Level level = lopsided(5);
    Kind k = kindOf("tree", "trees");
    k.apart = 4;
    const uint32_t id = addKind(level, k).value();
    fill(level, id, 30);
    const auto whole = standingIn(level, 0);
    CHECK(nearestApart(whole) >= 4);
    // The same ground with its tiles elsewhere: cropped by an odd number of samples.
    const Level part = cropLevel(level, {37, 21, 151, 80}).take();
    const auto cropped = standingIn(part, 0);
    CHECK(cropped.size() > 50);
    for (const auto& [place, p] : cropped) {
        REQUIRE(whole.contains(place));
        CHECK(whole.at(place).x == p.x);
        CHECK(whole.at(place).z == p.z);
        CHECK(whole.at(place).turn == p.turn);
    }
    size_t inside = 0;
    for (const auto& [place, p] : whole) inside += part.holds(p.x, p.z);
    CHECK(cropped.size() == inside);
}

TEST_CASE("kinds keep off each other, courses, water, spots, openings and the edge") {
    Level level = lopsided(8);
    Course c;
    c.posts = {{level.originX + 20, level.originZ + 10, {}, 6, 2, 0},
               {level.originX + 150, level.originZ + 60, {}, 6, 2, 0}};
    const uint32_t course = addCourse(level, "lane", c);
    level.spots.push_back({level.nextId++, "start", "start", level.originX + 80, level.originZ + 62, 0, 0});
    for (int z = 60; z < 70; ++z)
        for (int x = 10; x < 22; ++x) level.opening.set(x, z, 255);
    Level committed = commitWork(lopsided(8), level).value().level;
    level = committed;
    const uint32_t trees = addKind(level, kindOf("tree", "trees")).value();
    fill(level, trees, 2);
    Kind grass = kindOf("tuft", "grass");
    const uint32_t id = addKind(level, grass).value();
    fill(level, id, 60);
    const auto free = standingIn(level, 1);
    const auto kept = [&](KeptOff off) {
        Level with = level;
        with.kind(id)->keepsOff = {off};
        const auto now = standingIn(with, 1);
        CHECK(now.size() < free.size());
        for (const auto& [place, p] : now) CHECK(free.contains(place));
        return now;
    };
    for (const auto& [place, p] : kept({KeptOff::What::edge, 0, 7})) {
        CHECK(p.x - level.originX >= 7);
        CHECK(level.originZ + level.depth() - p.z >= 7);
    }
    for (const auto& [place, p] : kept({KeptOff::What::spot, 0, 9}))
        CHECK(std::hypot(p.x - level.spots[0].x, p.z - level.spots[0].z) >= 9);
    for (const auto& [place, p] : kept({KeptOff::What::opening, 0, 3}))
        CHECK_FALSE((p.x > level.originX + 8 && p.x < level.originX + 23 && p.z > level.originZ + 58 &&
                     p.z < level.originZ + 71));
    const auto standing = standingIn(level, 0);
    for (const auto& [place, p] : kept({KeptOff::What::kind, trees, 2.5f}))
        for (const auto& [other, t] : standing) CHECK(std::hypot(p.x - t.x, p.z - t.z) >= 2.5);
    // Two metres beside its even part, which is six wide.
    const std::vector<LinePoint> line = lineOf(level, static_cast<size_t>(level.stratumIndex(course)));
    for (const auto& [place, p] : kept({KeptOff::What::course, 0, 2})) {
        double away = 1e9;
        for (const LinePoint& at : line) away = std::min(away, std::hypot(p.x - at.x, p.z - at.z));
        CHECK(away > 3 + 2 - 1.0);  // to a sample of the cover
    }
    // On the gap itself nothing stands, whatever is kept off.
    for (const auto& [place, p] : free)
        CHECK_FALSE((p.x > level.originX + 10.5 && p.x < level.originX + 20.5 && p.z > level.originZ + 60.5 &&
                     p.z < level.originZ + 68.5));
}

TEST_CASE("orchards stand in rows, thinned evenly, along a direction and along a course") {
    Level level = lopsided(2);
    Kind k = kindOf("tree", "trees");
    k.rows = Rows::direction, k.rowApart = 6, k.inRow = 4, k.rowDirection = 30;
    const uint32_t id = addKind(level, k).value();
    fill(level, id, 100);
    const auto all = standingIn(level, 0);
    CHECK(static_cast<double>(all.size()) == Approx(level.width() * level.depth() / 24).epsilon(0.05));
    const double a = 30 * kRadians;
    for (const auto& [place, p] : all) {
        const double across = (p.x * std::cos(a) + p.z * std::sin(a)) / 6;
        CHECK(std::abs(across - std::floor(across) - 0.5) < 1e-6);
    }
    CHECK(nearestApart(all) == Approx(4));
    fill(level, id, 100.0 / 24 / 2);
    const auto half = standingIn(level, 0);
    CHECK(static_cast<double>(half.size()) == Approx(static_cast<double>(all.size()) / 2).epsilon(0.1));
    for (const auto& [place, p] : half) CHECK(all.contains(place));

    Course c;
    c.posts = {{level.originX + 10, level.originZ + 40, {}, 4, 1, 0},
               {level.originX + 160, level.originZ + 40, {}, 4, 1, 0}};
    c.smooth = false;
    level.kind(id)->rows = Rows::course;
    level.kind(id)->rowCourse = addCourse(level, "lane", c);
    fill(level, id, 100);
    const auto along = standingIn(level, 0);
    CHECK(along.size() > 100);
    for (const auto& [place, p] : along) {
        const double off = (std::abs(p.z - (level.originZ + 40)) - 2) / 6;
        CHECK(std::abs(off - std::floor(off) - 0.5) < 1e-6);
    }
}

TEST_CASE("a planting that is taken up stands where it stood, and another that is taken away stays away") {
    Level level = lopsided(4);
    Kind k = kindOf("tree", "trees");
    k.apart = 3, k.lean = 0.3f;
    const uint32_t id = addKind(level, k).value();
    fill(level, id, 4);
    const auto before = standingIn(level, 0);
    const Planting one = before.begin()->second, two = std::next(before.begin())->second;
    const uint32_t single = takeUp(level, id, one).value();
    REQUIRE(takeAway(level, id, two));
    const auto after = standingIn(level, 0);
    CHECK(after.size() == before.size() - 2);
    CHECK_FALSE(after.contains(one.place));
    CHECK_FALSE(after.contains(two.place));
    const Planting now = standing(level, *level.kind(id), *level.single(single));
    CHECK(now.x == one.x);
    CHECK(now.y == Approx(one.y).margin(1e-3));
    CHECK(now.turn == one.turn);
    CHECK(now.size == one.size);
    CHECK(now.lean == one.lean);
    CHECK(now.variant == one.variant);
    // More of them brings neither back, and none comes nearer to the single than it may.
    fill(level, id, 40);
    for (const auto& [place, p] : standingIn(level, 0)) {
        CHECK(place != one.place);
        CHECK(place != two.place);
        CHECK(std::hypot(p.x - one.x, p.z - one.z) >= 3);
    }
    CHECK(checkLevel(level).empty());
}

TEST_CASE("brushes plant, thin and clear, beside the fence, with what the rules gave given back", "[property]") {
    Level level = lopsided(6);
    const uint32_t id = addKind(level, kindOf("tuft", "grass")).value();
    Rule steep;
    steep.kind = RuleKind::slope, steep.from = 0, steep.to = 90, steep.fade = 0;
    Level ruled = level;
    changeDensity(ruled, id, 5);
    changeRules(ruled, id, {steep});
    CHECK(static_cast<double>(standingIn(ruled, 0).size()) ==
          Approx(5 * level.width() * level.depth() / 100).epsilon(0.1));
    Stroke stroke;
    stroke.settings = usualSettings(Tool::clearAway);
    stroke.settings.kind = id;
    stroke.settings.radius = 12;
    stroke.points = {{level.originX + 60, level.originZ + 40, 1, 0}};
    Level cleared = ruled;
    REQUIRE(runStroke(cleared, stroke));
    for (const auto& [place, p] : standingIn(cleared, 0))
        CHECK(std::hypot(p.x - level.originX - 60, p.z - level.originZ - 40) > 8);
    CHECK(standingIn(cleared, 0).size() > 400);
    // The ground moves, and the bare place stays bare.
    Level moved = cleared;
    for (int z = 20; z < 60; ++z)
        for (int x = 40; x < 80; ++x) moved.strata[0].heights.set(x, z, moved.strata[0].heights.at(x, z) + 3);
    moved = commitWork(cleared, moved).value().level;
    for (const auto& [place, p] : standingIn(moved, 0))
        CHECK(std::hypot(p.x - level.originX - 60, p.z - level.originZ - 40) > 8);
    // Planted inside the fence alone.
    stroke.settings = usualSettings(Tool::plant);
    stroke.settings.kind = id, stroke.settings.radius = 20, stroke.settings.strength = 1,
    stroke.settings.onHundred = 30;
    Level fenced = level;
    fenced.fenced = true;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < 60; ++x) fenced.fence.set(x, z, kInside);
    for (int i = 0; i < 40; ++i) stroke.points.push_back({level.originX + 60, level.originZ + 40, 1, 0.05 * (i + 1)});
    REQUIRE(runStroke(fenced, stroke));
    const auto planted = standingIn(fenced, 0);
    CHECK(planted.size() > 60);
    for (const auto& [place, p] : planted) CHECK(p.x < level.originX + 61);
}

TEST_CASE("what stands equals working it out anew after any change, at one thread and many", "[property]") {
    Random random(40);
    for (int round = 0; round < 3; ++round) {
        Level level = lopsided(20 + static_cast<uint32_t>(round));
        Kind trees = kindOf("tree", "trees");
        trees.apart = 4;
        const uint32_t one = addKind(level, trees).value();
        Kind grass = kindOf("tuft", "grass");
        grass.keepsOff = {{KeptOff::What::kind, one, 2}, {KeptOff::What::course, 0, 1.5f}, {KeptOff::What::edge, 0, 3}};
        grass.turning = Turning::course;
        const uint32_t two = addKind(level, grass).value();
        fill(level, one, 2), fill(level, two, 20);
        Plantings followed(level);
        followed.prepare(level.bounds());
        for (int step = 0; step < 12; ++step) {
            Level after = level;
            const double x = level.originX + between(random, 0, level.width()),
                         z = level.originZ + between(random, 0, level.depth());
            Stroke stroke;
            stroke.settings = usualSettings(step % 4 == 0   ? Tool::raise
                                            : step % 4 == 1 ? Tool::plant
                                            : step % 4 == 2 ? Tool::thin
                                                            : Tool::clearAway);
            stroke.settings.kind = step % 3 ? one : two;
            stroke.settings.radius = static_cast<float>(between(random, 3, 25));
            stroke.points = {{x, z, 1, 0}, {x + 4, z, 1, 0.3}};
            if (step == 5) {
                Course c;
                c.posts = {{x, z, {}, 4, 2, 0}, {level.originX + 90, level.originZ + 30, {}, 4, 2, 0}};
                addCourse(after, "lane", c);
            } else if (step == 8) {
                Single s;
                s.kind = one, s.x = x, s.z = z;
                REQUIRE(putSingle(after, s));
            } else if (step == 10) {
                REQUIRE(moveKind(after, two, 0));
            } else {
                REQUIRE(runStroke(after, stroke));
            }
            Commit done = commitWork(level, std::move(after)).take();
            level = done.level;
            followed.follow(level, done.change);
            followed.prepare(level.bounds());
            Plantings anew(level);
            for (size_t kind = 0; kind < 2; ++kind)
                for (int tz = 0; tz < anew.tilesDown(); ++tz)
                    for (int tx = 0; tx < anew.tilesAcross(); ++tx) {
                        INFO("step " << step << ", kind " << kind << ", tile " << tx << " " << tz);
                        REQUIRE(followed.tile(kind, tx, tz) == anew.tile(kind, tx, tz));
                    }
        }
    }
}

TEST_CASE("kinds, densities, singles and marks are saved and opened to the bit, and bad ones refused by name") {
    Level level = lopsided(9);
    Kind k = kindOf("tree", "trees");
    k.growth.numbers[0] = 7, k.growth.seed = 5, k.tintTo = {0.5f, 0.75f, 1};
    k.turning = Turning::steps, k.turn = 45, k.blocks = Blocks::cylinder, k.keepsOff = {{KeptOff::What::water, 0, 2}};
    const uint32_t id = addKind(level, k).value();
    fill(level, id, 3);
    const Planting first = standingIn(level, 0).begin()->second;
    const uint32_t single = takeUp(level, id, first).value();
    level.single(single)->above = 1.5f;
    addKind(level, kindOf("hut", "hut")).value();
    const Folder folder;
    const Status saved = saveLevel(level, folder.path / "a.jamhill");
    INFO((saved ? "" : saved.error().sentence()));
    REQUIRE(saved);
    const Level again = loadLevel(folder.path / "a.jamhill").take();
    CHECK(again == level);
    CHECK(standingIn(again, 0).size() == standingIn(level, 0).size());

    Kind bad = *level.kind(id);
    bad.name = "other";
    const auto refused = [&](auto change, const char* field) {
        Kind tried = bad;
        change(tried);
        const Status s = checkKind(level, tried);
        REQUIRE_FALSE(s);
        CHECK(s.error().field.find(field) != std::string::npos);
    };
    refused([](Kind& x) { x.sizeFrom = 3, x.sizeTo = 2; }, "size");
    refused([](Kind& x) { x.apart = 51; }, "apart");
    refused([](Kind& x) { x.density = -1; }, "density");
    refused([](Kind& x) { x.growth.recipe = "spaceship"; }, "recipe");
    refused([](Kind& x) { x.growth.numbers.pop_back(); }, "numbers");
    refused([](Kind& x) { x.growth.numbers[0] = 1e9f; }, "height");
    refused([](Kind& x) { x.name = "trees"; }, "name");
    refused([](Kind& x) { x.clump = 0.5f; }, "clump");
    Single s;
    s.kind = 4711;
    CHECK_FALSE(putSingle(level, s));
    s.kind = id, s.x = 1e6;
    CHECK_FALSE(putSingle(level, s));
}

TEST_CASE("recipes grow the same from the same numbers, stand on the ground, and in fewer parts farther away",
          "[property]") {
    for (const Recipe* r : recipes()) {
        INFO(r->name);
        Growth g = usualGrowth(*r);
        g.variants = 5;
        REQUIRE(checkGrowth(g));
        for (int v = 0; v < 5; ++v) {
            size_t before = std::numeric_limits<size_t>::max();
            for (const Detail d : {Detail::near, Detail::middle, Detail::far}) {
                const Mesh m = grown(g, v, d);
                CHECK(m == grown(g, v, d));
                CHECK(m.triangles() > 0);
                CHECK(m.triangles() <= before);
                before = m.triangles();
                CHECK(m.height() > 0.02f);
                for (const MeshVertex& p : m.vertices) {
                    CHECK(p.at[1] > -2.f);
                    CHECK(std::abs(std::hypot(p.normal[0], p.normal[1], p.normal[2]) - 1) < 1e-3f);
                }
                for (const uint32_t c : m.corners) REQUIRE(c < m.vertices.size());
            }
        }
        // At the ends of every range.
        for (size_t i = 0; i < r->numbers.size(); ++i)
            for (const float end : {r->numbers[i].low, r->numbers[i].high}) {
                Growth at = usualGrowth(*r);
                at.numbers[i] = end;
                REQUIRE(checkGrowth(at));
                const Mesh m = grown(at, 0, Detail::near);
                CHECK(m.triangles() < 20000);
                for (const MeshVertex& p : m.vertices)
                    for (const float c : p.at) REQUIRE(std::isfinite(c));
            }
    }
}

TEST_CASE("a clip takes along what stands, and turned four times by a quarter it is as it was", "[property]") {
    Level level = flatLevel(121, 121, 2);
    Kind k = kindOf("tree", "trees");
    k.keepsOff = {{KeptOff::What::edge, 0, 2}};
    const uint32_t id = addKind(level, k).value();
    for (int z = 45; z < 70; ++z)
        for (int x = 50; x < 71; ++x) level.kind(id)->coverage.set(x, z, static_cast<uint16_t>(40 * x + 7 * z));
    for (const auto& [x, z] : {std::pair(-8.0, -4.5), std::pair(3.0, 6.0)}) {
        Single s;
        s.kind = id, s.x = x, s.z = z, s.turn = 30, s.size = 1.5f, s.lean = 10, s.leanTo = 350;
        REQUIRE(putSingle(level, s));
    }
    const Level bare = flatLevel(121, 121, 2);
    const Region box{40, 40, 81, 81};
    Level turned = level;
    for (int i = 0; i < 4; ++i) {
        const Level clip = liftClip(turned, box, "piece").take();
        CHECK(clip.kinds[0].rules.empty());
        Placement p;
        p.x = bare.originX + 60, p.z = bare.originZ + 60, p.turn = 90;
        turned = setDown(bare, clip, {p}, {}).take();
        REQUIRE(turned.kinds.size() == 1);
        CHECK(turned.kinds[0].name == "trees");
        CHECK(checkLevel(turned).empty());
        if (i == 0) CHECK_FALSE(turned.kinds[0].coverage == level.kinds[0].coverage);
    }
    for (int z = 40; z < 81; ++z)
        for (int x = 40; x < 81; ++x) CHECK(turned.kinds[0].coverage.at(x, z) == level.kinds[0].coverage.at(x, z));
    REQUIRE(turned.singles.size() == 2);
    for (size_t i = 0; i < 2; ++i) {
        const Single &a = turned.singles[i], &b = level.singles[i];
        CHECK(a.x == Approx(b.x));
        CHECK(a.z == Approx(b.z));
        CHECK(a.turn == Approx(b.turn));
        CHECK(a.leanTo == Approx(b.leanTo));
        CHECK(a.size == b.size);
    }
    // Over what stands of the same kind it comes in its place; another kind stays; a protected one too.
    Level there = level;
    const uint32_t other = addKind(there, kindOf("stone", "stones")).value();
    fill(there, other, 3), fill(there, id, 9);
    const Level clip = liftClip(level, box, "piece").take();
    Placement p;
    p.x = there.originX + 60, p.z = there.originZ + 60;
    Level over = setDown(there, clip, {p}, {}).take();
    CHECK(over.kind(id)->coverage.at(42, 42) == 0);
    CHECK(over.kind(id)->coverage.at(10, 10) == storedDensity(9));
    CHECK(over.kind(other)->coverage.at(60, 60) == storedDensity(3));
    CHECK(over.singles.size() == 2);
    there.kind(id)->locked = true;
    CHECK(setDown(there, clip, {p}, {}).take().kind(id)->coverage.at(42, 42) == storedDensity(9));
    SetDownWish without;
    without.plantings = false;
    CHECK(setDown(there, clip, {p}, without).take().kinds == there.kinds);
}
