// Courses: where they run, what they make of the ground, and that it follows.
#include "course/bake.h"

#include <catch2/catch.hpp>
#include <cmath>

#include "commit/commit.h"
#include "cover/course_layers.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

Course ramp(double x0, double z0, float h0, double x1, double z1, float h1) {
    Course c;
    c.posts = {{x0, z0, h0, 6, 8, 0}, {x1, z1, h1, 6, 8, 0}};
    return c;
}

Post post(double x, double z) { return {x, z, {}, 4, 4, 0}; }

float at(const Level& level, double x, double z) {
    return groundSample(level, static_cast<int>(std::lround(level.toColumn(x))),
                        static_cast<int>(std::lround(level.toRow(z))));
}

bool sameGround(const Level& a, const Level& b) {
    for (int z = 0; z < a.rows; ++z)
        for (int x = 0; x < a.columns; ++x)
            if (groundSample(a, x, z) != groundSample(b, x, z)) return false;
    return true;
}

Level commit(const Level& before, Level after) { return commitWork(before, std::move(after)).take().level; }

}  // namespace

TEST_CASE("a ramp runs evenly from its foot to its head, and meets the ground over its shoulders") {
    Level level = flatLevel(161, 121, 1);
    level.highest = 300;
    const uint32_t id = addCourse(level, "ramp", ramp(-40, 10, 0, 40, 10, 16));
    CHECK(checkLevel(level).empty());
    for (int x = -40; x <= 40; x += 5)
        for (const int aside : {0, 3, -3}) CHECK(at(level, x, 10 + aside) == Approx((x + 40) * 0.2).margin(1e-3));
    // Half way down the shoulder it is half as high; beyond it the ground is as it was.
    CHECK(at(level, 20, 17) == Approx(0.5 * 12).margin(0.02));
    CHECK(at(level, 20, 3) == Approx(0.5 * 12).margin(0.02));
    CHECK(at(level, 20, 22) == 0);
    CHECK(at(level, 20, -2) == 0);
    CHECK(at(level, 60, 10) == 0);
    const CourseFigures f = courseFigures(level, 1);
    CHECK(f.length == Approx(80));
    CHECK(f.climb == Approx(16));
    CHECK(f.fall == 0);
    CHECK(f.steepest == Approx(std::atan(0.2) * 57.29578).margin(0.01));
    CHECK(f.cut == 0);
    // 80 m, on average 8 m high, 6 m wide and 8 m more in the shoulders, and two round ends.
    CHECK(f.fill > 80 * 8 * 13);
    CHECK(f.fill < 80 * 8 * 16 + 16 * 3.15 * 49);
    REQUIRE(removeStratum(level, id));
    CHECK(sameGround(level, flatLevel(161, 121, 1)));
}

TEST_CASE("a course of any posts agrees with a slow look at its line", "[property]") {
    const uint32_t seed = GENERATE(range(1u, 9u));
    Random random(seed);
    Level level = hillyLevel(130, 110, seed, 1);
    level.lowest = -500, level.highest = 500;
    Course course;
    course.smooth = seed % 2;
    course.closed = seed % 3 == 0;
    for (int i = 0; i < 4; ++i)
        course.posts.push_back({-45 + 30.0 * i, between(random, -40, 40),
                                i % 2 ? std::optional<float>(static_cast<float>(between(random, 0, 20))) : std::nullopt,
                                static_cast<float>(between(random, 1, 9)), static_cast<float>(between(random, 0, 12)),
                                static_cast<float>(between(random, -20, 20))});
    const Level before = level;
    addCourse(level, "lane", course);
    const std::vector<LinePoint> line = lineOf(level, 1);
    // It passes every post at its height.
    for (const Post& p : course.posts) {
        double nearest = 1e9, height = 0;
        for (const LinePoint& l : line)
            if (const double d = std::hypot(l.x - p.x, l.z - p.z); d < nearest) nearest = d, height = l.height;
        CHECK(nearest < 1e-6);
        CHECK(height == Approx(p.height ? *p.height : altitudeAt(before, p.x, p.z)).margin(1e-3));
    }
    const Post& last = course.closed ? course.posts.front() : course.posts.back();
    CHECK(std::hypot(line.back().x - last.x, line.back().z - last.z) < 1e-6);
    double worst = 0;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) {
            const double px = level.originX + x, pz = level.originZ + z;
            double best = 1e30, width = 0, shoulder = 0, to = 0;
            for (size_t i = 0; i + 1 < line.size(); ++i) {
                const LinePoint &a = line[i], &b = line[i + 1];
                const double dx = b.x - a.x, dz = b.z - a.z;
                const double t = std::clamp(((px - a.x) * dx + (pz - a.z) * dz) / (dx * dx + dz * dz), 0.0, 1.0);
                const double ox = px - a.x - t * dx, oz = pz - a.z - t * dz, d = std::hypot(ox, oz);
                if (d >= best) continue;
                best = d;
                width = a.width + t * (b.width - a.width), shoulder = a.shoulder + t * (b.shoulder - a.shoulder);
                const double right = std::clamp((dx * oz - dz * ox) / std::hypot(dx, dz), -width / 2, width / 2);
                to = a.height + t * (b.height - a.height) +
                     std::tan((a.banking + t * (b.banking - a.banking)) / 57.29577951) * right;
            }
            const double beyond = best - width / 2;
            double w = beyond <= 0 ? 1 : shoulder > 0 && beyond < shoulder ? 1 - beyond / shoulder : 0;
            if (beyond > 0) w = w * w * (3 - 2 * w);
            const double h = groundSample(before, x, z);
            worst = std::max(worst, std::abs(groundSample(level, x, z) - (h + w * (to - h))));
        }
    CHECK(worst < 2e-3);
}

