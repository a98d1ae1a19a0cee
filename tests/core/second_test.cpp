// The second of two, one thing times another, and what changes over time: behaviours that single stamps and single
// features do not show.
#include <catch2/catch.hpp>

#include <cmath>

#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "course/line.h"
#include "cover/rules.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/history.h"
#include "level/opening.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "match/neighbour.h"
#include "survey/check.h"
#include "walk/reach.h"
#include "walk/spots.h"
#include "walk/walker.h"
#include "water/figures.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// Oblong, away from the origin, across several tiles; metres by column and row.
template <class F>
Level shaped(int columns, int rows, F height, double spacing = 1) {
    Level l = flatLevel(columns, rows, 2, spacing);
    l.originX = 1000, l.originZ = -500;
    l.lowest = -200, l.highest = 200;
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) l.strata[0].heights.set(c, r, static_cast<float>(height(c, r)));
    return l;
}

Level committed(const Level& before, Level after) {
    Result<Commit> done = commitWork(before, std::move(after));
    if (!done) FAIL(done.error().sentence());
    return std::move(done.value().level);
}
Level committed(Level after) {
    const Level before = flatLevel(3, 3);
    return committed(before, std::move(after));
}

MapPlace at(const Level& l, double c, double r) { return {l.originX + c * l.spacing, l.originZ + r * l.spacing}; }

Pool poolAtSample(const Level& l, int c, int r, float height, const char* name) {
    Pool p;
    p.name = name;
    p.x = at(l, c, r).x, p.z = at(l, c, r).z;
    p.height = height;
    return p;
}

Post post(const Level& l, double c, double r, std::optional<float> height, float width = 4, float shoulder = 3) {
    return {at(l, c, r).x, at(l, c, r).z, height, width, shoulder, 0};
}

int wetSamples(const Level& l, uint32_t body) {
    int n = 0;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) n += l.water.at(c, r).body == body;
    return n;
}

}  // namespace

// --- water ----------------------------------------------------------------------------------------------------------

TEST_CASE("a sea comes in where ground is dug below it at any of the four edges") {
    const Level dry = [] {
        Level l = shaped(200, 150, [](int, int) { return 5; });
        Pool sea;
        sea.name = "sea", sea.sea = true, sea.height = 2;
        sea.x = l.originX, sea.z = l.originZ;
        REQUIRE(addPool(l, sea));
        return committed(std::move(l));
    }();
    REQUIRE(wetSamples(dry, dry.pools[0].id) == 0);
    // A trench from each edge inwards, in turn and one after the other, each in tiles that no other
    // edge has a part of.
    const Region trenches[] = {{70, 0, 74, 30}, {193, 70, 200, 74}, {70, 135, 73, 150}, {0, 70, 40, 72}};
    Level all = dry;
    for (const Region& t : trenches) {
        Level dug = dry, more = all;
        for (Level* l : {&dug, &more})
            for (int r = t.z0; r < t.z1; ++r)
                for (int c = t.x0; c < t.x1; ++c) l->strata[0].heights.set(c, r, -1);
        INFO("trench at " << t.x0 << ", " << t.z0);
        CHECK(wetSamples(committed(dry, dug), dry.pools[0].id) == t.area());
        const int before = wetSamples(all, dry.pools[0].id);
        all = committed(all, more);
        CHECK(wetSamples(all, dry.pools[0].id) > before);
    }
    // One that stops short of the edge stays dry.
    Level pit = dry;
    for (int r = 5; r < 20; ++r) pit.strata[0].heights.set(110, r, -1);
    CHECK(wetSamples(committed(dry, pit), dry.pools[0].id) == 0);
}

TEST_CASE("a pool whose place is cut away by an opening moves, and leaks instead of going dry") {
    Level level = shaped(90, 150, [](int c, int r) { return 0.02 * (std::pow(c - 40, 2) + std::pow(r - 60, 2)); });
    REQUIRE(addPool(level, poolAtSample(level, 40, 60, 8, "pond")));
    level = committed(std::move(level));
    const uint32_t pond = level.pools[0].id;
    const int full = wetSamples(level, pond);
    REQUIRE(full > 500);
    Level cut = level;
    for (int r = 57; r < 64; ++r)
        for (int c = 37; c < 44; ++c) cut.opening.set(c, r, 255);
    cut = committed(level, cut);
    const Pool& p = cut.pools[0];
    CHECK(p.leaks);
    CHECK(groundAt(cut, p.x, p.z));
    CHECK(std::hypot(p.x - level.pools[0].x, p.z - level.pools[0].z) > 2);
    const int left = wetSamples(cut, pond);
    CHECK(left > full / 2);
    const auto leak = leakOf(cut, p);
    REQUIRE(leak);
    CHECK(leak->opening);
}

