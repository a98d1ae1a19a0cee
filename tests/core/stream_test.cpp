// Streams along their courses, and outlines of what is wet.
#include <catch2/catch.hpp>

#include "water_levels.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("a stream's surface only falls, keeps to its bed, and meets its pool without a step") {
    for (const bool fall : {false, true}) {
        uint32_t stream = 0, pond = 0;
        const Level l = brook(fall, stream, pond);
        const Stream& s = *l.stream(stream);
        const std::vector<LinePoint> line = streamLine(l, s), bed = lineOf(l, 1);
        REQUIRE(line.size() == bed.size());
        bool joined = false;
        for (size_t i = 0; i < line.size(); ++i) {
            INFO(l.toColumn(line[i].x) << " " << l.toRow(line[i].z) << " bed " << bed[i].height);
            if (i > 0) CHECK(line[i].height <= line[i - 1].height);
            const Wet w = waterAt(l, line[i].x, line[i].z);
            REQUIRE(w.wet());
            if (w.body == stream) CHECK(line[i].height == Approx(bed[i].height + 0.4).margin(0.2));
            else CHECK(line[i].height == Approx(std::max(bed[i].height + 0.4, 5.0)));
            // Where the pool takes over, both stand at one height but for what the bed falls on the way of a sample.
            if (i > 0 && w.body == pond && !joined) {
                CHECK(line[i - 1].height - line[i].height < 0.3);
                joined = true;
            }
            if (joined) CHECK(w.body == pond);
        }
        CHECK(joined);
        // It does not stand beyond its shoulders, nor above ground higher than its surface.
        for (int r = 0; r < l.rows; ++r)
            for (int c = 0; c < l.columns; ++c) {
                const float h = s.surface.at(c, r);
                if (h == kDry) continue;
                CHECK(groundSample(l, c, r) < h);
                double away = 1e9;
                for (const LinePoint& p : line)
                    away = std::min(away,
                                    std::hypot(p.x - l.originX - c, p.z - l.originZ - r) - 0.5 * p.width - p.shoulder);
                CHECK(away < 1);
            }
        // Wider where the posts say so.
        const auto across = [&](int c) {
            int n = 0;
            for (int r = 0; r < l.rows; ++r) n += l.water.at(c, r).body == stream;
            return n;
        };
        CHECK(across(80) > across(20));
        const StreamFigures f = streamFigures(l, s);
        CHECK(f.falls == (fall ? 1 : 0));
        CHECK(f.into == pond);
        CHECK(f.fall == Approx(18.9 - 5).margin(0.05));
        CHECK(f.fastest > f.mean);
        if (!fall) CHECK(f.over < 0.5);  // the ground's ripples are as high as the stream is deep
        // It runs east where it runs, and stands in the pond.
        const auto flow = flowAt(l, l.originX + 30, l.originZ + 30);
        CHECK(flow[0] > 0.5);
        CHECK(std::abs(flow[1]) < flow[0]);
        CHECK(flowAt(l, l.originX + 118, l.originZ + 30) == std::array<double, 2>{0, 0});
        CHECK(checkLevel(l).empty());
    }
}

TEST_CASE("the speed of a stream is Manning's") {
    // 0.5 m deep, 4 m wide: hydraulic radius 2 / 5 = 0.4 m.
    CHECK(manningSpeed(0.5, 4, 0.01, 0.04) == Approx(std::pow(0.4, 2.0 / 3) * 0.1 / 0.04));
    CHECK(manningSpeed(0.5, 4, 0, 0.04) == 0);
    CHECK(manningSpeed(0.5, 4, -0.1, 0.04) == 0);
    CHECK(manningSpeed(40, 400, 1, 0.01) == kFastestWater);
}

TEST_CASE("a stream on ground lower than its surface says that it stands over its banks") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(false, stream, pond);
    l.stream(stream)->depth = 6;
    refillWater(l);
    const StreamFigures f = streamFigures(l, *l.stream(stream));
    CHECK(f.over > 1);
    CHECK(l.holds(f.x, f.z));
}

TEST_CASE("a stream goes with its course, and follows its posts") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(false, stream, pond);
    Level moved = l;
    for (Post& p : moved.strata[1].course->posts) p.z += 8;
    const Level now = commitWork(l, moved).value().level;
    CHECK(l.water.at(30, 30).body == stream);
    CHECK(now.water.at(30, 38).body == stream);
    CHECK_FALSE(now.water.at(30, 30).wet());
    Level hidden = l;
    hidden.strata[1].visible = false;
    CHECK_FALSE(commitWork(l, hidden).value().level.water.at(30, 30).wet());
    Level gone = l;
    REQUIRE(removeStratum(gone, gone.strata[1].id));
    gone = commitWork(l, gone).value().level;
    CHECK(gone.streams.empty());
    CHECK_FALSE(gone.water.at(30, 30).wet());
    CHECK(gone.water.at(115, 30).body == pond);
}