TEST_CASE("a carved bed only ever falls and never fills; a bank rises over the ground") {
    Level level = hillyLevel(140, 90, 3, 1);
    level.lowest = -500, level.highest = 500;
    const Level before = level;
    Course bed = ramp(-50, 0, 4, 50, 5, -6);
    bed.use = CourseUse::carve;
    bed.posts.insert(bed.posts.begin() + 1, {0, -10, 30.f, 4, 5, 0});  // would have to run uphill
    addCourse(level, "stream", bed);
    double last = 1e9;
    for (const LinePoint& p : lineOf(level, 1)) {
        CHECK(p.height <= last);
        last = p.height;
    }
    CHECK(courseFigures(level, 1).rises == 1);
    CHECK(courseFigures(level, 1).fill == 0);
    CHECK(courseFigures(level, 1).cut > 100);
    bool filled = false;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x)
            filled = filled || groundSample(level, x, z) > groundSample(before, x, z) + 1e-4f;
    CHECK_FALSE(filled);

    level = before;
    Course wall = ramp(-50, 0, 2, 50, 5, 2);
    wall.use = CourseUse::bank;
    wall.posts[0].shoulder = wall.posts[1].shoulder = 0;
    addCourse(level, "wall", wall);
    for (int x = -40; x <= 40; x += 8) {
        const double z = (x + 50) * 0.05;
        CHECK(at(level, x, z) == Approx(at(before, x, z) + 2).margin(1e-4));
        CHECK(at(level, x, z + 5) == at(before, x, z + 5));
    }
}