TEST_CASE("the last leg of a stream counts as its fall, and so does the first") {
    // Level from post to post but for one leg, which is the last, the first or one between.
    for (int steep = 0; steep < 3; ++steep) {
        Level l = shaped(160, 60, [](int, int) { return 30; });
        Course bed;
        bed.use = CourseUse::carve;
        bed.smooth = false;
        float h = 20;
        for (int i = 0; i < 4; ++i) {
            bed.posts.push_back(post(l, 15 + 40.0 * i, 30, h));
            if (i == steep) h -= 9;
        }
        Stream s;
        s.name = "brook", s.course = addCourse(l, "bed", bed);
        REQUIRE(addStream(l, s));
        l = committed(std::move(l));
        const StreamFigures f = streamFigures(l, l.streams[0]);
        INFO("leg " << steep);
        CHECK(f.fall == Approx(9).margin(0.3));
        CHECK(f.length == Approx(120).margin(1));
    }
}

TEST_CASE("each of two streams carries with its own flow, and its own way") {
    // Two valleys beside each other; one falls to the east, the other three times as steeply to the west.
    Level l = shaped(130, 90, [](int c, int r) {
        return r < 45 ? 20 - 0.06 * c + 0.3 * std::abs(r - 20) : 2 + 0.18 * c + 0.3 * std::abs(r - 68);
    });
    for (const bool second : {false, true}) {
        Course c;
        c.use = CourseUse::carve, c.sunk = 1.5f;
        for (const double x : {10.0, 60.0, 115.0})
            c.posts.push_back(post(l, second ? 125 - x : x, second ? 68 : 20, {}, 6, 1));
        Stream s;
        s.name = second ? "beck" : "brook", s.course = addCourse(l, s.name, c), s.depth = 0.4f, s.manning = 0.05f;
        REQUIRE(addStream(l, s));
    }
    l = committed(std::move(l));
    const auto carried = [&](double c, double r) {
        Walker w(l, kBodies[0], at(l, c, r).x, at(l, c, r).z);
        for (int i = 0; i < 3 * 120; ++i) w.step({});
        return w.state().x - at(l, c, r).x;
    };
    const double east = carried(50, 20), west = carried(70, 68);
    CHECK(east > 0.2);
    CHECK(west < -1.3 * east);
    const auto flow = flowAt(l, at(l, 50, 20).x, at(l, 50, 20).z), other = flowAt(l, at(l, 70, 68).x, at(l, 70, 68).z);
    CHECK(flow[0] > 0);
    CHECK(other[0] < -1.3 * flow[0]);
}

TEST_CASE("words of direction are right on oblong levels, on all four sides") {
    for (const bool wide : {false, true}) {
        const int columns = wide ? 170 : 60, rows = wide ? 60 : 170;
        const struct {
            const char* word;
            double c, r;
        } sides[] = {{"north", 0.5, 0}, {"east", 1, 0.5}, {"south", 0.5, 1}, {"west", 0, 0.5}};
        for (const auto& side : sides) {
            INFO(side.word << (wide ? ", wide" : ", deep"));
            // A basin in the middle with a gap in its rim towards one side, by which one can walk out as well.
            const double mc = 0.5 * (columns - 1), mr = 0.5 * (rows - 1);
            Level l = shaped(columns, rows, [&](int c, int r) {
                const double u = (c - mc) / mc, v = (r - mr) / mr, away = std::max(std::abs(u), std::abs(v));
                const bool gap = std::abs(c - mc) * (side.r != 0.5) + std::abs(r - mr) * (side.c != 0.5) < 3 &&
                                 u * (2 * side.c - 1) + v * (2 * side.r - 1) > 0;
                return away < 0.5 ? 0.0 : gap ? 4 * (away - 0.5) : away > 0.85 ? 30.0 : 9.0;
            });
            REQUIRE(addPool(l, poolAtSample(l, columns / 2, rows / 2, 5, "pond")));
            l = committed(std::move(l));
            const auto leak = leakOf(l, l.pools[0]);
            REQUIRE(leak);
            CHECK(leak->towards == side.word);
            l.pools.clear();
            Spot s;
            s.name = "start", s.x = at(l, mc, mr).x, s.z = at(l, mc, mr).z;
            REQUIRE(addSpot(l, s));
            l = committed(std::move(l));
            const Reach reach = surveyReach(l, kBodies[0]);
            REQUIRE(reach.waysOut.size() == 1);
            CHECK(reach.waysOut[0].towards == side.word);
        }
    }
}

