// The ground as a stack, against a slow oracle.
#include "level/strata.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <filesystem>

#include "commit/commit.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/changes.h"
#include "level/ground.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

constexpr int kColumns = 150, kRows = 97;

// Heights and, for a course, what it owns, over a random part of the level.
void fill(Level& level, Stratum& s, Random& random, bool course) {
    const int x0 = wholeBetween(random, 0, 100), z0 = wholeBetween(random, 0, 60);
    const Region there{x0, z0, wholeBetween(random, x0 + 20, kColumns), wholeBetween(random, z0 + 20, kRows)};
    if (course) {
        s.course = Course{};
        s.course->posts = {{1, 2, 3.f, 4, 4, 0}, {30, 12, 5.f, 6, 3, 0}};  // follow nothing, so are not baked anew
        s.owned = TiledGrid<float>(level.columns, level.rows, 0.f);
        s.opacity = std::min(s.opacity, 1.f);
    }
    for (int z = there.z0; z < there.z1; ++z)
        for (int x = there.x0; x < there.x1; ++x) {
            s.heights.set(x, z, static_cast<float>(between(random, -4, 6)));
            if (course) s.owned.set(x, z, static_cast<float>(std::min(1.0, between(random, 0, 1.5))));
        }
}

Level randomStack(uint32_t seed, double low = -1000, double high = 1000) {
    Random random(seed);
    Level level = flatLevel(kColumns, kRows, 2);
    level.lowest = static_cast<float>(low), level.highest = static_cast<float>(high);
    level.startHeight = 7;
    const int more = wholeBetween(random, 1, 5);
    for (int i = 0; i < more; ++i) addStratum(level, "stratum " + std::to_string(i), wholeBetween(random, -1, i));
    for (Stratum& s : level.strata) {
        s.opacity = static_cast<float>(between(random, 0.1, 2));
        s.visible = wholeBetween(random, 0, 4) > 0;
        fill(level, s, random, s.id != level.activeStratum && wholeBetween(random, 0, 1));
    }
    level.stratum(level.activeStratum)->visible = true;
    return level;
}

double slowly(const Level& level, int x, int z) {
    double h = level.startHeight;
    for (const Stratum& s : level.strata) {
        if (!s.visible) continue;
        const double gain = s.course ? 1 - s.owned.at(x, z) : 1;
        h += s.opacity * ((gain - 1) * h + s.heights.at(x, z));
    }
    return std::clamp<double>(h, level.lowest, level.highest);
}

Raster<float> groundOf(const Level& level) {
    Raster<float> ground(level.columns, level.rows);
    readGround(level, level.bounds(), ground.view());
    return ground;
}

template <class F>
void eachSample(F f) {
    for (int z = 0; z < kRows; ++z)
        for (int x = 0; x < kColumns; ++x) f(x, z);
}

double mostApart(const Raster<float>& a, const Raster<float>& b) {
    double most = 0;
    eachSample([&](int x, int z) { most = std::max<double>(most, std::abs(a.at(x, z) - b.at(x, z))); });
    return most;
}

Stroke strokeOf(Tool tool, float radius = 12) {
    StrokeSettings s;
    s.tool = tool;
    s.radius = radius;
    s.strength = tool == Tool::raise ? 5 : 0.4f;
    s.height = 3.f;
    return {s, {{-20, -10, 1, 0}, {25, 14, 1, 0.5}}};
}

}  // namespace

TEST_CASE("any stack of strata and courses composes to the slow oracle's ground", "[property]") {
    const uint32_t seed = GENERATE(range(1u, 25u));
    const bool narrow = seed % 3 == 0;
    const Level level = randomStack(seed, narrow ? 4 : -1000, narrow ? 11 : 1000);
    CHECK(checkLevel(level).empty());
    const Raster<float> ground = groundOf(level);
    double worst = 0;
    bool same = true, sums = true;
    eachSample([&](int x, int z) {
        worst = std::max(worst, std::abs(ground.at(x, z) - slowly(level, x, z)));
        same = same && groundSample(level, x, z) == ground.at(x, z);
        double sum = level.startHeight;
        for (const float part : groundParts(level, x, z)) sum += part;
        sums = sums && std::abs(std::clamp<double>(sum, level.lowest, level.highest) - ground.at(x, z)) < 1e-3;
    });
    CHECK(worst < 1e-4);
    CHECK(same);
    CHECK(sums);
}

