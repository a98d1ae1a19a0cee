// Softening, carrying and breaking up cover, and paint that keeps to limits.
#include <catch2/catch.hpp>

#include <cmath>
#include <numeric>

#include "cover/blend.h"
#include "cover/paint.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "shape/smooth.h"
#include "stroke/stroker.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

// A level whose layer 1 covers the east half with a hard edge.
Level halves(int layers = 3, int factor = 1) {
    Level level = flatLevel(97, 97, layers, 1, factor);
    for (int r = 0; r < level.coverRows(); ++r)
        for (int c = level.coverColumns() / 2; c < level.coverColumns(); ++c)
            level.layers[1].coverage.set(c, r, kFullCover);
    return level;
}

Stroke over(Tool tool, uint32_t layer, float strength = 0.5f) {
    Stroke s;
    s.settings.tool = tool;
    s.settings.radius = 18;
    s.settings.strength = strength;
    s.settings.falloff.softness = 0.4f;
    s.settings.layer = layer;
    s.settings.scale = 5;
    s.points = {{0, -20, 1, 0}, {0, 20, 1, 0}, {0, -20, 1, 0}};
    return s;
}

int sumAt(const Level& level, int c, int r) {
    const auto w = weightsAt(level, c, r);
    return std::accumulate(w.begin(), w.end(), 0);
}

}  // namespace

TEST_CASE("softening agrees with a plain mean and turns a hard edge into a slope", "[property]") {
    Random random(4);
    for (int round = 0; round < 12; ++round) {
        Level level = hillyLevel(70, 64, static_cast<uint32_t>(round), 4);
        const Level before = level;
        const auto sigma = static_cast<float>(between(random, 0.6, 4));
        const Dab dab = dabOn(level, between(random, -20, 20), between(random, -20, 20),
                              static_cast<float>(between(random, 4, 30)), {Curve::smooth, 0.5f}, 1);
        softenCover(level, dab, 0.6f, sigma);
        const BoxRadii boxes = boxRadii(sigma);
        for (int k = 0; k < 40; ++k) {
            const int c = wholeBetween(random, 0, 69), r = wholeBetween(random, 0, 63);
            for (size_t i = 1; i < level.layers.size(); ++i) {
                // The mean from its definition: every offset of the three boxes.
                double sum = 0, weight = 0;
                std::vector<double> kernel{1};
                for (const int b : boxes.r) {
                    std::vector<double> wider(kernel.size() + 2 * static_cast<size_t>(b), 0);
                    for (size_t a = 0; a < kernel.size(); ++a)
                        for (int d = 0; d <= 2 * b; ++d) wider[a + static_cast<size_t>(d)] += kernel[a];
                    kernel = wider;
                }
                const int reach = static_cast<int>(kernel.size() / 2);
                for (int dz = -reach; dz <= reach; ++dz)
                    for (int dx = -reach; dx <= reach; ++dx) {
                        const double w = kernel[static_cast<size_t>(dx + reach)] *
                                         kernel[static_cast<size_t>(dz + reach)];
                        sum += w * before.layers[i].coverage.at(std::clamp(c + dx, 0, 69), std::clamp(r + dz, 0, 63));
                        weight += w;
                    }
                float mask = 0;
                if (dab.region.contains(c, r)) DabRows(dab).mask(c, r, 1, 0.6f, &mask);
                const double was = before.layers[i].coverage.at(c, r), wanted = was + mask * (sum / weight - was);
                REQUIRE(std::abs(level.layers[i].coverage.at(c, r) - wanted) <= 1.5);
            }
        }
    }
    Level level = halves();
    for (int i = 0; i < 10; ++i) softenCover(level, dabOn(level, 0, 0, 30, {}, 1), 1, 4);
    for (int c = 40; c < 56; ++c) CHECK(level.layers[1].coverage.at(c + 1, 48) >= level.layers[1].coverage.at(c, 48));
    CHECK(level.layers[1].coverage.at(48, 48) == Approx(32768).margin(6000));
    CHECK(level.layers[1].coverage.at(2, 48) == 0);
}

