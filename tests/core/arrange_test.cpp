// What hands do with several at once: rows along contours, sizes by brush, lines, groups.
#include <catch2/catch.hpp>

#include <map>

#include "base/maths.h"
#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "cover/rules.h"
#include "dress/arrange.h"
#include "dress/plantings.h"
#include "dress/shipped_kinds.h"
#include "dressed.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/hold_outside.h"
#include "level/resize.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

std::map<uint64_t, Planting> standingIn(const Level& level, size_t kind = 0) {
    Plantings all(level);
    std::map<uint64_t, Planting> found;
    for (int tz = 0; tz < all.tilesDown(); ++tz)
        for (int tx = 0; tx < all.tilesAcross(); ++tx)
            for (const Planting& p : all.tile(kind, tx, tz)) {
                CHECK(found.count(p.place) == 0);
                found[p.place] = p;
            }
    return found;
}

Kind& inContours(Level& level, uint32_t id) {
    Kind& k = *level.kind(id);
    k.rows = Rows::contour;
    k.rowApart = 1.5f, k.inRow = 3;
    return k;
}

}  // namespace

TEST_CASE("rows along contours lie on them, evenly, and more density adds and moves nothing", "[property]") {
    Level level = lopsidedHills(5, 2);
    const uint32_t id = addGrown(level, "bush");
    const Kind& k = inContours(level, id);
    fill(level, id, 1000);
    const auto full = standingIn(level);
    REQUIRE(full.size() > 100);
    int inRow = 0;
    for (auto a = full.begin(); a != full.end(); ++a) {
        const double h = altitudeAt(level, a->second.x, a->second.z), row = std::round(h / 1.5);
        CHECK(std::abs(h - 1.5 * row) < 0.16);
        double nearest = 1e9;
        for (auto b = full.begin(); b != full.end(); ++b) {
            if (a == b) continue;
            const double away = std::hypot(a->second.x - b->second.x, a->second.z - b->second.z);
            if (std::round(altitudeAt(level, b->second.x, b->second.z) / 1.5) == row) nearest = std::min(nearest, away);
        }
        CHECK(nearest > 0.69 * static_cast<double>(k.inRow));
        inRow += nearest < 2 * static_cast<double>(k.inRow);
    }
    CHECK(inRow > static_cast<int>(full.size()) / 2);
    size_t before = full.size();
    for (const double density : {6.0, 2.0, 0.5}) {
        fill(level, id, density);
        const auto some = standingIn(level);
        CHECK(some.size() < before);
        for (const auto& [place, p] : some) {
            REQUIRE(full.count(place));
            CHECK(full.at(place) == p);
        }
        before = some.size();
    }
}

TEST_CASE("rows along contours follow the ground as if they were made anew, over all borders of tiles", "[property]") {
    Level level = lopsidedHills(9, 2);
    const uint32_t id = addGrown(level, "bush");
    inContours(level, id);
    fill(level, id, 30);
    Plantings follows(level);
    follows.prepare(level.bounds());
    Random random(3);
    for (int i = 0; i < 8; ++i) {
        Level next = level;
        // Beside a border of tiles, so that what moves comes from the tile that did not change.
        const int c = 64 + wholeBetween(random, -6, 5), r = wholeBetween(random, 4, 76);
        for (int z = r - 3; z < r + 3; ++z)
            for (int x = c - 3; x < c + 3; ++x) next.strata[0].heights.set(x, z, next.strata[0].heights.at(x, z) + 2);
        follows.follow(next, changesBetween(next, level));
        level = next;
        Plantings anew(level);
        for (int tz = 0; tz < anew.tilesDown(); ++tz)
            for (int tx = 0; tx < anew.tilesAcross(); ++tx) CHECK(follows.tile(0, tx, tz) == anew.tile(0, tx, tz));
    }
}