// --- wrong input, files, other work ----------------------------------------------------------------------------------

TEST_CASE("outlines are closed, hold exactly what is wet, and run round islands the other way", "[property]") {
    Random random(21);
    const auto inside = [](const std::vector<Outline>& lines, double x, double z) {
        int turns = 0;  // crossings of a ray to the east, by their direction
        for (const Outline& l : lines)
            for (size_t i = 0; i < l.size(); ++i) {
                const auto &a = l[i], &b = l[(i + 1) % l.size()];
                if ((a[1] > z) == (b[1] > z)) continue;
                if (a[0] + (z - a[1]) / (b[1] - a[1]) * (b[0] - a[0]) > x) turns += b[1] > a[1] ? 1 : -1;
            }
        return turns;
    };
    for (const uint32_t seed : {2u, 3u, 9u}) {
        Level l = hillyLevel(140, 90, seed);
        Pool sea = poolOver(l, 0, 0, 3.3f, "bay");
        sea.sea = true;
        const auto id = addPool(l, sea);
        REQUIRE(id);
        refillWater(l);
        const std::vector<Outline> lines = outlineOf(l, l.pools[0]);
        REQUIRE_FALSE(lines.empty());
        int wet = 0;
        for (int i = 0; i < 3000; ++i) {
            const double x = between(random, l.originX + 0.01, l.originX + l.width() - 0.01),
                         z = between(random, l.originZ + 0.01, l.originZ + l.depth() - 0.01);
            const Wet w = waterAt(l, x, z);
            if (std::abs(altitudeAt(l, x, z) - 3.3) < 0.01) continue;
            wet += w.wet();
            REQUIRE(inside(lines, x, z) == (w.wet() ? 1 : 0));
        }
        CHECK(wet > 300);
        CHECK(wet < 2700);
    }
}

TEST_CASE("a stream drawn down a slope follows the ground, and never stands above it") {
    // A hillside that is steep above and gentle below: a straight line from its head to its foot would hang in the air.
    Level l = flatLevel(121, 61, 2);
    for (int r = 0; r < 61; ++r)
        for (int c = 0; c < 121; ++c)
            l.strata[0].heights.set(
                c, r, static_cast<float>(30 * std::exp(-c / 25.0) + 0.3 * std::sin(c * 0.9) - 0.02 * c + 3));
    Course bed;
    bed.use = CourseUse::carve;
    bed.sunk = 0.8f;
    for (const double c : {6.0, 112.0}) {
        Post p;
        p.x = l.originX + c, p.z = l.originZ + 30, p.width = 3, p.shoulder = 4;
        bed.posts.push_back(p);
    }
    Stream s;
    s.name = "rill";
    s.course = addCourse(l, "bed", bed);
    REQUIRE(addStream(l, s));
    refillWater(l);
    const std::vector<LinePoint> line = lineOf(l, 1);
    for (size_t i = 0; i < line.size(); ++i) {
        Raster<float> below(1, 1);
        const int c = static_cast<int>(std::lround(l.toColumn(line[i].x)));
        readGroundBelow(l, 1, {c, 30, c + 1, 31}, below.view());
        CHECK(line[i].height < below.at(0, 0) - 0.2);
        if (i > 0) CHECK(line[i].height <= line[i - 1].height);
    }
    CHECK(line.front().height == Approx(30 * std::exp(-6 / 25.0) + 0.3 * std::sin(5.4) - 0.12 + 3 - 0.8).margin(0.05));
    CHECK(streamFigures(l, l.streams[0]).over < 0.05);
    // A post with a height of its own holds the line.
    Level held = l;
    held.strata[1].course->posts[0].height = 29;
    held.strata[1].course->posts[1].height = 3;
    CHECK(lineOf(held, 1)[line.size() / 2].height == Approx(16).margin(0.5));
}

TEST_CASE("a stream is dry while its course is hidden, and runs as before when that shows again") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(true, stream, pond);
    refillWater(l);
    const uint32_t course = l.stream(stream)->course;
    REQUIRE(l.stream(stream)->surface.presentTiles() > 0);
    Level hidden = l;
    hidden.stratum(course)->visible = false;
    hidden = commitWork(l, hidden).take().level;
    CHECK(hidden.stream(stream)->surface.presentTiles() == 0);
    bool left = false;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) left = left || hidden.water.at(c, r).body == stream;
    CHECK_FALSE(left);
    Level again = hidden;
    again.stratum(course)->visible = true;
    again = commitWork(hidden, again).take().level;
    CHECK(again.water == l.water);
}
