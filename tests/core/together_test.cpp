// One thing together with another that has nothing to do with it at first sight: what is hidden, protected, cut off or
// let go while something else is done.
#include <catch2/catch.hpp>
#include <cmath>

#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "course/line.h"
#include "cover/course_layers.h"
#include "cover/mix.h"
#include "cover/rules.h"
#include "fence/fence.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "match/neighbour.h"
#include "walk/reach.h"
#include "walk/spots.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

Level committed(const Level& before, Level after) {
    Result<Commit> done = commitWork(before, std::move(after));
    if (!done) FAIL(done.error().sentence());
    return std::move(done.value().level);
}

MapPlace at(const Level& l, double c, double r) { return {l.originX + c * l.spacing, l.originZ + r * l.spacing}; }

// Straight, without meeting others.
Course line(const Level& l, CourseUse use, std::vector<std::array<double, 2>> places) {
    Course c;
    c.use = use;
    c.smooth = c.meets = false;
    for (const auto& [column, row] : places) {
        Post p;
        p.x = at(l, column, row).x, p.z = at(l, column, row).z;
        c.posts.push_back(p);
    }
    return c;
}

bool bakedAnew(const Level& level, uint32_t course) {
    Level anew = level;
    return bakeCourse(anew, static_cast<size_t>(anew.stratumIndex(course))).empty();
}

}  // namespace

TEST_CASE("posts of a bank that are cut off keep to their ground: their height is above it") {
    Level l = hillyLevel(140, 90, 3);
    const uint32_t bank = addCourse(l, "bank", line(l, CourseUse::bank, {{10, 40}, {60, 45}, {120, 50}}));
    const uint32_t road = addCourse(l, "road", line(l, CourseUse::grade, {{10, 60}, {60, 65}, {120, 70}}));
    const Level cut = cropLevel(l, {30, 10, 140, 90}).take();
    CHECK_FALSE(cut.stratum(bank)->course->posts[0].height);
    REQUIRE(cut.stratum(road)->course->posts[0].height);
    CHECK(*cut.stratum(road)->course->posts[0].height == Approx(groundSample(l, 10, 60)).margin(0.01));
}

TEST_CASE("spots by the far edges stay inside when a resample brings those nearer") {
    Level l = hillyLevel(141, 90, 3);
    for (const auto& [c, r] : {std::array{140, 40}, std::array{60, 89}, std::array{140, 89}}) {
        Spot s;
        s.name = freeSpotName(l, "spot"), s.kind = "lookout";
        s.x = at(l, c, r).x, s.z = at(l, c, r).z;
        REQUIRE(addSpot(l, s));
    }
    const Level coarser = resampleLevel(l, 46, 29, 3.1 * l.spacing).take();
    REQUIRE(coarser.depth() < l.depth());
    REQUIRE(coarser.width() < l.width());
    for (const Spot& s : coarser.spots) CHECK(coarser.holds(s.x, s.z));
}

TEST_CASE("a resample leaves the stratum active that was") {
    Level l = hillyLevel(141, 90, 3);
    const uint32_t hidden = addStratum(l, "hidden", 0);
    l.stratum(hidden)->visible = false;
    l.activeStratum = hidden;
    CHECK(resampleLevel(l, 71, 45, 2 * l.spacing).take().activeStratum == hidden);
}

TEST_CASE("a course over another follows what that makes of the ground, when only the lower one was moved") {
    Level l = hillyLevel(140, 90, 3);
    const uint32_t lower = addCourse(l, "lower", line(l, CourseUse::grade, {{20, 45}, {120, 45}}));
    const uint32_t upper = addCourse(l, "upper", line(l, CourseUse::grade, {{70, 45}, {100, 80}}));
    l = committed(hillyLevel(140, 90, 3), l);
    Level raised = l;
    for (Post& p : raised.stratum(lower)->course->posts) p.height = 25.f;
    raised = committed(l, raised);
    CHECK(groundSample(raised, 70, 45) == Approx(25).margin(0.1));
    CHECK(bakedAnew(raised, lower));
    CHECK(bakedAnew(raised, upper));
}