// --- courses --------------------------------------------------------------------------------------------------------

namespace {

// Two that cross in the middle: the lower runs at 10 m, the upper has heights of its own.
Level crossing(bool meets, uint32_t& lower, uint32_t& upper) {
    Level l = shaped(150, 80, [](int, int) { return 20; });
    Course a, b;
    a.smooth = b.smooth = false;
    a.posts = {post(l, 20, 40, 10.f), post(l, 130, 40, 10.f)};
    b.posts = {post(l, 75, 8, 30.f), post(l, 75, 72, 30.f)};
    b.meets = meets;
    lower = addCourse(l, "lower", a);
    upper = addCourse(l, "upper", b);
    return committed(std::move(l));
}

float middleOf(const Level& l, uint32_t course) {
    const auto line = lineOf(l, static_cast<size_t>(l.stratumIndex(course)));
    const LinePoint* best = &line[0];
    for (const LinePoint& p : line)
        if (std::abs(p.z - at(l, 0, 40).z) < std::abs(best->z - at(l, 0, 40).z)) best = &p;
    return static_cast<float>(best->height);
}

}  // namespace

TEST_CASE("what becomes of a course below is seen in those above, whether they meet it or not") {
    uint32_t lower = 0, upper = 0;
    for (const bool meets : {true, false}) {
        const Level level = crossing(meets, lower, upper);
        CHECK(groundSample(level, 75, 40) == Approx(meets ? 10 : 30).margin(0.3));
        const auto changed = [&](const std::function<void(Level&)>& change) {
            Level l = level;
            change(l);
            l = committed(level, l);
            // As baked anew.
            Level anew = l;
            for (size_t i = 0; i < anew.strata.size(); ++i)
                if (anew.strata[i].course) CHECK(bakeCourse(anew, i).empty());
            return l;
        };
        INFO((meets ? "meets" : "does not meet"));
        const float own = 30;
        const Level hidden = changed([&](Level& l) { l.stratum(lower)->visible = false; });
        CHECK(groundSample(hidden, 75, 40) == Approx(own).margin(0.01));
        CHECK(middleOf(hidden, upper) == Approx(own).margin(0.01));
        const Level moved = changed([&](Level& l) {
            for (Post& p : l.stratum(lower)->course->posts) p.height = 14;
        });
        CHECK(groundSample(moved, 75, 40) == Approx(meets ? 14 : 30).margin(0.3));
        const Level gone = changed([&](Level& l) { REQUIRE(removeStratum(l, lower)); });
        CHECK(groundSample(gone, 75, 40) == Approx(own).margin(0.01));
        // The other way round the lower one has no say.
        const Level above = changed([&](Level& l) { REQUIRE(moveStratum(l, lower, 9)); });
        CHECK(middleOf(above, upper) == Approx(own).margin(0.01));
        // A bed that does not cut there is met all the same, and moves the one above when it moves.
        const Level bed = changed([&](Level& l) {
            l.stratum(lower)->course->use = CourseUse::carve;
            for (Post& p : l.stratum(lower)->course->posts) p.height = 25;
        });
        CHECK(groundSample(bed, 75, 40) == Approx(meets ? 25 : 30).margin(0.5));
    }
}

TEST_CASE("width, shoulder and banking change evenly from each post to the next, on closed courses too") {
    Level l = shaped(150, 80, [](int, int) { return 20; });
    Course c;
    c.smooth = false, c.closed = true;
    c.posts = {post(l, 20, 20, 20.f, 2, 0), post(l, 120, 20, 20.f, 8, 6), post(l, 70, 70, 20.f, 4, 12)};
    for (size_t i = 0; i < 3; ++i) c.posts[i].banking = 10 * static_cast<float>(i);
    const uint32_t id = addCourse(l, "ring", c);
    const auto line = lineOf(l, static_cast<size_t>(l.stratumIndex(id)));
    for (size_t leg = 0; leg < 3; ++leg) {
        const Post &a = c.posts[leg], &b = c.posts[(leg + 1) % 3];
        const LinePoint* middle = &line[0];
        const auto away = [&](const LinePoint& p) {
            return std::hypot(p.x - 0.5 * (a.x + b.x), p.z - 0.5 * (a.z + b.z));
        };
        for (const LinePoint& p : line)
            if (away(p) < away(*middle)) middle = &p;
        INFO("leg " << leg);
        CHECK(middle->width == Approx(0.5 * (a.width + b.width)).margin(0.2));
        CHECK(middle->shoulder == Approx(0.5 * (a.shoulder + b.shoulder)).margin(0.2));
        CHECK(middle->banking == Approx(0.5 * (a.banking + b.banking)).margin(0.3));
    }
}