TEST_CASE("a stroke into any stratum under any stack changes the ground as on a single one", "[property]") {
    const uint32_t seed = GENERATE(range(1u, 13u));
    const Tool tool = GENERATE(Tool::raise, Tool::flatten);
    Level level = randomStack(seed);
    const Level start = level;
    Level single = flatLevel(kColumns, kRows, 2);
    single.lowest = level.lowest, single.highest = level.highest;
    const Raster<float> before = groundOf(level);
    single.strata.front().heights.write(level.bounds(), before.view());
    REQUIRE(runStroke(level, strokeOf(tool)));
    REQUIRE(runStroke(single, strokeOf(tool)));
    const Raster<float> after = groundOf(level), wanted = groundOf(single);
    const auto active = static_cast<size_t>(level.stratumIndex(level.activeStratum));
    double worst = 0;
    int free = 0, owned = 0;
    bool hidden = false;
    eachSample([&](int x, int z) {
        const float gain = gainAbove(level, active, x, z);
        if (gain >= kFreeGain) {
            worst = std::max<double>(worst, std::abs(after.at(x, z) - wanted.at(x, z)));
            free += wanted.at(x, z) != before.at(x, z);
        } else if (gain <= kLeastGain) {
            hidden = hidden || level.strata[active].heights.at(x, z) != start.strata[active].heights.at(x, z);
            owned += wanted.at(x, z) != before.at(x, z);
        }
    });
    CHECK(free > 0);
    CHECK(worst < 2e-4);
    CHECK_FALSE(hidden);
    for (const Stratum& s : level.strata)
        if (s.id != level.activeStratum) CHECK(s == *start.stratum(s.id));
}

TEST_CASE("where strata add up to more than the range, the hand begins from what it sees") {
    Level level = flatLevel(kColumns, kRows, 1);
    level.lowest = -10, level.highest = 20;
    addStratum(level, "upper", 0);
    // Each row is farther beyond than the one before.
    const auto rise = [](int row) { return 0.125f * static_cast<float>(row); };
    for (int z = 0; z < kRows; ++z)
        for (int x = 0; x < kColumns; ++x)
            level.strata[0].heights.set(x, z, 15), level.strata[1].heights.set(x, z, 15 + rise(z));
    CHECK(groundSample(level, 75, 48) == 20);  // and not 36
    CHECK(checkLevel(level).empty());
    Stroke lower = strokeOf(Tool::lower);
    lower.settings.strength = 2;
    lower.points = {{0, 0, 1, 0}};
    REQUIRE(runStroke(level, lower));
    for (const int row : {46, 48, 50}) CHECK(groundSample(level, 74, row) == Approx(20 - 2 * 0.05).margin(0.02));
    // Elsewhere the metres beyond are kept: dimmed, they come back.
    level.strata[1].opacity = 0.2f;
    CHECK(groundSample(level, 5, 5) == Approx(18 + 0.2 * rise(5)));
}

TEST_CASE("merging down changes no composed height beyond rounding", "[property]") {
    const uint32_t seed = GENERATE(range(1u, 25u));
    Level level = randomStack(seed);
    for (int i = static_cast<int>(level.strata.size()) - 1; i > 0; --i) {
        Level merged = level;
        const Stratum upper = level.strata[static_cast<size_t>(i)], lower = level.strata[static_cast<size_t>(i) - 1];
        const Status done = mergeStratumDown(merged, merged.strata[static_cast<size_t>(i)].id);
        if (!upper.visible || !lower.visible || lower.course) {
            CHECK_FALSE(done);
            CHECK(merged == level);
            continue;
        }
        REQUIRE(done);
        CHECK(merged.strata.size() == level.strata.size() - 1);
        CHECK(mostApart(groundOf(merged), groundOf(level)) < 1e-4);
        CHECK(merged.strata[static_cast<size_t>(i) - 1].name == lower.name);
        CHECK(checkLevel(merged).empty());
        // What is seen to change holds whatever does.
        const Change change = changesBetween(merged, level);
        const Raster<float> a = groundOf(merged), b = groundOf(level);
        bool told = true;
        eachSample([&](int x, int z) { told = told && (a.at(x, z) == b.at(x, z) || change.ground.contains(x, z)); });
        CHECK(told);
    }
}

TEST_CASE("what differs between two stacks holds every sample that does", "[property]") {
    const uint32_t seed = GENERATE(range(1u, 13u));
    Random random(seed + 100);
    const Level before = randomStack(seed);
    Level now = before;
    const int last = static_cast<int>(now.strata.size()) - 1, at = wholeBetween(random, 0, last);
    Stratum& s = now.strata[static_cast<size_t>(at)];
    switch (seed % 6) {
        case 0: REQUIRE(moveStratum(now, now.strata[static_cast<size_t>(at)].id, wholeBetween(random, 0, last))); break;
        case 1: s.opacity *= 0.5f; break;
        case 2: s.visible = !s.visible; break;
        case 3: static_cast<void>(removeStratum(now, now.strata[static_cast<size_t>(at)].id)); break;
        case 4:
            now.stratum(duplicateStratum(now, now.strata[static_cast<size_t>(at)].id).value())->visible = true;
            break;
        case 5:
            if (s.course) s.owned.set(100, 50, 0.125f), s.heights.set(100, 50, 9);
            else s.heights.set(100, 50, 9);
    }
    const Raster<float> a = groundOf(now), b = groundOf(before);
    const Change change = changesBetween(now, before);
    bool told = true;
    eachSample([&](int x, int z) { told = told && (a.at(x, z) == b.at(x, z) || change.ground.contains(x, z)); });
    CHECK(told);
}

