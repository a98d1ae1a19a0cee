// Rules: what they give, that they follow the ground, and that the hand wins over them.
#include <catch2/catch.hpp>

#include <cmath>
#include <functional>

#include "cover/mix.h"
#include "cover/paint.h"
#include "cover/resolution.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

Rule ruleOf(RuleKind kind, float from, float to, float fade = 0, RuleEffect way = RuleEffect::add) {
    Rule r;
    r.kind = kind;
    r.way = way;
    r.from = from;
    r.to = to;
    r.fade = fade;
    r.reach = 0;
    return r;
}

float givenAt(const Level& level, const std::vector<Rule>& rules, int c, int r) {
    Raster<float> out(1, 1);
    readRules(level, 0, rules, {c, r, c + 1, r + 1}, out.view());
    return out.at(0, 0);
}

// Rises to the east with the given slope.
Level ramp(double degrees, int factor = 1) {
    Level level = flatLevel(65, 65, 4, 1, factor);
    for (int r = 0; r < 65; ++r)
        for (int c = 0; c < 65; ++c)
            level.strata[0].heights.set(c, r, static_cast<float>(std::tan(degrees / 57.29577951) * c));
    return level;
}

Stroke strokeOf(Tool tool, uint32_t layer, double x, double z, float radius, float strength) {
    Stroke s;
    s.settings.tool = tool;
    s.settings.layer = layer;
    s.settings.radius = radius;
    s.settings.strength = strength;
    s.settings.falloff.softness = 0.3f;
    for (int i = 0; i < 40; ++i) s.points.push_back({x, z, 1, i * 0.05});
    return s;
}

}  // namespace

TEST_CASE("slope, altitude and facing rules hold where they say, softly") {
    const Level level = ramp(30);
    CHECK(givenAt(level, {ruleOf(RuleKind::slope, 25, 90)}, 30, 30) == 1);
    CHECK(givenAt(level, {ruleOf(RuleKind::slope, 35, 90)}, 30, 30) == 0);
    CHECK(givenAt(level, {ruleOf(RuleKind::slope, 35, 90, 10)}, 30, 30) == Approx(0.5).margin(0.01));
    const double middle = altitudeAt(level, 0, 0);
    CHECK(givenAt(level, {ruleOf(RuleKind::altitude, static_cast<float>(middle) - 1, 1000)}, 32, 32) == 1);
    CHECK(givenAt(level, {ruleOf(RuleKind::altitude, static_cast<float>(middle) + 1, 1000)}, 32, 32) == 0);
    // It falls to the west: 270 degrees.
    CHECK(givenAt(level, {ruleOf(RuleKind::facing, 225, 315)}, 30, 30) == 1);
    CHECK(givenAt(level, {ruleOf(RuleKind::facing, 45, 135)}, 30, 30) == 0);
    CHECK(givenAt(level, {ruleOf(RuleKind::facing, 260, 20)}, 30, 30) == 1);  // over north
    CHECK(givenAt(level, {ruleOf(RuleKind::facing, 300, 20, 60)}, 30, 30) == Approx(0.5).margin(0.01));
    CHECK(givenAt(flatLevel(20, 20), {ruleOf(RuleKind::facing, 0, 360)}, 5, 5) == 0);  // flat ground faces nowhere
}

TEST_CASE("curvature tells hollows from crests") {
    Level level = flatLevel(65, 65, 2);
    for (int r = 0; r < 65; ++r)
        for (int c = 0; c < 65; ++c)
            level.strata[0].heights.set(c, r, static_cast<float>(6 * std::cos((c - 32) * 0.2)));
    Rule crest = ruleOf(RuleKind::curvature, 0.4f, 1), hollow = ruleOf(RuleKind::curvature, -1, -0.4f);
    crest.reach = hollow.reach = 12;
    CHECK(givenAt(level, {crest}, 32, 32) == 1);
    CHECK(givenAt(level, {hollow}, 32, 32) == 0);
    CHECK(givenAt(level, {hollow}, 48, 32) == 1);
    CHECK(givenAt(level, {crest}, 48, 32) == 0);
}

TEST_CASE("nearness is the exact distance", "[property]") {
    Random random(8);
    for (const int factor : {1, 2}) {
        Level level = flatLevel(60, 50, 3, 2, factor);
        std::vector<std::pair<int, int>> spots;
        for (int i = 0; i < 6; ++i)
            spots.emplace_back(wholeBetween(random, 0, level.coverColumns() - 1),
                               wholeBetween(random, 0, level.coverRows() - 1));
        for (const auto& [c, r] : spots) level.layers[1].coverage.set(c, r, kFullCover);
        Rule near = ruleOf(RuleKind::layer, 0, 0, 40);
        near.layer = level.layers[1].id;
        for (int k = 0; k < 60; ++k) {
            const int c = wholeBetween(random, 0, level.coverColumns() - 1),
                      r = wholeBetween(random, 0, level.coverRows() - 1);
            double metres = 1e9;
            for (const auto& [sc, sr] : spots)
                metres = std::min(metres, std::hypot(sc - c, sr - r) * level.coverSpacing());
            const double t = std::clamp(1 - metres / 40, 0.0, 1.0);
            REQUIRE(givenAt(level, {near}, c, r) == Approx(t * t * (3 - 2 * t)).margin(1e-4));
        }
    }
    Level bowl = ramp(20);
    Rule shore = ruleOf(RuleKind::low, 0, 5);
    shore.level = 4;  // the ground is lower than that up to column 10
    CHECK(givenAt(bowl, {shore}, 8, 20) == 1);
    CHECK(givenAt(bowl, {shore}, 15, 20) == 1);
    CHECK(givenAt(bowl, {shore}, 17, 20) == 0);
}

