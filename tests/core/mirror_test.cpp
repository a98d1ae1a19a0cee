// Mirrored strokes, tips and how stamps fall.
#include <catch2/catch.hpp>

#include <cmath>
#include <set>

#include "base/maths.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "oracles.h"
#include "stroke/stroker.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

std::shared_ptr<const TipPicture> wedge() {
    auto tip = std::make_shared<TipPicture>();
    tip->name = "Wedge";
    tip->size = 33;
    for (int y = 0; y < 33; ++y)
        for (int x = 0; x < 33; ++x) tip->values.push_back(x > 14 && y > 10 ? static_cast<float>(x) / 32 : 0.1f);
    return tip;
}

Stroke crossing(Tool tool, uint32_t layer) {
    Stroke s;
    s.settings.tool = tool;
    s.settings.radius = 13;
    s.settings.strength = hasRate(tool) ? 6.f : 0.4f;
    s.settings.layer = layer;
    s.settings.angle = 12;
    // Begins beside the centre and crosses it, so that images overlap.
    s.points = {{-37.3, 22.1, 1, 0}, {-3.7, 4.2, 1, 0.2}, {6.1, 2.9, 1, 0.3}, {6.1, 2.9, 1, 0.6}};
    return s;
}

}  // namespace

TEST_CASE("a mirrored stroke on mirrored ground is exactly mirrored, with every brush", "[property]") {
    for (const MirrorKind kind : {MirrorKind::acrossX, MirrorKind::acrossZ, MirrorKind::acrossBoth,
                                  MirrorKind::diagonal, MirrorKind::turn2, MirrorKind::turn4}) {
        Level flat = hillyLevel(121, 121, 5, 3);
        flat.layers[1].rules = {{RuleKind::altitude, RuleEffect::add, 0, 400, 6}};
        for (int t = 0; t < kTools; ++t) {
            // The patterns of breaking up and of what stands belong to the ground and are not mirrored; softening means
            // rows before columns.
            if (static_cast<Tool>(t) == Tool::breakUp || static_cast<Tool>(t) == Tool::restyle ||
                (static_cast<Tool>(t) == Tool::soften && (kind == MirrorKind::diagonal || kind == MirrorKind::turn4)))
                continue;
            Level level = flat;
            Stroke s = crossing(static_cast<Tool>(t), level.layers[1].id);
            s.settings.mirror = {kind, 0, 0};
            // Mirrored ground to begin with: the highest of all images.
            const std::vector<MirrorImage> images = mirrorImages(level, s.settings.mirror);
            for (int r = 0; r < 121; ++r)
                for (int c = 0; c < 121; ++c) {
                    float most = -1e9f;
                    uint16_t covers = 0;
                    for (const MirrorImage& i : images) {
                        const int ic = static_cast<int>(i.image.column(c, r)), ir = static_cast<int>(i.image.row(c, r));
                        most = std::max(most, flat.strata[0].heights.at(ic, ir));
                        covers = std::max(covers, flat.layers[1].coverage.at(ic, ir));
                    }
                    level.strata[0].heights.set(c, r, most);
                    level.layers[1].coverage.set(c, r, covers);
                    level.layers[2].coverage.set(c, r, 0);
                }
            giveWork(level, s.settings.tool);
            s.settings.kind = level.kinds.empty() ? 0 : level.kinds[0].id;
            s.settings.from = level.layers[0].id;
            const Level before = level;
            s.settings.tip = {TipShape::picture, wedge(), 25, true, false, 0.3f};
            REQUIRE(runStroke(level, s));
            INFO(toolName(s.settings.tool) << " " << mirrorName(kind));
            REQUIRE_FALSE(level == before);
            for (const MirrorImage& i : images)
                for (int r = 0; r < 121; ++r)
                    for (int c = 0; c < 121; ++c) {
                        const int ic = static_cast<int>(i.image.column(c, r)), ir = static_cast<int>(i.image.row(c, r));
                        REQUIRE(groundSample(level, c, r) == groundSample(level, ic, ir));
                        REQUIRE(level.opening.at(c, r) == level.opening.at(ic, ir));
                        REQUIRE(level.noLand.at(c, r) == level.noLand.at(ic, ir));
                        REQUIRE(level.layers[1].coverage.at(c, r) == level.layers[1].coverage.at(ic, ir));
                        for (const Kind& k : level.kinds) REQUIRE(k.coverage.at(c, r) == k.coverage.at(ic, ir));
                    }
        }
    }
}