TEST_CASE("water that does not hold keeps no other from leaking") {
    // A hollow beside a lower one, whose water runs over the eastern edge once it stands high enough to cover the way.
    Level l = flatLevel(90, 40, 0);
    l.lowest = -100, l.highest = 100;
    const auto height = [](int c, int r) {
        if (r < 2 || r > 37 || c < 2) return 30.f;
        return c < 20 ? 5.f : c < 25 ? 8.f : c < 80 ? 0.f : 12.f;
    };
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) l.strata[0].heights.set(c, r, height(c, r));
    const auto pool = [&](int c, float surface, const char* name) {
        Pool p;
        p.name = name, p.x = at(l, c, 20).x, p.z = at(l, c, 20).z, p.height = surface;
        return p;
    };
    Pool high = pool(10, 10, "high"), low = pool(50, 9, "low");
    REQUIRE(addPool(l, high));
    Level holds = l;
    REQUIRE(addPool(holds, low));
    CHECK_FALSE(extentOf(holds, holds.pools[0]).leaks);  // its lower ground is covered by what holds
    Level leaks = l;
    low.height = 15;
    REQUIRE(addPool(leaks, low));
    REQUIRE(extentOf(leaks, leaks.pools[1]).leaks);
    CHECK(extentOf(leaks, leaks.pools[0]).leaks);
}

TEST_CASE("a protected layer keeps the rules by which it lay on a course") {
    Level l = hillyLevel(140, 90, 3, 4);
    const uint32_t track = l.layers[1].id, verge = l.layers[2].id;
    const uint32_t road = addCourse(l, "road", line(l, CourseUse::grade, {{20, 45}, {120, 45}}));
    layOnCourse(l, road, track, verge);
    REQUIRE(l.layer(verge)->rules.size() == 1);
    const Layer before = *l.layer(verge);
    l.layers[2].locked = true;
    layOnCourse(l, road, track, 0);
    CHECK(l.layer(verge)->rules == before.rules);
    CHECK(l.layer(verge)->coverage == before.coverage);
    layOnCourse(l, road, 0, 0);
    CHECK(l.layer(track)->rules.empty());
}

TEST_CASE("filling a layer leaves what a hidden living one has to its rules") {
    Level l = lopsidedLevel();
    Layer& above = l.layers[7];
    above.rules = {{RuleKind::slope, RuleEffect::add, 0, 12, 3}};
    const uint32_t id = above.id;
    wakeRules(l, id, false);
    l.layers[7].hidden = true;
    REQUIRE(fillLayer(l, l.layers[3].id, 1, {}));
    const TiledGrid<uint16_t>& held = l.layer(id)->held;
    CHECK(held == TiledGrid<uint16_t>(held.columns(), held.rows(), 0));
}

TEST_CASE("a hidden layer is replaced like any other, and what takes its place goes by hand from then on") {
    Level l = lopsidedLevel();
    const uint32_t hidden = l.layers[4].id, lives = l.layers[2].id;
    REQUIRE(l.layers[4].hidden);
    REQUIRE(l.layers[2].alive);
    REQUIRE(replaceLayer(l, hidden, lives));
    const TiledGrid<uint16_t>& left = l.layer(hidden)->coverage;
    bool none = true;
    for (int r = 0; r < left.rows(); ++r)
        for (int c = 0; c < left.columns(); ++c) none = none && left.at(c, r) == 0;
    CHECK(none);
    CHECK_FALSE(l.layer(lives)->alive);
}