TEST_CASE("carrying draws the mix under the first touch along") {
    Level level = hillyLevel(129, 129, 8, 5);
    Stroke s = over(Tool::carry, 0, 0.6f);
    s.points = {{-40, -40, 1, 0}, {40, 40, 1, 0}, {-40, -40, 1, 0}, {40, 40, 1, 0}, {-40, -40, 1, 0}, {40, 40, 1, 2}};
    const auto first = weightsAt(level, 64 - 40, 64 - 40);
    REQUIRE(runStroke(level, s));
    for (const int at : {-30, 0, 35}) {
        const auto w = weightsAt(level, 64 + at, 64 + at);
        for (size_t i = 0; i < 5; ++i) CHECK(std::abs(w[i] - first[i]) <= 3);
    }
    CHECK(checkLevel(level).empty());
}

TEST_CASE("breaking up makes soft edges ragged, leaves solid and bare ground, and does not pile up") {
    Level level = halves();
    for (int i = 0; i < 10; ++i) softenCover(level, dabOn(level, 0, 0, 60, {Curve::smooth, 0.1f}, 1), 1, 5);
    const Level soft = level;
    Stroke s = over(Tool::breakUp, level.layers[1].id, 0.8f);
    REQUIRE(runStroke(level, s));
    // Along what was one line of equal coverage there are now both sides.
    int shown = 0, bare = 0;
    for (int r = 34; r < 63; ++r) {
        const int w = weightsAt(level, 48, r)[1];
        shown += w > 200;
        bare += w < 55;
    }
    CHECK(shown > 3);
    CHECK(bare > 3);
    for (int r = 34; r < 63; ++r) {
        for (const int c : {20, 85}) REQUIRE(level.layers[1].coverage.at(c, r) == soft.layers[1].coverage.at(c, r));
        REQUIRE(sumAt(level, 48, r) == 255);
    }
    Level twice = level;
    Stroke more = s;
    for (int i = 0; i < 4; ++i) more.points.insert(more.points.end(), s.points.begin(), s.points.end());
    for (size_t i = 0; i < more.points.size(); ++i) more.points[i].time = 0;
    Level longer = soft;
    REQUIRE(runStroke(longer, more));
    for (int r = 40; r < 56; ++r) CHECK(std::abs(weightsAt(longer, 48, r)[1] - weightsAt(level, 48, r)[1]) < 40);
}

TEST_CASE("paint keeps to slopes, altitudes and layers") {
    Level level = halves();
    const uint32_t paint = level.layers[2].id;
    // Flat in the west, a slope of 45 degrees in the middle, flat and high in the east.
    for (int r = 0; r < 97; ++r)
        for (int c = 0; c < 97; ++c) level.strata[0].heights.set(c, r, static_cast<float>(std::clamp(c - 40, 0, 16)));
    const auto painted = [&](PaintWhere where) {
        Level l = level;
        Stroke s = over(Tool::paint, paint, 1);
        s.settings.radius = 60;
        s.settings.falloff.softness = 0;
        s.settings.where = where;
        REQUIRE(runStroke(l, s));
        return std::array{weightsAt(l, 20, 48)[2], weightsAt(l, 46, 48)[2], weightsAt(l, 80, 48)[2]};
    };
    using W = std::array<uint8_t, 3>;
    CHECK(painted({}) == W{255, 255, 255});
    PaintWhere steep;
    steep.slopeFrom = 30;
    CHECK(painted(steep) == W{0, 255, 0});
    PaintWhere flat;
    flat.slopeTo = 20;
    CHECK(painted(flat) == W{255, 0, 255});
    PaintWhere high;
    high.altitudeFrom = 12;
    CHECK(painted(high) == W{0, 0, 255});
    PaintWhere between;
    between.altitudeFrom = 3, between.altitudeTo = 9;
    CHECK(painted(between) == W{0, 255, 0});
    PaintWhere on;
    on.onLayer = level.layers[1].id;
    CHECK(painted(on) == W{0, 0, 255});
    PaintWhere off;
    off.offLayer = level.layers[1].id;
    CHECK(painted(off) == W{255, 255, 0});
    // The same at four times the ground's resolution.
    level = halves(3, 4);
    for (int r = 0; r < 97; ++r)
        for (int c = 0; c < 97; ++c) level.strata[0].heights.set(c, r, static_cast<float>(std::clamp(c - 40, 0, 16)));
    Stroke s = over(Tool::paint, level.layers[2].id, 1);
    s.settings.radius = 60;
    s.settings.falloff.softness = 0;
    s.settings.where = steep;
    REQUIRE(runStroke(level, s));
    CHECK(weightsAt(level, 80, 192)[2] == 0);
    CHECK(weightsAt(level, 190, 192)[2] == 255);
}

