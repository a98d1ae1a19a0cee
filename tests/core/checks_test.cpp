// Checks of whether a level plays: each finds its fault where it lies, says so, and its mends mend it.
#include "checks/check.h"

#include <catch2/catch.hpp>
#include <set>

#include "commit/commit.h"
#include "level/strata.h"
#include "levels.h"
#include "survey/check.h"
#include "survey/level_survey.h"
#include "walk/reach.h"
#include "walk/spots.h"

using namespace jam;
using namespace jam::test;

namespace {

// What one check finds in a level, looked at from the start, and what the trail says of it.
struct Found {
    std::vector<Finding> all;
    std::string brief;
};
Found foundAndSaid(const Level& level, const std::string& check) {
    LevelSurvey survey;
    survey.follow(level, nullptr);
    std::optional<Reach> reach;
    if (!level.spots.empty()) reach = surveyReach(level, bodyOf(level));
    const Check* c = checkNamed(check);
    REQUIRE(c);
    const Surveyed surveyed{level, survey, reach ? &*reach : nullptr};
    Found f{c->find(surveyed), {}};
    if (f.all.empty()) return f;
    f.brief = c->brief(surveyed, f.all);
    INFO(f.brief);
    CHECK_FALSE(f.brief.empty());
    CHECK(f.brief.size() <= 40);  // longer ones, by longer names, find no room on the trail
    return f;
}
std::vector<Finding> found(const Level& level, const std::string& check) { return foundAndSaid(level, check).all; }

Level committed(const Level& before, Level after) {
    Result<Commit> done = commitWork(before, std::move(after));
    REQUIRE(done);
    return std::move(done.value().level);
}

// Mended by every way that is offered, nothing is left to find.
void checkMends(const Level& level, const std::string& check, size_t mends) {
    const std::vector<Finding> all = found(level, check);
    REQUIRE_FALSE(all.empty());
    REQUIRE(all.front().mends.size() == mends);
    for (const Mend& m : all.front().mends) {
        INFO(m.what);
        Level after = level;
        const Status done = m.change(after, {});
        if (!done) FAIL(done.error().sentence());
        after = committed(level, after);
        CHECK(checkLevel(after).empty());
        CHECK(found(after, check).size() == all.size() - 1);
    }
}

Level sized() {
    Level level = flatLevel(129, 65, 1, 2);
    level.originX = 300, level.originZ = -50;
    level.lowest = -50, level.highest = 120;
    return level;
}

void raise(Level& level, const Region& where, float height) {
    for (int r = where.z0; r < where.z1; ++r)
        for (int c = where.x0; c < where.x1; ++c) level.strata[0].heights.set(c, r, height);
}

void put(Level& level, const char* name, const char* kind, int column, int row) {
    Spot s;
    s.name = name, s.kind = kind;
    s.x = level.originX + column * level.spacing, s.z = level.originZ + row * level.spacing;
    REQUIRE(addSpot(level, s));
}

}  // namespace

TEST_CASE("checks have names, stations and words of their own, and find nothing in a level that is nothing") {
    std::set<std::string> names;
    const std::set<std::string> stations{"layOut", "shape", "cover", "water", "dress", "light", "walk", "handOver"};
    Level level = sized();
    LevelSurvey survey;
    survey.follow(level, nullptr);
    bool noted = false;
    for (const Check* c : checks()) {
        INFO(c->name);
        CHECK(names.insert(c->name).second);
        CHECK(checkNamed(c->name) == c);
        CHECK(stations.count(c->station) == 1);
        CHECK(c->find({level, survey}).empty());
        CHECK(c->stale(allOf(level)));
        CHECK_FALSE(c->stale(Change{}));
        // Those that warn come first.
        noted |= c->weight == Check::Weight::note;
        CHECK((!noted || c->weight == Check::Weight::note));
    }
    CHECK_FALSE(checkNamed("nonsense"));
}

TEST_CASE("leaks are found, the worst first, and mended by lowering or by a dam") {
    Level level = sized();
    raise(level, {20, 20, 30, 30}, -4);
    raise(level, {80, 30, 90, 40}, -4);
    raise(level, {58, 0, 62, 65}, 5);  // between the two
    const Level dry = level;
    for (const auto& [name, column, height] : {std::tuple{"Mill pond", 25, 0.3f}, {"Dew pond", 85, 1.4f}}) {
        Pool p;
        p.name = name, p.height = height;
        p.x = level.originX + 2 * column, p.z = level.originZ + 2 * (column == 25 ? 25 : 35);
        REQUIRE(addPool(level, p));
    }
    level = committed(dry, level);
    const std::vector<Finding> all = found(level, "leaks");
    REQUIRE(all.size() == 2);
    CHECK(all[0].sentence.find("Dew pond leaks ") == 0);
    CHECK(all[0].sentence.find("1.4 m short") != std::string::npos);
    CHECK(all[0].things.size() == 1);
    CHECK(has(level, all[0].things[0]));
    REQUIRE(all[0].at);
    CHECK((*all[0].at)[0] > level.originX + 120);
    CHECK((*all[1].at)[0] < level.originX + 120);
    checkMends(level, "leaks", 2);
}