TEST_CASE("a course meets one that meets another in its turn") {
    // In the middle of the second and of the third lies no post: their heights come from those that they meet.
    Level l = shaped(150, 80, [](int, int) { return 20; });
    const auto straight = [&](double c0, double r0, double c1, double r1, float height) {
        Course c;
        c.smooth = false;
        c.posts = {post(l, c0, r0, height, 4, 0), post(l, c1, r1, height, 4, 0)};
        return c;
    };
    addCourse(l, "one", straight(20, 20, 60, 20, 8));
    addCourse(l, "two", straight(40, 5, 40, 75, 30));
    const uint32_t three = addCourse(l, "three", straight(20, 20.01, 140, 60, 30));
    l = committed(std::move(l));
    const auto heightAt = [&](const Level& x, double c) {
        const auto line = lineOf(x, static_cast<size_t>(x.stratumIndex(three)));
        const LinePoint* best = &line[0];
        for (const LinePoint& p : line)
            if (std::abs(p.x - at(x, c, 0).x) < std::abs(best->x - at(x, c, 0).x)) best = &p;
        return best->height;
    };
    // Where it crosses the second, that has fallen most of the way to the first.
    const double met = heightAt(l, 40);
    CHECK(met < 20);
    Level lower = l;
    for (Post& p : lower.strata[1].course->posts) p.height = 2;
    lower = committed(l, lower);
    CHECK(heightAt(lower, 40) < met - 2);
}

TEST_CASE("a post follows the ground when any of the four samples around it changes, at the corner of four tiles") {
    Level l = shaped(150, 130, [](int, int) { return 5; });
    Course c;
    c.posts = {post(l, 63.5, 63.5, {}), post(l, 100, 100, {})};
    const uint32_t id = addCourse(l, "lane", c);
    l = committed(std::move(l));
    for (const int r : {63, 64})
        for (const int x : {63, 64}) {
            Level dug = l;
            dug.strata[0].heights.set(x, r, -3);
            dug = committed(l, dug);
            Level anew = dug;
            INFO(x << ", " << r);
            CHECK(bakeCourse(anew, static_cast<size_t>(anew.stratumIndex(id))).empty());
        }
}

TEST_CASE("a layer lies along a bank and along a bed that hardly cuts as it does along a road") {
    for (const CourseUse use : {CourseUse::grade, CourseUse::carve, CourseUse::bank}) {
        Level l = shaped(150, 80, [](int, int) { return 5; });
        Course c;
        c.use = use;
        c.smooth = false;
        // The bed cuts only at its one end; the bank stands two metres over the ground.
        const float from = use == CourseUse::bank ? 2.f : 12.f, to = use == CourseUse::bank ? 2.f : 4.f;
        c.posts = {post(l, 20, 30, from), post(l, 130, 50, to)};
        const uint32_t id = addCourse(l, "lane", c);
        Layer& layer = l.layers[1];
        Rule r;
        r.kind = RuleKind::course, r.layer = id, r.from = 0, r.to = 0.2f, r.fade = 0.8f;
        wakeRules(l, layer.id, true);
        changeRules(l, layer.id, {r});
        INFO(static_cast<int>(use));
        for (const double t : {0.1, 0.5, 0.9})
            CHECK(layer.coverage.at(static_cast<int>(20 + 110 * t), static_cast<int>(std::lround(30 + 20 * t))) ==
                  kFullCover);
        // And follows it where no ground changes.
        Level moved = l;
        for (Post& p : moved.stratum(id)->course->posts) p.z -= 15;
        moved = committed(l, moved);
        CHECK(moved.layers[1].coverage.at(75, 25) == kFullCover);
        CHECK(moved.layers[1].coverage.at(75, 40) == 0);
    }
}

// --- clips and borders
// ------------------------------------------------------------------------------------------------