TEST_CASE("a three-fold turn puts the images a third of a turn apart") {
    Level level = flatLevel(161, 161);
    Stroke s = crossing(Tool::raise, 0);
    s.settings.mirror = {MirrorKind::turn3, 0, 0};
    s.settings.radius = 8;
    s.points = {{50, 0, 1, 0}, {50, 0, 1, 0.5}};
    REQUIRE(runStroke(level, s));
    const double h = altitudeAt(level, 50, 0);
    CHECK(h > 2);
    for (const double turn : {120.0, 240.0}) {
        const double a = turn * kPi / 180;
        CHECK(altitudeAt(level, 50 * std::cos(a), 50 * std::sin(a)) == Approx(h).epsilon(0.02));
    }
    CHECK(altitudeAt(level, -50, 0) == 0);
}

TEST_CASE("every image of the raster is undone by its inverse") {
    const Level level = flatLevel(121, 81, 1, 0.5, 4);
    for (int k = 0; k < kMirrorKinds; ++k)
        for (const int factor : {1, 4})
            for (const MirrorImage& r : mirrorImages(level, {static_cast<MirrorKind>(k), 3.3, -7.1}, factor)) {
                const Symmetry back = r.image.inverse();
                for (const auto& [c, w] : {std::pair{0, 0}, {17, 5}, {120, 80}}) {
                    const double ic = r.image.column(c, w), ir = r.image.row(c, w);
                    REQUIRE(back.column(ic, ir) == c);
                    REQUIRE(back.row(ic, ir) == w);
                }
                const Region box{3, 4, 9, 20};
                REQUIRE(back.region(r.image.region(box)) == box);
            }
}

TEST_CASE("a mirrored stroke is seen through the edge of the level") {
    // The stroke runs outside; only its image lies on the ground.
    Level level = flatLevel(65, 65);
    Stroke s = crossing(Tool::raise, 0);
    s.settings.mirror = {MirrorKind::acrossX, 40, 0};
    s.points = {{60, 0, 1, 0}, {60, 0, 1, 0.5}};
    REQUIRE(runStroke(level, s));
    CHECK(altitudeAt(level, 20, 0) > 2);
}

TEST_CASE("one click without flow is one clean stamp of the tip, in metres") {
    Level level = flatLevel(129, 129);
    Stroke s;
    s.settings.strength = 30;
    s.settings.radius = 40;
    s.settings.flow = false;
    s.settings.falloff.softness = 0;
    s.settings.tip = {TipShape::picture, wedge(), 0, false, false, 0};
    s.points = {{0, 0, 1, 0}, {0, 0, 1, 3}};
    REQUIRE(runStroke(level, s));
    for (const auto& [x, z] : {std::pair{10.0, 10.0}, {-10.0, 5.0}, {20.0, -10.0}, {3.0, 7.0}})
        CHECK(altitudeAt(level, x, z) ==
              Approx(30 * wedge()->at(static_cast<float>(x / 40), static_cast<float>(z / 40))).margin(0.3));
}

TEST_CASE("a square tip is square, with soft corners, also turned") {
    Level level = flatLevel(129, 129);
    Stroke s;
    s.settings.strength = 10;
    s.settings.radius = 30;
    s.settings.flow = false;
    s.settings.falloff.softness = 0;
    s.settings.tip.shape = TipShape::square;
    s.points = {{0, 0, 1, 0}};
    REQUIRE(runStroke(level, s));
    CHECK(altitudeAt(level, 28, 0) == Approx(10));
    CHECK(altitudeAt(level, 24, 24) == Approx(10));
    CHECK(altitudeAt(level, 29, 29) == 0);
    CHECK(altitudeAt(level, 32, 0) == 0);
    Level turned = flatLevel(129, 129);
    s.settings.tip.turn = 45;
    REQUIRE(runStroke(turned, s));
    CHECK(altitudeAt(turned, 35, 0) == Approx(10));
    CHECK(altitudeAt(turned, 24, 24) == 0);
}

TEST_CASE("a tip that follows the stroke points where it goes") {
    const auto run = [](double x, double z) {
        Level level = flatLevel(129, 129);
        Stroke s;
        s.settings.radius = 20;
        s.settings.strength = 10;
        s.settings.flow = false;
        s.settings.falloff.softness = 0;
        s.settings.tip = {TipShape::picture, wedge(), 0, false, true, 0};
        s.settings.spacing = 4;
        s.points = {{0, 0, 1, 0}, {x, z, 1, 0.1}};
        REQUIRE(runStroke(level, s));
        return level;
    };
    // The wedge is high in the east; a stroke to the south turns it there.
    CHECK(altitudeAt(run(30, 0), 15, 0) > 5);
    CHECK(altitudeAt(run(0, 30), 0, 15) > 5);
    CHECK(altitudeAt(run(0, 30), 15, -2) < 2);
    // A click that goes nowhere still leaves its stamp.
    CHECK(altitudeAt(run(0, 0), 15, 0) > 5);
}