TEST_CASE("layers that show nowhere are noted, and can be deleted") {
    Level level = sized();
    const uint32_t unused = addLayer(level, plainLayer("Chalk"));
    const uint32_t half = addLayer(level, plainLayer("Turf"));
    level.layer(half)->coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), kFullCover / 2);
    const std::vector<Finding> all = found(level, "unused-layers");
    REQUIRE(all.size() == 1);
    CHECK(all[0].sentence == "Chalk shows nowhere");
    CHECK(all[0].things[0].id == unused);
    checkMends(level, "unused-layers", 1);
    level.layer(half)->hidden = true;
    CHECK(found(level, "unused-layers").size() == 2);
}

TEST_CASE("an opening is out of reach for the body that goes, and not for another") {
    Level level = sized();
    // On a table with flanks of 45 degrees.
    for (int r = 0; r < 65; ++r)
        for (int c = 0; c < 129; ++c) {
            const int in = std::min({c - 70, 110 - c, r - 10, 55 - r});
            level.strata[0].heights.set(c, r, std::clamp(2.f * static_cast<float>(in), 0.f, 12.f));
        }
    for (int r = 30; r < 34; ++r)
        for (int c = 88; c < 92; ++c) level.opening.set(c, r, 255);
    const std::vector<Finding> all = found(level, "openings");
    REQUIRE(all.size() == 1);
    CHECK(all[0].sentence.find("out of reach for the walker") != std::string::npos);
    CHECK(std::abs((*all[0].at)[0] - (level.originX + 180)) < 12);
    level.body = "runner";  // stands on 46 degrees
    CHECK(found(level, "openings").empty());
}

TEST_CASE("spots that nobody gets to or stands on, traps and ways out are found where they are") {
    Level level = sized();
    put(level, "Gate", "start", 20, 30);
    CHECK(found(level, "unreached-spots").empty());
    // Level ground is left on all sides.
    const size_t ways = found(level, "ways-out").size();
    CHECK(ways >= 1);
    CHECK(found(level, "ways-out").front().sentence.find("Way out in the ") == 0);
    // Walled in, but for a gap in the east.
    for (int r = 0; r < 65; ++r)
        for (int c = 0; c < 129; ++c)
            if (std::min({c, r, 128 - c, 64 - r}) < 3 && !(c > 120 && r > 28 && r < 36))
                level.strata[0].heights.set(c, r, 30);
    const std::vector<Finding> out = found(level, "ways-out");
    REQUIRE(out.size() == 1);
    CHECK(out[0].sentence.find("Way out in the east") == 0);
    CHECK((*out[0].at)[0] > level.originX + 240);
    checkMends(level, "ways-out", 1);
    // A table and a pit.
    raise(level, {60, 10, 70, 20}, 20);
    raise(level, {60, 40, 70, 50}, -9);
    put(level, "Beacon", "goal", 65, 15);
    const std::vector<Finding> lost = found(level, "unreached-spots");
    REQUIRE(lost.size() == 1);
    CHECK(lost[0].sentence == "Beacon is not reached by the walker");
    CHECK(lost[0].at == std::array<double, 2>{level.originX + 130, level.originZ + 30});
    const std::vector<Finding> traps = found(level, "traps");
    REQUIRE(traps.size() == 1);
    CHECK(traps[0].sentence.find("Trap of ") == 0);
    CHECK(std::abs((*traps[0].at)[0] - (level.originX + 130)) < 24);
    checkMends(level, "traps", 1);
    // Where one cannot stand, and why.
    CHECK(found(level, "spots-nowhere").empty());
    Level needle = level;
    needle.strata[0].heights.set(65, 15, 90);
    CHECK(foundAndSaid(needle, "spots-nowhere").brief == "You cannot stand at Beacon");
    for (int r = 10; r < 20; ++r)
        for (int c = 60; c < 70; ++c) level.opening.set(c, r, 255);
    const std::vector<Finding> nowhere = found(level, "spots-nowhere");
    REQUIRE(nowhere.size() == 1);
    CHECK(nowhere[0].sentence == "Beacon has no ground below it");
}

TEST_CASE("a spot on ground steeper than its body stands on is told with its degrees, and gets a pad") {
    Level level = sized();
    for (int r = 0; r < 65; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, std::clamp(2.f * static_cast<float>(c - 60), 0.f, 60.f));
    put(level, "Gate", "start", 20, 30);
    put(level, "Ledge", "goal", 75, 30);
    const std::vector<Finding> all = found(level, "steep-spots");
    REQUIRE(all.size() == 1);
    CHECK(all[0].sentence == "Ledge stands on 45°, too steep for the walker");
    CHECK(foundAndSaid(level, "steep-spots").brief == "Ledge is too steep to stand on");
    CHECK(all[0].at == std::array<double, 2>{level.originX + 150, level.originZ + 60});
    checkMends(level, "steep-spots", 1);
    level.body = "runner";  // stands on 46 degrees
    CHECK(found(level, "steep-spots").empty());
    // Where there is no ground, another check tells.
    level.body = "cart";
    for (int r = 26; r < 34; ++r)
        for (int c = 70; c < 80; ++c) level.opening.set(c, r, 255);
    CHECK(found(level, "steep-spots").empty());
}