TEST_CASE("a layer that is let go catches up with what its rules missed while it was protected") {
    Level l = lopsidedLevel();
    const uint32_t id = l.layers[2].id;
    l.layers[2].locked = true;
    Level steeper = l;
    for (int r = 20; r < 60; ++r)
        for (int c = 30; c < 80; ++c) steeper.strata[0].heights.set(c, r, static_cast<float>((c * 7 + r * 3) % 11));
    steeper = committed(l, steeper);
    Level free = steeper;
    free.layers[2].locked = false;
    const Change change = changesBetween(free, steeper);
    REQUIRE(change.behind == std::vector<uint32_t>{id});
    Change joined;
    joined.add(change);
    CHECK(joined.behind == change.behind);
    free = committed(steeper, free);
    Level anew = free;
    refreshLaid(anew, id);
    CHECK(anew.layer(id)->base == free.layer(id)->base);
    CHECK_FALSE(free.layer(id)->base == steeper.layer(id)->base);
}

TEST_CASE("a soft fence grows from where it is half inside") {
    Level l = flatLevel(120, 90);
    const MapPlace a = at(l, 30, 20), b = at(l, 80, 60);
    REQUIRE(joinFence(l, insidePolygon(l, {a, {b.x, a.z}, b, {a.x, b.z}}), FenceJoin::replace));
    REQUIRE(featherFence(l, 8));
    const auto reachOf = [](const Level& level) {
        int last = 0;
        for (int c = 55; c < level.columns; ++c)
            if (level.fence.at(c, 40) > kInside / 2) last = c;
        return last;
    };
    const int half = reachOf(l);
    Level grown = l, shrunk = l;
    REQUIRE(growFence(grown, 5 * l.spacing));
    CHECK(reachOf(grown) == half + 5);
    REQUIRE(growFence(shrunk, -5 * l.spacing));
    CHECK(reachOf(shrunk) == half - 5);
}

TEST_CASE("fitting a border's cover leaves hidden layers alone") {
    Level l = lopsidedLevel(), beside = lopsidedLevel(99);
    for (Level* x : {&l, &beside}) x->layers[6].locked = false;
    const uint32_t hidden = l.layers[4].id;
    MatchWish wish;
    wish.side = Side::east, wish.blend = 20, wish.heights = false;
    Result<Level> fitted = matchBorder(l, beside, wish);
    if (!fitted) FAIL(fitted.error().sentence());
    CHECK(fitted.value().layer(hidden)->coverage == l.layer(hidden)->coverage);
    CHECK(fitted.value().layer(hidden)->hidden);
    CHECK_FALSE(fitted.value().layers[3].coverage == l.layers[3].coverage);
}

TEST_CASE("gaps that are cut otherwise are drawn and walked anew, where there are any") {
    const Level l = lopsidedLevel();
    Level cells = l;
    cells.smoothEdges = !cells.smoothEdges;
    CHECK_FALSE(changesBetween(cells, l).gaps.empty());
    Level higher = l;
    higher.cliff += 3;
    CHECK_FALSE(changesBetween(higher, l).gaps.empty());
    Level whole = hillyLevel(60, 60, 2), cut = whole;
    cut.smoothEdges = !cut.smoothEdges;
    CHECK(changesBetween(cut, whole).gaps.empty());
}

TEST_CASE("a closed line runs the same whichever of its posts comes first") {
    Level l = flatLevel(90, 60);
    const std::vector<MapPlace> places = {{-30, -15}, {-8, -22}, {25, -10}, {18, 14}, {-20, 18}};
    // By pairs of posts: the place half way along the leg between them.
    const auto halfWay = [&](size_t first) {
        Level with = l;
        Course c;
        c.closed = true;
        for (size_t i = 0; i < places.size(); ++i) {
            const MapPlace& p = places[(first + i) % places.size()];
            c.posts.push_back({p.x, p.z, 3.f, 4, 2, 0});
        }
        addCourse(with, "ring", c);
        const std::vector<LinePoint> line = lineOf(with, with.strata.size() - 1);
        std::vector<MapPlace> middles;
        for (size_t i = 0; i < places.size(); ++i) {
            std::vector<LinePoint> leg;
            for (const LinePoint& p : line)
                if (p.post == static_cast<int>(i)) leg.push_back(p);
            REQUIRE(leg.size() > 4);
            // Far from its posts the curve is farthest from a straight line.
            middles.push_back({leg[leg.size() / 2].x, leg[leg.size() / 2].z});
        }
        return middles;
    };
    const std::vector<MapPlace> plain = halfWay(0);
    for (size_t first = 1; first < places.size(); ++first) {
        const std::vector<MapPlace> turned = halfWay(first);
        for (size_t i = 0; i < places.size(); ++i) {
            const MapPlace &a = plain[(first + i) % places.size()], &b = turned[i];
            CHECK(std::hypot(a.x - b.x, a.z - b.z) < 1.2);  // a point of the line apart at most
        }
    }
}