TEST_CASE("noise covers the share of the ground that it is asked for") {
    const Level level = flatLevel(400, 400, 2);
    for (const float share : {0.2f, 0.5f, 0.8f}) {
        Rule noise = ruleOf(RuleKind::noise, 0, share);
        noise.scale = 12;
        Raster<float> out(400, 400);
        readRules(level, 0, {noise}, level.coverBounds(), out.view());
        double sum = 0;
        for (int z = 0; z < 400; ++z)
            for (int x = 0; x < 400; ++x) sum += out.at(x, z);
        CHECK(sum / 160000 == Approx(share).margin(0.06));
    }
}

TEST_CASE("rules are worked through in order") {
    const Level level = ramp(30);
    const Rule steep = ruleOf(RuleKind::slope, 20, 90),
               high = ruleOf(RuleKind::altitude, 10, 1000, 0, RuleEffect::never),
               low = ruleOf(RuleKind::altitude, -100, 10, 0, RuleEffect::only);
    CHECK(givenAt(level, {steep, high}, 50, 10) == 0);
    CHECK(givenAt(level, {steep, high}, 5, 10) == 1);
    CHECK(givenAt(level, {high, steep}, 50, 10) == 1);  // added again afterwards
    CHECK(givenAt(level, {steep, low}, 50, 10) == 0);
    CHECK(givenAt(level, {low}, 5, 10) == 1);  // alone it starts from everywhere
    CHECK(givenAt(level, {}, 5, 10) == 0);
    Rule half = low;
    half.strength = 0.5f;
    CHECK(givenAt(level, {steep, half}, 50, 10) == Approx(0.5));
    CHECK(givenAt(level, {steep, half}, 5, 10) == Approx(1));
}

TEST_CASE("rules give the same whatever region is asked for", "[property]") {
    Level level = hillyLevel(90, 80, 4, 4);
    REQUIRE(changeCoverFactor(level, 2));
    Random random(2);
    for (int kind = 0; kind < kRuleKinds; ++kind) {
        Rule r = ruleOf(static_cast<RuleKind>(kind), 0, kind == 6 ? 0.5f : 8, 4);
        if (r.kind == RuleKind::curvature) r.from = -0.2f, r.to = 0.3f, r.fade = 0.3f;
        r.reach = 6;
        r.layer = level.layers[2].id;
        Raster<float> whole(level.coverColumns(), level.coverRows());
        readRules(level, 0, {r}, level.coverBounds(), whole.view());
        for (int k = 0; k < 10; ++k) {
            const int x = wholeBetween(random, 0, level.coverColumns() - 20),
                      z = wholeBetween(random, 0, level.coverRows() - 20);
            Raster<float> part(17, 13);
            readRules(level, 0, {r}, {x, z, x + 17, z + 13}, part.view());
            for (int j = 0; j < 13; ++j)
                for (int i = 0; i < 17; ++i) REQUIRE(part.at(i, j) == Approx(whole.at(x + i, z + j)).margin(2e-4));
        }
    }
}

TEST_CASE("living rules follow the ground, and hand paint stays", "[property]") {
    Level level = flatLevel(129, 129, 3);
    const uint32_t rock = level.layers[1].id;
    level.layer(rock)->rules = {ruleOf(RuleKind::slope, 20, 90, 5)};
    wakeRules(level, rock, false);
    CHECK(weightsAt(level, 64, 64)[1] == 0);
    // A hand paints rock on flat ground, and wipes it off where the ground will become steep.
    REQUIRE(runStroke(level, strokeOf(Tool::paint, rock, -40, 0, 10, 1)));
    const auto painted = weightsAt(level, 24, 64)[1];
    CHECK(painted == 255);
    REQUIRE(runStroke(level, strokeOf(Tool::erase, rock, 25, 0, 6, 1)));
    Stroke hill = strokeOf(Tool::raise, 0, 25, 0, 25, 20);
    REQUIRE(runStroke(level, hill));
    CHECK(checkLevel(level).empty());
    CHECK(weightsAt(level, 24, 64)[1] == painted);       // the paint is still there
    CHECK(weightsAt(level, 89, 64)[1] == 0);             // and so is what was wiped off
    CHECK(weightsAt(level, 64 + 25 - 21, 64)[1] > 128);  // while the steep flank became rock
    // Where no hand was, the coverage is exactly what the rules give now.
    Raster<float> given(129, 129);
    readRules(level, rock, level.layer(rock)->rules, level.coverBounds(), given.view());
    int checked = 0;
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            if (level.layer(rock)->held.at(c, r) == 0) {
                REQUIRE(std::abs(level.layer(rock)->coverage.at(c, r) - 65535 * given.at(c, r)) <= 1);
                ++checked;
            }
    CHECK(checked > 10000);
    // By rule gives the ground back to the rules.
    REQUIRE(runStroke(level, strokeOf(Tool::byRule, rock, -40, 0, 14, 1)));
    CHECK(weightsAt(level, 24, 64)[1] == 0);
    CHECK(level.layer(rock)->held.at(24, 64) == 0);
    // Resting keeps the coverage; baking replaces it.
    const TiledGrid<uint16_t> cover = level.layer(rock)->coverage;
    restRules(level, rock);
    CHECK(level.layer(rock)->coverage == cover);
    CHECK(checkLevel(level).empty());
    REQUIRE(bakeRules(level, rock));
    CHECK(std::abs(level.layer(rock)->coverage.at(68, 64) - 65535 * given.at(68, 64)) <= 1);
}