TEST_CASE("deleting a course returns the ground under it bit for bit") {
    Level level = randomStack(3);
    Random random(9);
    const Raster<float> before = groundOf(level);
    addStratum(level, "lane", static_cast<int>(level.strata.size()) - 1);
    fill(level, level.strata.back(), random, true);
    CHECK(mostApart(groundOf(level), before) > 1);
    REQUIRE(removeStratum(level, level.strata.back().id));
    CHECK(mostApart(groundOf(level), before) == 0);
}

TEST_CASE("strata come, go and are ordered") {
    Level level = lopsidedLevel();
    const uint32_t ground = level.strata[0].id, upper = level.strata[1].id;
    const uint32_t middle = addStratum(level, "middle", 0);
    CHECK(level.strata[1].id == middle);
    REQUIRE(moveStratum(level, level.strata[1].id, 2));
    CHECK(level.strata[2].id == middle);
    REQUIRE(moveStratum(level, level.strata[2].id, 0));
    CHECK(level.strata[0].id == middle);
    CHECK(level.strata[1].id == ground);
    REQUIRE(moveStratum(level, level.strata[0].id, 2));
    CHECK(level.strata[2].id == middle);

    const Level before = level;
    const uint32_t copy = duplicateStratum(level, level.strata[1].id).value();
    CHECK(level.stratumIndex(copy) == 2);
    CHECK_FALSE(level.stratum(copy)->visible);
    CHECK(level.stratum(copy)->heights == level.stratum(upper)->heights);
    CHECK(changesBetween(level, before).ground.empty() == false);  // told, though nothing is seen of it
    CHECK(groundSample(level, 100, 20) == groundSample(before, 100, 20));

    // Brushes go on below what is deleted.
    level = before;
    CHECK(level.activeStratum == upper);
    REQUIRE(removeStratum(level, level.strata[1].id));
    CHECK(level.activeStratum == ground);
    REQUIRE(removeStratum(level, level.strata[0].id));
    CHECK(level.activeStratum == middle);
    const Status last = removeStratum(level, level.strata[0].id);
    REQUIRE_FALSE(last);
    CHECK(last.error().sentence().find("only stratum") != std::string::npos);
    level = before;
    level.strata[0].locked = true;
    CHECK_FALSE(removeStratum(level, level.strata[0].id));
    CHECK_FALSE(mergeStratumDown(level, level.strata[1].id));
    CHECK_FALSE(mergeStratumDown(level, level.strata[0].id));
    // Of stratum and course, the stratum has to stay.
    Level two = flatLevel(kColumns, kRows, 1);
    Random random(1);
    addStratum(two, "lane", 0);
    fill(two, two.strata[1], random, true);
    CHECK_FALSE(removeStratum(two, two.strata[0].id));
    CHECK(removeStratum(two, two.strata[1].id));
}

TEST_CASE("the last step is moved to another stratum") {
    Level before = randomStack(5);
    for (Stratum& s : before.strata) s.visible = true, s.course.reset(), s.owned = {};
    Level now = before;
    REQUIRE(runStroke(now, strokeOf(Tool::raise)));
    const uint32_t target = now.strata[now.strata[0].id == now.activeStratum ? 1 : 0].id;
    Result<Level> moved = moveShaping(now, before, target);
    REQUIRE(moved);
    CHECK(mostApart(groundOf(moved.value()), groundOf(now)) < 1e-4);
    CHECK(moved.value().stratum(now.activeStratum)->heights == before.stratum(now.activeStratum)->heights);
    CHECK_FALSE(moved.value().stratum(target)->heights == before.stratum(target)->heights);
    CHECK(moved.value().activeStratum == target);
    CHECK_FALSE(moveShaping(now, before, now.activeStratum));  // it is there already
    now.stratum(target)->locked = true;
    CHECK_FALSE(moveShaping(now, before, target));
}

TEST_CASE("a stratum that cannot be shaped says why, and nothing changes") {
    Level level = randomStack(2);
    Stratum& active = *level.stratum(level.activeStratum);
    const auto refused = [&](const char* because) {
        const Level before = level;
        const Result<Change> r = runStroke(level, strokeOf(Tool::raise));
        REQUIRE_FALSE(r);
        CHECK(r.error().sentence().find(because) != std::string::npos);
        CHECK(level == before);
    };
    active.visible = false;
    refused("does not show");
    active.visible = true;
    active.locked = true;
    refused("protected");
    active.locked = false;
    active.opacity = 0.04f;
    refused("too little");
    active.opacity = 0.06f;
    CHECK(runStroke(level, strokeOf(Tool::raise)));
}

TEST_CASE("a level file keeps strata and courses, and older ones are read") {
    const Folder folder;
    const auto path = folder.path / "stack.jamhill";
    for (const uint32_t seed : {3u, 4u, 8u}) {
        Level level = randomStack(seed);
        level.strata.back().locked = true;
        for (Stratum& s : level.strata)
            if (s.course) {
                s.course->use = CourseUse::carve;
                s.course->smooth = false, s.course->closed = true;
                s.course->track = level.layers[1].id;
                s.course->posts[1].banking = -12;
            }
        REQUIRE(saveLevel(level, path));
        const Result<Level> read = loadLevel(path);
        REQUIRE(read);
        CHECK(read.value() == level);
    }
}