TEST_CASE("a course stays editable: it follows its posts and the ground, and what was sculpted elsewhere remains") {
    Level start = flatLevel(161, 121, 1);
    const uint32_t ground = start.strata[0].id;
    Level level = start;
    const uint32_t id = addCourse(level, "lane", ramp(-40, 10, 5, 40, 10, 5));
    // Strokes under it, beside it and on it.
    Stroke s;
    s.settings.radius = 10;
    s.settings.strength = 20;
    s.points = {{0, 10, 1, 0}, {0, -30, 1, 0.5}, {0, 50, 1, 1}};
    CHECK(level.activeStratum == ground);
    REQUIRE(runStroke(level, s));
    CHECK(at(level, 0, 10) == 5);  // the course owns it
    CHECK(level.strata[0].heights.at(80, 70) == 0);
    const float beside = at(level, 0, -30);
    CHECK(beside > 1);
    // A post is moved: the ground follows, there and where it lay before.
    Level moved = level;
    moved.stratum(id)->course->posts[1].z = 45;
    moved.stratum(id)->course->posts[1].height = 9;
    moved = commit(level, moved);
    CHECK(at(moved, 40, 45) == Approx(9));
    CHECK(at(moved, 40, 10) == 0);
    CHECK(at(moved, 0, -30) == beside);
    // A post without a height takes that of the ground below, also after it was shaped.
    Level free = level;
    free.stratum(id)->course->posts[0].height.reset();
    free = commit(level, free);
    CHECK(at(free, -40, 10) == Approx(0).margin(1e-4));
    Level lifted = free;
    for (int z = 70; z <= 72; ++z)
        for (int x = 39; x <= 42; ++x) lifted.strata[0].heights.set(x, z, 3);  // such as dimming a stratum does
    lifted = commit(free, lifted);
    CHECK(at(lifted, -40, 10) == Approx(3).margin(1e-4));
    Stroke more = s;
    more.settings.tool = Tool::flatten;
    more.settings.height = 7.f;
    more.settings.strength = 1;
    more.settings.falloff.softness = 0;
    more.points = {{-40, 22, 1, 0}, {-40, 22, 1, 0.5}};
    more.settings.radius = 14;
    // Where the course owns the ground, nothing is piled up under it, so the post stays where it was.
    REQUIRE(runStroke(free, more));
    CHECK(at(free, -40, 10) == Approx(0).margin(1e-3));
    // With the course hidden while the ground below is raised, it follows when it comes back.
    Level hidden = free;
    hidden.stratum(id)->visible = false;
    hidden = commit(free, hidden);
    REQUIRE(runStroke(hidden, more));
    CHECK(at(hidden, -40, 10) == Approx(7).margin(1e-3));
    Level back = hidden;
    back.stratum(id)->visible = true;
    back = commit(hidden, back);
    CHECK(at(back, -40, 10) == Approx(7).margin(1e-3));
    // Doing it again changes nothing.
    Level again = back;
    CHECK(bakeCourse(again, 1).empty());
}

TEST_CASE("crossing courses meet at one height, or the upper one goes over") {
    Level level = flatLevel(161, 161, 1);
    level.highest = 300;
    addCourse(level, "low road", ramp(-60, 0, 4, 60, 0, 4));
    Course upper = ramp(0, -60, 12, 0, 60, 12);
    const uint32_t id = addCourse(level, "high road", upper);
    CHECK(at(level, 0, 0) == Approx(4).margin(0.01));
    CHECK(at(level, 0, -55) > 10);
    Level over = level;
    over.stratum(id)->course->meets = false;
    over = commit(level, over);
    CHECK(at(over, 0, 0) == Approx(12).margin(1e-3));
    // Where the lower one is moved to another height, the one that meets it follows.
    Level raised = level;
    for (Post& p : raised.strata[1].course->posts) p.height = 7.f;
    raised = commit(level, raised);
    CHECK(at(raised, 0, 0) == Approx(7).margin(0.01));
    // The other order.
    Level turned = level;
    REQUIRE(moveStratum(turned, turned.strata[1].id, 2));
    turned = commit(level, turned);
    CHECK(at(turned, 0, 0) == Approx(12).margin(0.01));
}

TEST_CASE("a course lays its own layers, they follow it, and paint wins") {
    Level level = flatLevel(161, 121, 4, 1, 2);
    const uint32_t track = level.layers[2].id, verge = level.layers[1].id;
    // Something painted before, off the course and on it.
    Stroke s;
    s.settings = usualSettings(Tool::paint);
    s.settings.layer = track;
    s.settings.radius = 6;
    s.settings.strength = 1;
    s.settings.falloff.softness = 0;
    s.points = {{0, -40, 1, 0}};
    REQUIRE(runStroke(level, s));
    const uint32_t id = addCourse(level, "lane", ramp(-50, 10, 0, 50, 10, 0));
    layOnCourse(level, id, track, verge);
    CHECK(level.stratum(id)->course->track == track);
    const auto share = [&](const Level& l, uint32_t layer, double x, double z) {
        return mixAt(l, x, z)[static_cast<size_t>(l.layerIndex(layer))];
    };
    CHECK(share(level, track, 0, 10) > 0.98);
    CHECK(share(level, track, 20, 12) > 0.98);
    CHECK(share(level, verge, 0, 17) > 0.9);
    CHECK(share(level, track, 0, 17) < 0.02);
    CHECK(share(level, track, 0, -40) > 0.98);  // as it was painted
    CHECK(share(level, track, 0, 30) < 0.02);
    // Erased by hand, it stays so, also when the course is moved.
    Stroke erase = s;
    erase.settings.tool = Tool::erase;
    erase.points = {{-30, 10, 1, 0}, {-30, 10, 1, 0.3}};
    REQUIRE(runStroke(level, erase));
    CHECK(share(level, track, -30, 10) < 0.05);
    Level moved = level;
    for (Post& p : moved.stratum(id)->course->posts) p.z += 3;
    moved = commit(level, moved);
    CHECK(share(moved, track, -30, 10) < 0.05);
    CHECK(share(moved, track, 20, 15) > 0.98);
    CHECK(share(moved, track, 20, 8) < 0.1);
    CHECK(share(moved, track, 0, -40) > 0.98);
    // Deleted, it takes its layers with it, and leaves what was painted.
    Level gone = moved;
    REQUIRE(removeStratum(gone, id));
    gone = commit(moved, gone);
    CHECK(share(gone, track, 20, 15) < 0.02);
    CHECK(share(gone, verge, 0, 20) < 0.02);
    CHECK(share(gone, track, 0, -40) > 0.98);
    // Another layer in place of it.
    layOnCourse(level, id, level.layers[3].id, 0);
    CHECK(share(level, track, 20, 12) < 0.02);
    CHECK(share(level, level.layers[3].id, 20, 12) > 0.98);
    CHECK(share(level, verge, 0, 17) < 0.02);
    CHECK(share(level, track, 0, -40) > 0.98);
    // A verge that lies over the track in the order leaves the track alone.
    layOnCourse(level, id, verge, level.layers[3].id);
    CHECK(share(level, verge, 20, 10) > 0.95);
    CHECK(share(level, level.layers[3].id, 20, 10) < 0.03);
    CHECK(share(level, level.layers[3].id, 20, 17) > 0.9);
}