TEST_CASE("rules and rasters that do not belong together are found") {
    const Level sound = ramp(20);
    const auto finds = [&](const std::function<void(Level&)>& spoil) {
        Level level = sound;
        spoil(level);
        return !checkLevel(level).empty();
    };
    CHECK_FALSE(finds([](Level&) {}));
    CHECK(finds([](Level& l) { l.layers[1].alive = true; }));
    CHECK(finds([](Level& l) { l.layers[1].base = TiledGrid<uint16_t>(65, 65, 0); }));
    CHECK(finds([](Level& l) { l.layers[1].rules.resize(kMaxRules + 1); }));
    CHECK(finds([](Level& l) { l.pairs.push_back({1, 999, 0.5f}); }));
    CHECK(finds([](Level& l) { l.wash = TiledGrid<Wash>(64, 65, {}); }));
    CHECK_FALSE(finds([](Level& l) { wakeRules(l, l.layers[1].id, true); }));
}

TEST_CASE("a rule that follows a layer follows its painting") {
    Level level = flatLevel(97, 97, 3);
    const uint32_t path = level.layers[1].id, verge = level.layers[2].id;
    REQUIRE(moveLayer(level, level.layers[1].id, 2));  // the path lies over its verge
    Rule near = ruleOf(RuleKind::layer, 0, 6, 2);
    near.layer = path;
    level.layer(verge)->rules = {near};
    wakeRules(level, verge, false);
    CHECK(level.layer(verge)->coverage.at(48, 48) == 0);
    REQUIRE(runStroke(level, strokeOf(Tool::paint, path, 0, 0, 5, 1)));
    CHECK(level.layer(verge)->coverage.at(48, 38) == kFullCover);
    CHECK(level.layer(verge)->coverage.at(48, 20) == 0);
}

TEST_CASE("a layer that has no rules yet keeps all its paint when they come, wherever it lies") {
    Level level = flatLevel(150, 90, 4, 1, 2);
    Layer& l = level.layers[2];
    // One that lies everywhere by itself, as the first does, but for what was erased and a faint spot.
    l.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), kFullCover);
    l.coverage.set(20, 30, 0);
    l.coverage.set(250, 170, 100);
    const TiledGrid<uint16_t> was = l.coverage;
    wakeRules(level, l.id, true);
    CHECK(l.held.at(200, 5) == kFullCover);
    CHECK(l.held.at(20, 30) == 0);
    CHECK(l.held.at(250, 170) == 800);
    CHECK(l.base.presentTiles() == 0);
    changeRules(level, l.id, {ruleOf(RuleKind::altitude, -5, 5)});  // everywhere
    CHECK(l.coverage.at(200, 5) == kFullCover);
    CHECK(l.coverage.at(20, 30) == kFullCover);
    changeRules(level, l.id, {});
    CHECK(l.coverage.at(20, 30) == 0);
    CHECK(std::abs(l.coverage.at(250, 170) - was.at(250, 170)) <= 1);
    CHECK(l.coverage.at(200, 5) == kFullCover);
    CHECK(checkLevel(level).empty());
}

TEST_CASE("waking rules over old paint keeps what differs from them") {
    Level level = ramp(30);
    const uint32_t id = level.layers[1].id;
    level.layer(id)->rules = {ruleOf(RuleKind::altitude, 0, 10)};
    level.layer(id)->coverage.set(50, 50, 50000);
    wakeRules(level, id, true);
    CHECK(level.layer(id)->coverage.at(50, 50) == 50000);
    CHECK(level.layer(id)->held.at(50, 50) == kFullCover);
    level.layer(id)->rules = {ruleOf(RuleKind::altitude, 0, 15)};
    refreshLaid(level, id);
    CHECK(level.layer(id)->coverage.at(50, 50) == 50000);
    level.layer(id)->locked = true;
    const Level before = level;
    level.layer(id)->rules.clear();
    CHECK(refreshLaid(level, id).empty());  // protected: nothing changes it
    CHECK(level.layer(id)->coverage == before.layer(id)->coverage);
}