TEST_CASE("a brush makes them larger, with Shift smaller, inside the fence, and a clip takes that along") {
    Level level = lopsidedHills(2, 2);
    const uint32_t id = addGrown(level, "bush"), other = addGrown(level, "stone");
    fill(level, id, 20), fill(level, other, 20);
    const auto before = standingIn(level, 0), beside = standingIn(level, 1);
    level.fenced = true;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < 60; ++x) level.fence.set(x, z, kInside);
    const double x0 = level.originX + 60, z0 = level.originZ + 40;
    Stroke stroke;
    stroke.settings = usualSettings(Tool::resize);
    stroke.settings.kind = id, stroke.settings.radius = 15, stroke.settings.strength = 1, stroke.settings.times = 3;
    for (int i = 0; i < 60; ++i) stroke.points.push_back({x0, z0, 1, 0.05 * i});
    const auto timesBy = [&](const Level& now, auto check) {
        const auto after = standingIn(now, 0);
        REQUIRE(after.size() == before.size());
        for (const auto& [place, p] : after) {
            const Planting& was = before.at(place);
            CHECK(p.x == was.x);
            CHECK(p.turn == was.turn);
            check(p, static_cast<double>(p.size / was.size), std::hypot(p.x - x0, p.z - z0));
        }
        CHECK(standingIn(now, 1) == beside);
    };
    Level larger = level;
    REQUIRE(runStroke(larger, stroke));
    int grown = 0;
    timesBy(larger, [&](const Planting& p, double times, double away) {
        if (away > 16 || p.x > level.originX + 61) CHECK(times == Approx(1));
        else CHECK(times >= Approx(1));
        if (away < 6 && p.x < level.originX + 59) {
            CHECK(times == Approx(3).epsilon(0.02));
            ++grown;
        }
    });
    CHECK(grown > 5);
    // What Shift turns.
    stroke.settings = inverted(stroke.settings);
    CHECK(stroke.settings.times == Approx(1 / 3.0));
    Level smaller = larger;
    REQUIRE(runStroke(smaller, stroke));
    timesBy(smaller, [&](const Planting& p, double times, double away) {
        if (away < 6 && p.x < level.originX + 59) CHECK(times == Approx(1 / 3.0).epsilon(0.02));
    });
    // Protected, it stays.
    Level kept = level;
    kept.kind(id)->locked = true;
    CHECK_FALSE(runStroke(kept, stroke));
    // Lifted and set down elsewhere.
    larger.fenced = false;
    const Region box{44, 24, 77, 57};
    const Level clip = liftClip(larger, box, "piece").take();
    Placement place;
    place.x = level.originX + 120, place.z = level.originZ + 40;
    const Level down = setDown(larger, clip, {place}, {}).take();
    CHECK(down.kind(id)->sizes.at(2 * 110, 2 * 40) == larger.kind(id)->sizes.at(2 * 50, 2 * 40));
    CHECK(down.kind(id)->sizes.at(2 * 110, 2 * 40) > kSameSize);
}