TEST_CASE("a course that meets others takes no height from a bank, whose line is no height at all") {
    Level l = flatLevel(90, 60);
    Course bank;
    bank.use = CourseUse::bank;
    bank.posts = {{0, -25, 2.f, 4, 3, 0}, {0, 25, 2.f, 4, 3, 0}};
    addCourse(l, "bank", bank);
    Course lane;
    lane.posts = {{-30, 0, 20.f, 4, 3, 0}, {30, 0, 20.f, 4, 3, 0}};
    lane.meets = true;
    addCourse(l, "lane", lane);
    for (const LinePoint& p : lineOf(l, l.strata.size() - 1)) CHECK(p.height == Approx(20));
}

TEST_CASE("cut cell by cell, the land's end is land's and an opening's edge is not, side by side") {
    Level l = flatLevel(40, 21);
    l.smoothEdges = false;
    for (int z = 0; z < 21; ++z)
        for (int x = 30; x < 40; ++x) l.noLand.set(x, z, 255);
    for (int z = 6; z < 14; ++z)
        for (int x = 5; x < 14; ++x) l.opening.set(x, z, 255);
    std::vector<EdgePiece> edges;
    edgesOf(l, l.bounds(), edges);
    int land = 0, other = 0;
    for (const EdgePiece& e : edges) {
        CHECK(e.land == (std::min(e.c0, e.c1) > 20));
        (e.land ? land : other) += 1;
    }
    CHECK(land > 10);
    CHECK(other > 10);
}

TEST_CASE("a clip without openings closes those below it when it brings openings along, and leaves them when not") {
    Level from = flatLevel(60, 40, 2), to = flatLevel(120, 90, 2);
    for (int z = 30; z < 50; ++z)
        for (int x = 50; x < 70; ++x) to.opening.set(x, z, 255);
    const Level clip = liftClip(from, {10, 5, 40, 35}, "even").take();
    Placement p;
    p.x = to.originX + 60, p.z = to.originZ + 40;
    SetDownWish wish;
    wish.gaps = true;
    const Level closed = setDown(to, clip, {p}, wish).take();
    CHECK(closed.opening.at(60, 40) == 0);
    wish.gaps = false;
    CHECK(setDown(to, clip, {p}, wish).take().opening.at(60, 40) == 255);
}

TEST_CASE("where an opening lies over the land's end, it is an opening and no way out") {
    Level l = flatLevel(60, 41);
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c)
            if (std::min({c, r, l.columns - 1 - c, l.rows - 1 - r}) < 4) l.strata[0].heights.set(c, r, 30);
    Spot s;
    s.name = "start", s.x = l.originX + 12, s.z = l.originZ + 20;
    REQUIRE(addSpot(l, s));
    for (int z = 15; z < 25; ++z)
        for (int x = 30; x < 40; ++x) l.opening.set(x, z, 255), l.noLand.set(x, z, 180);
    CHECK(surveyReach(l, kBodies[0]).waysOut.empty());
    for (int z = 15; z < 25; ++z)
        for (int x = 30; x < 40; ++x) l.noLand.set(x, z, 255);
    CHECK_FALSE(surveyReach(l, kBodies[0]).waysOut.empty());
}