TEST_CASE("rules of the designer's that look at a course stay, and what they gave goes with it") {
    Level level = flatLevel(161, 121, 4, 1, 2);
    const uint32_t track = level.layers[2].id, own = level.layers[1].id;
    const uint32_t id = addCourse(level, "lane", ramp(-50, 10, 0, 50, 10, 0));
    layOnCourse(level, id, track, 0);
    // Flowers from 10 to 14 m beside it.
    Rule beside;
    beside.kind = RuleKind::course;
    beside.layer = id;
    beside.from = 10, beside.to = 14, beside.fade = 1;
    wakeRules(level, own, false);
    changeRules(level, own, {beside});
    const auto share = [&](const Level& l, uint32_t layer, double x, double z) {
        return mixAt(l, x, z)[static_cast<size_t>(l.layerIndex(layer))];
    };
    const float half = 0.5f * level.stratum(id)->course->posts[0].width;
    REQUIRE(share(level, own, 0, 10 + half + 12) > 0.98);
    const Level start = level;
    const auto move = [&](double by) {
        for (Post& p : level.stratum(id)->course->posts) p.z += by;
        Change of;
        of.strata.push_back(id);
        refreshCourses(level, of);
    };
    // Moved as a hand does it.
    move(-9);
    layOnCourse(level, id, track, 0);
    CHECK(level.layer(own)->rules == std::vector<Rule>{beside});
    level = commit(start, level);
    CHECK(share(level, own, 0, 1 + half + 12) > 0.98);
    CHECK(share(level, own, 0, 10 + half + 12) < 0.02);
    // Its rule taken away in the step in which the course moves.
    const Level before = level;
    move(20);
    changeRules(level, own, {});
    level = commit(before, level);
    Level anew = level;
    refreshLaid(anew, own);
    CHECK(anew.layer(own)->base == level.layer(own)->base);
    CHECK(share(level, own, 0, 1 + half + 12) < 0.02);
    // A layer that is protected stays the course's, and is followed again when it is let go.
    level.layer(track)->locked = true;
    layOnCourse(level, id, track, own);
    CHECK(level.stratum(id)->course->track == track);
    CHECK(level.layer(track)->rules.size() == 1);
    layOnCourse(level, id, own, 0);
    CHECK(level.stratum(id)->course->track == own);
    // One that is not its own cannot be taken while it is protected.
    layOnCourse(level, id, track, 0);
    CHECK(level.stratum(id)->course->track == 0);
}