TEST_CASE("a line of rails lies end to end along its way and down the slope; trees stand as far apart as in a row") {
    Level level = flatLevel(120, 80, 1);
    for (int z = 0; z < 80; ++z)
        for (int x = 0; x < 120; ++x) level.strata[0].heights.set(x, z, 0.2f * static_cast<float>(x));
    level.originX = 50, level.originZ = -300;
    const auto add = [&](const char* name) {
        for (Kind k : shippedKinds())
            if (k.name == name) {
                k.lean = 1, k.sizeFrom = k.sizeTo = 1, k.inRow = 4;
                return addKind(level, k).value();
            }
        FAIL("no kind");
        return 0u;
    };
    const uint32_t rails = add("Post and rails"), tree = add("Young damson");
    const double x0 = level.originX + 20, z0 = level.originZ + 30;
    REQUIRE(putLine(level, rails, {{x0, z0}, {x0 + 24, z0 + 18}}));
    const size_t count = level.singles.size();
    const auto meshes = meshesOf(*level.kind(rails));
    const double longest = 30 / static_cast<double>(count);
    CHECK(longest == Approx(2 * static_cast<double>(meshes->radius)).epsilon(0.3));
    for (size_t i = 0; i < count; ++i) {
        const Single& s = level.singles[i];
        CHECK(s.group == level.singles[0].group);
        CHECK(s.group != 0);
        // On the way, in order, and turned along it: to 126.87 degrees, or with its back to it.
        const double along = ((s.x - x0) * 24 + (s.z - z0) * 18) / 30, off = ((s.x - x0) * 18 - (s.z - z0) * 24) / 30;
        CHECK(off == Approx(0).margin(1e-6));
        CHECK(along > 0);
        CHECK(along < 30);
        if (i > 0)
            CHECK(std::hypot(s.x - level.singles[i - 1].x, s.z - level.singles[i - 1].z) ==
                  Approx(longest).epsilon(0.06));
        CHECK(std::remainder(static_cast<double>(s.turn) - 126.8699, 180) == Approx(0).margin(0.01));
        // The ground rises by 0.2 * 0.8 a metre along it.
        CHECK(s.lean == Approx(std::atan(0.16) * kDegrees).epsilon(0.01));
        CHECK(s.leanTo == Approx(306.8699).margin(0.01));
    }
    REQUIRE(putLine(level, tree, {{x0, z0}, {x0, z0 + 9}, {x0 + 9, z0 + 9}}));
    REQUIRE(level.singles.size() == count + 5);
    const double at[5][2] = {{0, 0}, {0, 4}, {0, 8}, {3, 9}, {7, 9}};
    for (size_t i = 0; i < 5; ++i) {
        CHECK(level.singles[count + i].x == Approx(x0 + at[i][0]));
        CHECK(level.singles[count + i].z == Approx(z0 + at[i][1]));
        CHECK(level.singles[count + i].lean == 0);
    }
    CHECK(level.singles[count].group != level.singles[0].group);
    // Too short, gone, or over the edge: nothing is put.
    const Level was = level;
    CHECK_FALSE(putLine(level, rails, {{x0, z0}, {x0 + 0.5, z0}}));
    CHECK_FALSE(putLine(level, 4711, {{x0, z0}, {x0 + 20, z0}}));
    CHECK_FALSE(putLine(level, rails, {{x0, z0}, {x0 - 60, z0}}));
    CHECK(level.singles == was.singles);
}

TEST_CASE("groups hold together until they are dissolved; several are lined up, and turned along the nearest course") {
    Level level = flatLevel(100, 60, 2);
    const uint32_t kind = addGrown(level, "post");
    std::vector<uint32_t> ids;
    for (const auto& [x, z] : {std::pair(-30.0, -10.0), std::pair(-20.0, 4.0), std::pair(-5.0, -6.0),
                               std::pair(10.0, 10.0), std::pair(25.0, 2.0)}) {
        Single s;
        s.kind = kind, s.x = x, s.z = z, s.turn = 11;
        ids.push_back(putSingle(level, s).value());
    }
    CHECK_FALSE(groupSingles(level, {ids[0]}));
    CHECK_FALSE(groupSingles(level, {ids[0], 4711}));
    CHECK(level.single(ids[0])->group == 0);
    REQUIRE(groupSingles(level, {ids[0], ids[1], ids[2]}));
    CHECK(groupOf(level, ids[1]) == std::vector<uint32_t>{ids[0], ids[1], ids[2]});
    CHECK(groupOf(level, ids[3]) == std::vector<uint32_t>{ids[3]});
    CHECK(groupOf(level, 4711).empty());
    // The second takes one of the first along.
    REQUIRE(groupSingles(level, {ids[2], ids[3]}));
    CHECK(groupOf(level, ids[0]) == std::vector<uint32_t>{ids[0], ids[1]});
    CHECK(groupOf(level, ids[3]) == std::vector<uint32_t>{ids[2], ids[3]});
    REQUIRE(dissolveGroups(level, {ids[1]}));
    CHECK(groupOf(level, ids[0]).size() == 1);
    CHECK(groupOf(level, ids[2]).size() == 2);
    CHECK_FALSE(dissolveGroups(level, {ids[0], ids[1]}));

    Level lined = level;
    CHECK_FALSE(lineUpSingles(lined, {ids[0], ids[1]}));
    REQUIRE(lineUpSingles(lined, {ids[0], ids[3], ids[2], ids[4]}));
    const double at[4][2] = {{-30, -10}, {-30 + 55 / 3.0, -6}, {-30 + 110 / 3.0, -2}, {25, 2}};
    const uint32_t order[4] = {ids[0], ids[3], ids[2], ids[4]};
    for (size_t i = 0; i < 4; ++i) {
        CHECK(lined.single(order[i])->x == Approx(at[i][0]));
        CHECK(lined.single(order[i])->z == Approx(at[i][1]));
        CHECK(lined.single(order[i])->turn == Approx(std::atan2(55, -12) * kDegrees));
    }
    CHECK(*lined.single(ids[1]) == *level.single(ids[1]));

    CHECK_FALSE(turnAlongCourse(level, ids));
    const auto course = [&](double x0, double z0, double x1, double z1) {
        Stratum s;
        s.id = level.nextId++;
        s.name = "c" + std::to_string(s.id);
        s.course.emplace();
        for (const auto& [x, z] : {std::pair(x0, z0), std::pair(x1, z1)}) {
            Post p;
            p.x = x, p.z = z;
            s.course->posts.push_back(p);
        }
        s.heights = s.owned = TiledGrid<float>(level.columns, level.rows, 0.f);
        level.strata.push_back(s);
    };
    course(-45, -20, 45, -20);
    course(-45, 25, -45 + 60, -5 + 25);
    REQUIRE(turnAlongCourse(level, {ids[0], ids[3]}));
    CHECK(std::fmod(static_cast<double>(level.single(ids[0])->turn) + 360, 180) == Approx(90).margin(1));
    CHECK(std::fmod(static_cast<double>(level.single(ids[3])->turn) + 360, 180) == Approx(90 - 4.76).margin(1));
    CHECK(level.single(ids[1])->turn == 11);
}