TEST_CASE("no brush changes a layer that is kept, and weights always sum to 255", "[property]") {
    Random random(14);
    for (int round = 0; round < 10; ++round) {
        Level level = hillyLevel(80, 70, static_cast<uint32_t>(round), 5);
        level.layers[3].locked = true;
        const TiledGrid<uint16_t> kept = level.layers[3].coverage;
        for (int i = 0; i < 12; ++i) {
            const Tool tools[] = {Tool::paint, Tool::erase, Tool::soften, Tool::carry, Tool::breakUp};
            Stroke s = over(tools[wholeBetween(random, 0, 4)],
                            level.layers[static_cast<size_t>(wholeBetween(random, 1, 4))].id,
                            static_cast<float>(between(random, 0.05, 1)));
            s.settings.seed = static_cast<uint32_t>(i);
            for (StrokePoint& p : s.points) p.x = between(random, -40, 40), p.z = between(random, -35, 35);
            const Result<Change> done = runStroke(level, s);
            // Only the protected layer itself is refused.
            if (!done) REQUIRE((s.settings.layer == level.layers[3].id && done.error().field == "layer"));
        }
        CHECK(level.layers[3].coverage == kept);
        CHECK(checkLevel(level).empty());
        for (int r = 0; r < 70; r += 3)
            for (int c = 0; c < 80; c += 3) REQUIRE(sumAt(level, c, r) == 255);
    }
}

TEST_CASE("the finest strength of softening and carrying still has an effect") {
    Level level = halves();
    const Dab dab = dabOn(level, 0, 0, 20, {Curve::smooth, 0}, 1);
    const uint16_t before = level.layers[1].coverage.at(47, 48);
    softenCover(level, dab, 1e-6f, 3);
    CHECK(level.layers[1].coverage.at(47, 48) == before + 1);
    CoverMix mix(level.layers.size(), 0);
    carryCover(level, dab, 1e-6f, mix);
    CHECK(level.layers[1].coverage.at(60, 48) == kFullCover - 1);
}

TEST_CASE("an edge breaks up by the layer's own height, or by a picture tip") {
    // A soft edge from west to east.
    Level level = flatLevel(97, 97, 2);
    for (int r = 0; r < 97; ++r)
        for (int c = 0; c < 97; ++c)
            level.layers[1].coverage.set(c, r, static_cast<uint16_t>(std::clamp((c - 28) / 40.0, 0.0, 1.0) * 65535));
    level.layers[1].tileSize = 8;
    // Tall in the north half of every repeat.
    auto relief = std::make_shared<Raster<float>>(16, 16);
    for (int y = 0; y < 16; ++y)
        for (int x = 0; x < 16; ++x) relief->at(x, y) = y < 8 ? 1.f : 0.f;
    Stroke s = over(Tool::breakUp, level.layers[1].id, 1);
    s.settings.radius = 30;
    s.settings.breakBy = BreakBy::height;
    Level broken = level;
    REQUIRE(runStroke(broken, s, {}, relief));
    const auto at = [](const Level& l, int c, int r) { return static_cast<int>(l.layers[1].coverage.at(c, r)); };
    // World z of row r is r - 48: rows whose z lies in [0, 4) of 8 m are tall.
    CHECK(at(broken, 48, 50) > at(level, 48, 50) + 15000);
    CHECK(at(broken, 48, 54) < at(level, 48, 54) - 15000);
    CHECK(at(broken, 90, 54) == 65535);  // solid parts stay
    CHECK(at(broken, 10, 50) == 0);      // and bare ones
    // Without the pictures, noise does it.
    Level plain = level;
    REQUIRE(runStroke(plain, s));
    CHECK_FALSE(plain == broken);
    CHECK_FALSE(plain == level);
    // A tip that is white in the west and black in the east.
    s.settings.breakBy = BreakBy::tip;
    CHECK_FALSE(runStroke(plain, s));
    s.settings.tip = {
        TipShape::picture,
        std::make_shared<TipPicture>(TipPicture{"Halves", 4, {1, 1, 0, 0, 1, 1, 0, 0, 1, 1, 0, 0, 1, 1, 0, 0}}),
        0,
        false,
        false,
        0};
    s.points = {{0, 0, 1, 0}};
    s.settings.flow = false;
    Level stamped = level;
    REQUIRE(runStroke(stamped, s));
    CHECK(at(stamped, 40, 48) > at(level, 40, 48));
    CHECK(at(stamped, 56, 48) < at(level, 56, 48));
}