TEST_CASE("two courses of one layer have each its own rule, and one of them may give it up") {
    Level level = flatLevel(161, 121, 4, 1, 2);
    const uint32_t track = level.layers[2].id, other = level.layers[3].id;
    const uint32_t first = addCourse(level, "first", ramp(-50, -20, 0, 50, -20, 0)),
                   second = addCourse(level, "second", ramp(-50, 20, 0, 50, 20, 0));
    for (const uint32_t id : {first, second}) layOnCourse(level, id, track, 0);
    CHECK(level.layer(track)->rules.size() == 2);
    const auto share = [&](uint32_t layer, double z) {
        return mixAt(level, 0, z)[static_cast<size_t>(level.layerIndex(layer))];
    };
    for (const bool lower : {true, false}) {
        INFO(lower);
        const Level both = level;
        layOnCourse(level, lower ? first : second, other, 0);
        CHECK(share(other, lower ? -20 : 20) > 0.98);
        CHECK(share(track, lower ? -20 : 20) < 0.02);
        CHECK(share(track, lower ? 20 : -20) > 0.98);
        CHECK(level.layer(track)->rules.size() == 1);
        level = both;
    }
}

TEST_CASE("a course beyond the level's edge lays what of its verge reaches in") {
    for (const int factor : {1, 2}) {
        Level level = flatLevel(161, 121, 4, 1, factor);
        const uint32_t verge = level.layers[1].id;
        const double south = level.originZ + level.depth();
        Course c = ramp(-50, 0, 0, 50, 0, 0);
        for (Post& p : c.posts) p.z = south + 0.5 * p.width + 6, p.shoulder = 20;
        const uint32_t id = addCourse(level, "beyond", c);
        layOnCourse(level, id, 0, verge);
        CHECK(mixAt(level, 0, south - 2)[static_cast<size_t>(level.layerIndex(verge))] > 0.9);
        Level anew = level;
        refreshLaid(anew, verge);
        CHECK(anew.layer(verge)->base == level.layer(verge)->base);
    }
}

TEST_CASE("courses go through files and other sizes") {
    const Folder folder;
    Level level = hillyLevel(140, 90, 3, 2);
    Course c = ramp(-50, 0, 4, 50, 5, -6);
    c.posts[0].height.reset();
    c.posts[1].banking = 12;
    addCourse(level, "lane", c);
    REQUIRE(saveLevel(level, folder.path / "a.jamhill"));
    const Result<Level> read = loadLevel(folder.path / "a.jamhill");
    REQUIRE(read);
    CHECK(read.value() == level);
    Level finer = resampleLevel(level, 279, 179, 0.5).take();
    finer = commit(level, std::move(finer));
    CHECK(checkLevel(finer).empty());
    CHECK(at(finer, 50, 5) == Approx(-6).margin(0.01));
    CHECK(at(finer, 49.5, 5) == Approx(at(level, 49.5, 5)).margin(0.5));
    Level again = finer;
    CHECK(bakeCourse(again, 1).empty());
}

TEST_CASE("a course that cannot be is refused in one sentence") {
    const Level level = flatLevel(100, 100, 1);
    Course c = ramp(-40, 0, 0, 40, 0, 5);
    CHECK(checkNewCourse(level, c));
    const auto refused = [&](const char* because, auto spoil) {
        Course bad = c;
        spoil(bad);
        const Status s = checkNewCourse(level, bad);
        REQUIRE_FALSE(s);
        INFO(s.error().sentence());
        CHECK(s.error().sentence().find(because) != std::string::npos);
    };
    refused("only one", [](Course& x) { x.posts.pop_back(); });
    refused("none", [](Course& x) { x.posts.clear(); });
    refused("outside", [](Course& x) { x.posts[1].x = 400; });
    refused("width", [](Course& x) { x.posts[0].width = 0; });
    refused("shoulder", [](Course& x) { x.posts[0].shoulder = -1; });
    refused("banking", [](Course& x) { x.posts[1].banking = 80; });
    refused("height", [](Course& x) { x.posts[1].height = NAN; });
    refused("one before", [](Course& x) { x.posts[1] = x.posts[0]; });
    refused("10000", [](Course& x) {
        x.posts.resize(10000);
        for (size_t i = 0; i < x.posts.size(); ++i) x.posts[i].x = -40 + 0.008 * static_cast<double>(i);
    });
    Course knot;
    knot.smooth = false;
    knot.posts = {post(-30, 0), post(30, 0), post(30, 30), post(0, -30)};
    Level with = level;
    addCourse(with, "knot", knot);
    CHECK(crossesItself(lineOf(with, 1)));
    Course ring = knot;
    ring.posts = {post(-30, 0), post(30, 0), post(30, 30), post(-30, 30)};
    ring.closed = true;
    addCourse(with, "ring", ring);
    CHECK_FALSE(crossesItself(lineOf(with, 2)));
}