TEST_CASE("what a fence holds of densities and sizes is held at the cover's samples, twice as fine") {
    Level before = lopsidedHills(4, 2);
    const uint32_t id = addGrown(before, "bush"), other = addGrown(before, "stone");
    before.fenced = true;
    for (int z = 20; z < 50; ++z)
        for (int x = 90; x < 130; ++x) before.fence.set(x, z, kInside);
    Level after = before;
    for (const uint32_t kind : {id, other})
        for (int z = 0; z < after.coverRows(); ++z)
            for (int x = 0; x < after.coverColumns(); ++x)
                after.kind(kind)->coverage.set(x, z, 500), after.kind(kind)->sizes.set(x, z, 40000);
    holdOutside(before, after);
    for (const uint32_t kind : {id, other})
        for (int z = 0; z < after.coverRows(); z += 3)
            for (int x = 0; x < after.coverColumns(); x += 3) {
                // By the ground's sample nearest to it.
                const bool in = x >= 2 * 90 && x < 2 * 129 && z >= 2 * 20 && z < 2 * 49;
                const bool out = x < 2 * 89 || x > 2 * 130 || z < 2 * 19 || z > 2 * 50;
                CAPTURE(kind, x, z);
                if (in) CHECK(after.kind(kind)->coverage.at(x, z) == 500);
                if (in) CHECK(after.kind(kind)->sizes.at(x, z) == 40000);
                if (out) CHECK(after.kind(kind)->coverage.at(x, z) == 0);
                if (out) CHECK(after.kind(kind)->sizes.at(x, z) == kSameSize);
            }
}

TEST_CASE("singles by the far edges lie on the level still when its samples lie farther apart") {
    Level level = flatLevel(102, 75, 1);
    level.originX = -7, level.originZ = 1000;
    const uint32_t id = addGrown(level, "post");
    for (const auto& [x, z] :
         {std::pair(101.0, 40.0), std::pair(50.0, 74.0), std::pair(101.0, 74.0), std::pair(3.0, 4.0)}) {
        Single s;
        s.kind = id, s.x = level.originX + x, s.z = level.originZ + z;
        REQUIRE(putSingle(level, s));
    }
    const Result<Level> coarse = resampleLevel(level, 34, 25, 3);
    REQUIRE(coarse);
    const Level& l = coarse.value();
    REQUIRE(l.singles.size() == 4);
    for (const Single& s : l.singles) CHECK(l.holds(s.x, s.z));
    CHECK(l.singles[0].z == level.singles[0].z);
    CHECK(l.singles[1].x == level.singles[1].x);
    CHECK(l.singles[1].z == l.originZ + l.depth());
    CHECK(l.singles[3] == level.singles[3]);
    CHECK(checkLevel(l).empty());
}