TEST_CASE("a clip's pools sit on the ground when the clip does") {
    Level l = shaped(160, 90, [](int c, int r) {
        const double away = std::hypot(c - 30.0, r - 40.0);
        return (c > 80 ? 25.0 : 10.0) - (away < 12 ? 4 * (1 - away / 12) : 0);
    });
    REQUIRE(addPool(l, poolAtSample(l, 30, 40, 9, "pond")));
    l = committed(std::move(l));
    const Level clip = liftClip(l, {12, 22, 49, 59}, "piece").take();
    Placement p;
    p.x = at(l, 120, 45).x, p.z = at(l, 120, 45).z;
    SetDownWish wish;
    wish.sit = true;
    const Level set = committed(l, setDown(l, clip, {p}, wish).take());
    REQUIRE(set.pools.size() == 2);
    CHECK(set.pools[1].height == Approx(24).margin(0.05));
    CHECK(wetSamples(set, set.pools[1].id) == Approx(wetSamples(l, l.pools[0].id)).margin(12));
    CHECK_FALSE(set.pools[1].leaks);
}

TEST_CASE("fitting the same border twice gives what fitting it once gave, on every side") {
    for (const Side side : {Side::north, Side::east, Side::south, Side::west}) {
        const Level level = hillyLevel(110, 75, 4, 3);
        Level beside = hillyLevel(110, 75, 9, 3);
        MatchWish wish;
        wish.side = side;
        wish.blend = 25;
        wish.file = "beside.jamhill";
        wish.cover = false;
        const Level once = committed(level, matchBorder(level, beside, wish).take());
        const Level twice = committed(once, matchBorder(once, beside, wish).take());
        INFO(kSideNames[static_cast<size_t>(side)]);
        REQUIRE(twice.strata.size() == once.strata.size());
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c) REQUIRE(groundSample(twice, c, r) == groundSample(once, c, r));
        // The cover meets the neighbour the second time, too, and moves no farther than to it.
        wish.cover = true;
        const Level covered = committed(level, matchBorder(level, beside, wish).take());
        const Level again = committed(covered, matchBorder(covered, beside, wish).take());
        CHECK(borderGap(covered, beside, side).value().weight == 0);
        CHECK(borderGap(again, beside, side).value().weight == 0);
    }
}

// --- layers, history, reach
// -------------------------------------------------------------------------------------------

TEST_CASE("base and share of a layer that was once the first go through files while its rules live") {
    const Folder folder;
    Level l = lopsidedLevel();
    const uint32_t first = l.layers[0].id, second = l.layers[2].id;
    REQUIRE(l.layer(second)->alive);
    // The first layer's coverage is full by default; over others it lies by rules.
    REQUIRE(moveLayer(l, first, 5));
    l.layer(first)->rules = {{RuleKind::slope, RuleEffect::add, 0, 20, 5}};
    wakeRules(l, first, false);
    // And one with rules comes to lie at the bottom.
    REQUIRE(moveLayer(l, second, 0));
    l = committed(lopsidedLevel(), l);
    for (int i = 0; i < 2; ++i) {
        REQUIRE(saveLevel(l, folder.path / "a.jamhill"));
        const Level again = loadLevel(folder.path / "a.jamhill").take();
        CHECK(again == l);
        CHECK(checkLevel(again).empty());
        CHECK(again.layer(first)->base == l.layer(first)->base);
        CHECK(again.layer(first)->held == l.layer(first)->held);
        CHECK(again.layer(first)->coverage.defaultValue() == kFullCover);
        // What follows goes on as it would have.
        Level one = l, other = again;
        for (Level* x : {&one, &other})
            for (int r = 20; r < 60; ++r) x->strata[0].heights.set(70, r, 35);
        CHECK(committed(l, one) == committed(again, other));
        l = again;
    }
}

TEST_CASE("history drops as many old steps as its budget needs, and not one more") {
    const size_t tile = sizeof(TiledGrid<float>::Tile);
    const Level start = flatLevel(200, 100);
    const auto step = [](const Level& from, int i) {
        Level next = from;
        next.strata[0].heights.set(3, 3, static_cast<float>(i));
        return next;
    };
    // Each step costs the same: a tile, and a table of them.
    History ample(start, "start", size_t{1} << 30);
    for (int i = 1; i <= 12; ++i) ample.push(step(ample.now(), i), std::to_string(i));
    const size_t each = ample.entries().back().bytes;
    REQUIRE(each > tile);
    for (const size_t room : {3u, 5u, 8u}) {
        for (const size_t spare : {size_t{0}, each - 1}) {
            History h(start, "start", room * each + spare);
            for (int i = 1; i <= 12; ++i) h.push(step(h.now(), i), std::to_string(i));
            CHECK(h.bytes() <= room * each + spare);
            // As many as fit, beside the one that nothing before it shares with.
            CHECK(h.entries().size() == room + 1);
            CHECK(h.entries().front().what == std::to_string(12 - room));
        }
    }
}