TEST_CASE("scatter and random turn are spread, bounded and repeatable") {
    StrokeSettings s;
    s.radius = 10;
    s.strength = 10;
    s.flow = false;
    s.tip.scatter = 1;
    s.falloff.softness = 0;
    Level a = flatLevel(257, 257), b = a, c = a;
    Stroke stroke{s, {{-80, 0, 1, 0}, {80, 0, 1, 1}}};
    REQUIRE(runStroke(a, stroke));
    REQUIRE(runStroke(b, stroke));
    CHECK(a == b);
    stroke.settings.seed = 2;
    REQUIRE(runStroke(c, stroke));
    CHECK_FALSE(a == c);
    for (int x = -100; x <= 100; ++x) REQUIRE(altitudeAt(a, x, 21) == 0);
    double beside = 0;
    for (int x = -80; x <= 80; ++x) beside = std::max(beside, altitudeAt(a, x, 14));
    CHECK(beside > 0);
}

TEST_CASE("letting go after a stroke leaves no dot, resting does") {
    const auto stamps = [](double rest) {
        StrokeSettings s;
        s.radius = 20;
        StampPlacer placer(s);
        std::vector<Stamp> all;
        placer.add({0, 0, 1, 0}, all);
        placer.add({60, 0, 1, 0.3}, all);
        placer.add({60, 0, 1, 0.3 + rest}, all);
        return all.size();
    };
    CHECK(stamps(0.14) == stamps(0));
    CHECK(stamps(1.15) == stamps(0) + 20);
}

TEST_CASE("pressure drives the strength, the radius or both, through its curve") {
    const auto crown = [](Pressure pressure, float pressed, double x) {
        Level level = flatLevel(129, 129);
        Stroke s;
        s.settings.pressure = pressure;
        s.settings.radius = 40;
        s.settings.strength = 20;
        s.settings.falloff.softness = 0;
        s.points = {{0, 0, pressed, 0}, {0, 0, pressed, 1}};
        REQUIRE(runStroke(level, s));
        return altitudeAt(level, x, 0);
    };
    const double full = crown({}, 1, 0);
    CHECK(crown({true, false, 1}, 0.5f, 0) == Approx(full / 2).epsilon(0.01));
    CHECK(crown({true, false, 2}, 0.5f, 0) == Approx(full / 4).epsilon(0.01));
    CHECK(crown({false, true, 1}, 0.5f, 0) == Approx(full).epsilon(0.01));
    CHECK(crown({false, true, 1}, 0.5f, 18) > 0);
    CHECK(crown({false, true, 1}, 0.5f, 22) == 0);
    CHECK(crown({true, false, 1}, 0.5f, 22) > 0);
}

TEST_CASE("a bent falloff runs through the points it was bent to and never rises", "[property]") {
    Random random(8);
    for (int i = 0; i < 200; ++i) {
        const auto third = static_cast<float>(between(random, 0, 1));
        const Falloff f{Curve::bent, 1, {third, third * static_cast<float>(between(random, 0, 1))}};
        CHECK(f.at(1.0f / 3) == Approx(f.bend.third).margin(1e-4));
        CHECK(f.at(2.0f / 3) == Approx(f.bend.twoThirds).margin(1e-4));
        for (int k = 1; k <= 90; ++k) REQUIRE(f.at(k / 90.f) <= f.at((k - 1) / 90.f) + 1e-5f);
    }
}

TEST_CASE("restore asks for what it needs") {
    Level level = hillyLevel(65, 65, 2, 1);
    const Level before = level;
    Stroke s = crossing(Tool::restore, 0);
    s.settings.restore = RestoreTo::reference;
    CHECK(runStroke(level, s).error().field == "restore");
    CHECK(runStroke(level, s, std::make_shared<Level>(flatLevel(33, 33))).error().field == "restore");
    CHECK(level == before);
    CHECK(runStroke(level, s, std::make_shared<Level>(flatLevel(65, 65))));
    CHECK_FALSE(level == before);
}
