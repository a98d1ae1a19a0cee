// Painted colour, and how a layer's pictures are laid.
#include <catch2/catch.hpp>

#include <cmath>

#include "base/noise.h"
#include "cover/lay.h"
#include "cover/wash.h"
#include "level/changes.h"
#include "level/resize.h"
#include "levels.h"
#include "stroke/stroker.h"

using namespace jam;
using namespace jam::test;

namespace {

Stroke washing(Tool tool, double x, float strength) {
    Stroke s;
    s.settings.tool = tool;
    s.settings.radius = 12;
    s.settings.strength = strength;
    s.settings.colour = {1, 0.5f, 0.25f};
    for (int i = 0; i < 60; ++i) s.points.push_back({x, 0, 1, i * 0.05});
    return s;
}

// A picture with a bright spot in a corner, that anybody sees return.
Material spotted(int size = 64) {
    Material m;
    m.size = size;
    double sums[4] = {};
    for (int y = 0; y < size; ++y)
        for (int x = 0; x < size; ++x) {
            const bool spot = std::hypot(x - size / 4, y - size / 4) < size / 6;
            const int grain = static_cast<int>(hashUnit(x, y, 3) * 40);
            for (int c = 0; c < 4; ++c) {
                m.colourHeight.push_back(static_cast<uint8_t>((spot ? 190 : 90) + grain));
                sums[c] += m.colourHeight.back();
            }
        }
    for (size_t c = 0; c < 4; ++c) m.meanStored[c] = static_cast<float>(sums[c] / (size * size) / 255);
    return m;
}

}  // namespace

TEST_CASE("wash is laid, mixes by strength, rinses off and leaves the ground alone") {
    Level level = flatLevel(80, 80, 2);
    const Level before = level;
    const Result<Change> change = runStroke(level, washing(Tool::wash, 0, 0.5f));
    REQUIRE(change);
    CHECK(change.value().ground.empty());
    CHECK(change.value().cover.empty());
    CHECK_FALSE(change.value().wash.empty());
    const Wash full = level.wash.at(40, 40);
    CHECK(full.strength > 65000);
    CHECK(std::abs(full.green - 32768) < 3);
    CHECK(level.wash.at(2, 2) == Wash{});
    CHECK(changesBetween(level, before).cover.empty());
    // Another colour half over it comes halfway.
    Level mixed = level;
    const Dab dab = dabOn(level, 0.5, 0.5, 4, {Curve::smooth, 0}, 1);
    washGround(mixed, dab, 0.5f, {0, 0, 1});
    CHECK(mixed.wash.at(40, 40).red == Approx(32768).margin(600));
    CHECK(mixed.wash.at(40, 40).blue == Approx(40960).margin(600));
    REQUIRE(runStroke(level, washing(Tool::rinse, 0, 1)));
    CHECK(level.wash.at(40, 40) == Wash{});
}

TEST_CASE("the finest wash still has an effect, and the finest rinse ends") {
    Level level = flatLevel(20, 20, 1);
    const Dab dab = dabOn(level, 0, 0, 30, {Curve::smooth, 0}, 1);
    washGround(level, dab, 1e-7f, {0.2f, 0.4f, 0.6f});
    CHECK(level.wash.at(10, 10).strength == 1);
    CHECK(std::abs(level.wash.at(10, 10).blue - 39321) <= 1);
    rinseGround(level, dab, 1e-7f);
    CHECK(level.wash.at(10, 10) == Wash{});
}

TEST_CASE("wash keeps to limits and goes along when the level is resampled or cropped") {
    Level level = flatLevel(81, 81, 2, 1, 2);
    for (int r = 0; r < 81; ++r)
        for (int c = 40; c < 81; ++c) level.strata[0].heights.set(c, r, 20);
    Stroke s = washing(Tool::wash, 0, 1);
    s.settings.where.altitudeFrom = 10;
    REQUIRE(runStroke(level, s));
    CHECK(level.wash.at(36, 40).strength == 0);
    CHECK(level.wash.at(44, 40).strength > 60000);
    const Level coarse = resampleLevel(level, 41, 41, 2).take();
    CHECK(coarse.wash.columns() == 41);
    CHECK(coarse.wash.at(22, 20).strength > 60000);
    CHECK(std::abs(coarse.wash.at(22, 20).green - 32768) < 3);  // no dark fringe from unpainted neighbours
    const Level piece = cropLevel(level, {30, 30, 60, 60}).take();
    CHECK(piece.wash.at(14, 10) == level.wash.at(44, 40));
}