TEST_CASE("an opening that is cut makes what is known of reach another") {
    Level l = shaped(120, 60, [](int c, int) { return c == 60 ? 40 : 0; });
    for (int r = 0; r < l.rows; ++r) l.strata[0].heights.set(60, r, r > 20 && r < 30 ? 0.f : 40.f);
    for (const double c : {30.0, 90.0}) {
        Spot s;
        s.name = c < 60 ? "start" : "goal", s.kind = s.name, s.x = at(l, c, 25).x, s.z = at(l, c, 25).z;
        REQUIRE(addSpot(l, s));
    }
    l = committed(std::move(l));
    const uint32_t start = l.spots[0].id, goal = l.spots[1].id;
    CHECK(surveyReach(l, kBodies[0]).reaches(start, goal));
    Level cut = l;
    for (int r = 14; r < 36; ++r)
        for (int c = 52; c < 69; ++c) cut.opening.set(c, r, 255);
    cut = committed(l, cut);
    CHECK_FALSE(changesBetween(cut, l).gaps.empty());
    CHECK_FALSE(surveyReach(cut, kBodies[0]).reaches(start, goal));
}

TEST_CASE("a step that is completed later weighs what it holds, and so does the one after it") {
    Level first = hillyLevel(200, 130, 4), second = first, third;
    second.strata[0].heights.set(10, 10, 7);
    third = second;
    third.strata[0].heights.set(150, 100, 7);
    History history(first, "first");
    history.push(second, "second");
    history.push(third, "third");
    history.stepTo(1);
    // What follows the second step changes tiles that the third shares with it.
    for (int x = 0; x < 200; x += 30) second.strata[0].heights.set(x, 60, 9);
    history.complete(second);
    CHECK(history.entries()[1].bytes == bytesBeside(second, first));
    CHECK(history.entries()[2].bytes == bytesBeside(third, second));
    CHECK(history.now() == second);
}

TEST_CASE("rules that look at a layer see when its own rules wake and rest") {
    Level l = lopsidedLevel();
    Layer &below = l.layers[3], &above = l.layers[8];
    above.rules = {{RuleKind::slope, RuleEffect::add, 0, 90, 0}};
    Rule near;
    near.kind = RuleKind::layer, near.layer = above.id, near.from = 0, near.to = 2, near.fade = 1;
    below.rules = {near};
    const uint32_t upper = above.id, lower = below.id;  // the layers themselves are others once committed
    wakeRules(l, upper, false);
    wakeRules(l, lower, false);
    l = committed(lopsidedLevel(), l);
    const auto asAnew = [](const Level& x, uint32_t id) {
        Level anew = x;
        refreshLaid(anew, id);
        return anew.layer(id)->base == x.layer(id)->base;
    };
    CHECK(asAnew(l, lower));
    Level rested = l;
    restRules(rested, upper);
    rested = committed(l, rested);
    CHECK_FALSE(rested.layer(lower)->base == l.layer(lower)->base);
    CHECK(asAnew(rested, lower));
    Level woken = rested;
    wakeRules(woken, upper, false);
    woken = committed(rested, woken);
    CHECK(asAnew(woken, lower));
}

TEST_CASE("a sea stays where the corner that it came by is cut away") {
    Level l = shaped(150, 90, [](int c, int r) { return c > 100 || r < 20 ? -3.0 : 4.0; });
    Pool sea;
    sea.name = "sea", sea.sea = true, sea.height = 1;
    sea.x = l.originX, sea.z = l.originZ;
    REQUIRE(addPool(l, sea));
    l = committed(l);
    REQUIRE(l.water.at(130, 60).wet());
    const Level cut = committed(l, cropLevel(l, {30, 10, 150, 90}).take());
    REQUIRE(cut.pools.size() == 1);
    CHECK(cut.pools[0].sea);
    CHECK(cut.holds(cut.pools[0].x, cut.pools[0].z));
    CHECK(cut.water.at(100, 50).wet());
    CHECK(checkLevel(cut).empty());
}