TEST_CASE("the second of two kinds stands as densely as its own rules say, and follows when the first does") {
    Level level = lopsidedHills(6, 2);
    const uint32_t first = addGrown(level, "bush"), second = addGrown(level, "stone");
    Rule everywhere;
    everywhere.kind = RuleKind::slope, everywhere.from = 0, everywhere.to = 90, everywhere.fade = 0;
    Rule high;
    high.kind = RuleKind::altitude, high.from = 3, high.to = 500, high.fade = 0;
    changeDensity(level, first, 20), changeDensity(level, second, 3);
    changeRules(level, first, {everywhere}), changeRules(level, second, {everywhere, [&] {
                                                                             Rule only = high;
                                                                             only.way = RuleEffect::only;
                                                                             return only;
                                                                         }()});
    const auto densest = [](const Level& l, uint32_t id) {
        uint16_t most = 0;
        for (int z = 0; z < l.coverRows(); ++z)
            for (int x = 0; x < l.coverColumns(); ++x) most = std::max(most, l.kind(id)->coverage.at(x, z));
        return most;
    };
    CHECK(densest(level, first) == Approx(storedDensity(20)).margin(1));
    CHECK(densest(level, second) == Approx(storedDensity(3)).margin(1));
    // From nothing on, too, and back.
    Level sparse = level;
    changeDensity(sparse, second, 0);
    CHECK(densest(sparse, second) == 0);
    changeDensity(sparse, second, 3);
    CHECK(sparse.kind(second)->coverage == level.kind(second)->coverage);
    // So too when nothing of it was kept in between.
    changeDensity(sparse, second, 0);
    const Folder folder;
    REQUIRE(saveLevel(sparse, folder.path / "sparse.jamhill"));
    Level opened = loadLevel(folder.path / "sparse.jamhill").take();
    changeDensity(opened, second, 3);
    CHECK(opened.kind(second)->coverage == level.kind(second)->coverage);
    // Ground rises: both look again, the second where it had not stood.
    Level next = level;
    for (int z = 10; z < 40; ++z)
        for (int x = 20; x < 60; ++x) next.strata[0].heights.set(x, z, 50);
    next = commitWork(level, next).value().level;
    Level anew = next;
    for (const uint32_t id : {first, second}) refreshLaid(anew, id);
    for (const uint32_t id : {first, second}) {
        CHECK(next.kind(id)->coverage.at(80, 50) == anew.kind(id)->coverage.at(80, 50));
        CHECK(next.kind(id)->coverage.at(80, 50) == Approx(storedDensity(id == first ? 20 : 3)).margin(1));
    }
}

TEST_CASE("a group that comes with a clip is one of its own wherever that is set down") {
    Level level = flatLevel(120, 60, 1);
    const uint32_t kind = addGrown(level, "post");
    std::vector<uint32_t> ids;
    for (const auto& [x, z] : {std::pair(-50.0, -10.0), std::pair(-46.0, -8.0), std::pair(-44.0, -12.0)}) {
        Single s;
        s.kind = kind, s.x = x, s.z = z;
        ids.push_back(putSingle(level, s).value());
    }
    REQUIRE(groupSingles(level, {ids[0], ids[1]}));
    const Level clip = liftClip(level, {4, 10, 24, 30}, "piece").take();
    REQUIRE(clip.singles.size() == 3);
    Placement east, middle;
    east.x = 40, east.z = 5, east.turn = 90, middle.x = 0, middle.z = 5, middle.mirror = true;
    const Level l = setDown(level, clip, {east, middle}, {}).take();
    REQUIRE(l.singles.size() == 9);
    const auto& s = l.singles;
    CHECK(s[0].group == s[1].group);
    for (size_t set = 1; set < 3; ++set) {
        CHECK(s[3 * set].group != 0);
        CHECK(s[3 * set].group == s[3 * set + 1].group);
        CHECK(s[3 * set + 2].group == 0);
        CHECK(s[3 * set].group != s[0].group);
    }
    CHECK(s[3].group != s[6].group);
}