TEST_CASE("pictures repeat every tile, turned and moved") {
    const Material m = spotted();
    Layer layer = plainLayer("x");
    layer.tileSize = 3;
    const auto sameAt = [&](double x, double z, double u, double v) {
        const Laid a = laidAt(m, layer, x, z, 0), b = laidAt(m, layer, u, v, 0);
        for (size_t c = 0; c < 4; ++c) REQUIRE(a[c] == Approx(b[c]).margin(1e-3));
    };
    sameAt(0.4, 0.7, 3.4, 6.7);
    layer.look.turn = 90;
    layer.look.offsetX = 1;
    // Turned by 90 degrees clockwise about (1, 0): the picture's x axis points south.
    Layer straight = layer;
    straight.look = {};
    const Laid turned = laidAt(m, layer, 1 - 0.7, 0.4, 0), plain = laidAt(m, straight, 0.4, 0.7, 0);
    CHECK(turned[0] == Approx(plain[0]).margin(1e-3));
}

TEST_CASE("broken tiling keeps mean and contrast and loses the repeat") {
    const Material m = spotted();
    Layer layer = plainLayer("x");
    layer.tileSize = 4;
    const auto measure = [&](Tiling tiling) {
        layer.look.tiling = tiling;
        double sum = 0, squares = 0;
        for (int i = 0; i < 20000; ++i) {
            const Laid l = laidAt(m, layer, hashUnit(i, 1, 1) * 200, hashUnit(i, 2, 1) * 200, 0);
            sum += l[0];
            squares += l[0] * l[0];
        }
        const double mean = sum / 20000;
        return std::pair{mean, std::sqrt(squares / 20000 - mean * mean)};
    };
    const auto [plainMean, plainSpread] = measure(Tiling::plain);
    const auto [brokenMean, brokenSpread] = measure(Tiling::broken);
    CHECK(brokenMean == Approx(plainMean).epsilon(0.03));
    CHECK(brokenSpread == Approx(plainSpread).epsilon(0.12));
    layer.look.tiling = Tiling::plain;
    const double visible = repeatVisibility(m, layer, 60);
    layer.look.tiling = Tiling::broken;
    const double hidden = repeatVisibility(m, layer, 60);
    CHECK(visible > 0.8);
    CHECK(hidden < 0.1);
    // An even picture shows no repeat however it is laid.
    Material even = m;
    std::fill(even.colourHeight.begin(), even.colourHeight.end(), uint8_t{120});
    layer.look.tiling = Tiling::plain;
    CHECK(repeatVisibility(even, layer, 60) < 0.01);
    // A second scale makes fewer repeats; one that spans the view makes none.
    layer.look.farTimes = 20;
    layer.look.farFrom = 5;
    CHECK(repeatVisibility(m, layer, 60) == 0);
}

TEST_CASE("a pair of layers may meet in its own way") {
    Level level = flatLevel(10, 10, 4);
    const uint32_t a = level.layers[1].id, b = level.layers[3].id;
    level.layers[1].blend = 0.2f;
    CHECK(blendBetween(level, level.layers[1], level.layers[3]) == 0.2f);
    setBlendBetween(level, b, a, 0.9f);
    setBlendBetween(level, a, level.layers[2].id, 0.1f);
    CHECK(blendBetween(level, level.layers[1], level.layers[3]) == 0.9f);
    CHECK(blendBetween(level, level.layers[3], level.layers[1]) == 0.9f);
    CHECK(level.pairs.size() == 2);
    setBlendBetween(level, a, b, {});
    CHECK(blendBetween(level, level.layers[1], level.layers[3]) == 0.2f);
    REQUIRE(removeLayer(level, level.layers[2].id));
    CHECK(level.pairs.empty());
    const uint32_t copy = duplicateLayer(level, level.layers[1].id).value();
    CHECK(level.layers[2].id == copy);
    CHECK(level.layers[2].colour == level.layers[1].colour);
    CHECK(level.layers[2].coverage.presentTiles() == 0);
}
