// The grain of the layers in a moving picture and in what a dab changes, against the picture at rest.
#include <catch2/catch.hpp>

#include <cmath>

#include "levels.h"
#include "picture.h"

using namespace jam;
using namespace jam::test;

namespace {

Level stripedLevel(int side, float tileSize) {
    Level level = flatLevel(side, side, 0);
    level.layers.clear();
    Layer striped = plainLayer("striped", 120, 120, 120);
    striped.colour = stripes();
    striped.tileSize = tileSize;
    addLayer(level, striped);
    return level;
}

// How alike two pictures are in their middle but for their means and contrasts: 1 for the same, 0 for what has nothing
// in common.
double likeness(const Shot& one, const Shot& other) {
    double sums[2] = {}, squares[2] = {}, both = 0, n = 0;
    for (int y = 60; y < 180; ++y)
        for (int x = 80; x < 240; ++x) {
            const double a = one.at(x, y).y, b = other.at(x, y).y;
            sums[0] += a, sums[1] += b, squares[0] += a * a, squares[1] += b * b, both += a * b, ++n;
        }
    return (both / n - sums[0] / n * sums[1] / n) /
           std::sqrt((squares[0] / n - std::pow(sums[0] / n, 2)) * (squares[1] / n - std::pow(sums[1] / n, 2)));
}

}  // namespace

TEST_CASE("the quick picture tells layers apart near the eye, keeps their mean colour, and is as lively as at rest") {
    const Level level = stripedLevel(200, 4);
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    const auto contrast = [&](double above, Finish finish) {
        const Shot s = take(r, slanting(level, 0, 0, above, -89.9), finish);
        double sum = 0, squares = 0, n = 0;
        for (int y = 80; y < 160; ++y)
            for (int x = 100; x < 220; ++x) {
                const double v = s.at(x, y).y;
                sum += v, squares += v * v, ++n;
            }
        return std::pair(sum / n, std::sqrt(std::max(squares / n - sum / n * sum / n, 0.0)));
    };
    const auto quick = contrast(12, Finish::quick), full = contrast(12, Finish::full),
               far = contrast(150, Finish::quick);
    CHECK(quick.second > 0.5 * full.second);
    CAPTURE(quick.first, full.first);
    CHECK(quick.first == Approx(full.first).epsilon(0.04));
    CHECK(far.first == Approx(quick.first).epsilon(0.15));
    // Nor does anything jump when the picture comes to rest.
    for (const double above : {30.0, 60.0, 90.0, 130.0, 180.0, 250.0, 400.0}) {
        const double moving = contrast(above, Finish::quick).second, still = contrast(above, Finish::full).second;
        CAPTURE(above, moving, still);
        CHECK(moving > 0.35 * still);
        CHECK(moving < 1.5 * still);
    }
}

TEST_CASE("grain lies in a moving picture where it lies at rest, turned, shifted and in its second scale") {
    Level level = stripedLevel(300, 4);
    LayerLook& look = level.layers.front().look;
    const bool shiftedAlone = GENERATE(false, true);
    look.offsetX = 0.7f;
    if (!shiftedAlone) look.turn = 25, look.offsetZ = -0.4f;
    look.farTimes = 3, look.farFrom = 20;
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    // Before the second scale, in its beginning, and where most is of it.
    for (const double above : {5.0, 8.0, 23.0, 45.0, 70.0}) {
        const Camera camera = slanting(level, 3, -5, above, -89.9);
        const Shot moving = take(r, camera, Finish::quick), still = take(r, camera, Finish::full);
        const double alike = likeness(moving, still);
        CAPTURE(above, alike, shiftedAlone);
        CHECK(alike > (above < 60 ? 0.78 : 0.7));
    }
}

TEST_CASE("on steep ground grain lies in a moving picture as at rest, on the side from which it is seen") {
    const bool east = GENERATE(false, true), sides = GENERATE(true, false), turned = GENERATE(false, true);
    Level level = stripedLevel(200, 4);
    level.lowest = -500, level.highest = 500;
    level.layers.front().sides = sides;
    if (turned) level.layers.front().look.turn = 35;
    addLayer(level, plainLayer("nowhere", 90, 90, 90));  // has sides, so that the shader knows them
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x)
            level.strata[0].heights.set(x, z,
                                        east ? 3.f * static_cast<float>(100 - x) + static_cast<float>(z) * 0.2f
                                             : 3.f * static_cast<float>(100 - z) - static_cast<float>(x) * 0.2f);
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    const Camera camera = slanting(level, 3, 2, 14, -60);
    const double alike = likeness(take(r, camera, Finish::quick), take(r, camera, Finish::full));
    CAPTURE(east, sides, turned, alike);
    CHECK(alike > 0.8);
}

TEST_CASE("what a small dab changes keeps its grain where a whole moving picture has none") {
    const Level level = stripedLevel(300, 3);  // finer than the lit map of all the ground's samples
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    const Camera camera = slanting(level, 0, 0, 110, -89.9);
    const PixelRect part{100, 80, 90, 60};
    // From one pixel to the next, in the part alone.
    const auto lively = [&](Finish finish, const PixelRect* only) {
        r.scene().bring(camera, {});
        r.draw(camera, {}, Finish::full);
        r.draw(camera, {}, finish, only);
        Shot s;
        r.read({0, 0, kWidth, kHeight}, s.bgra.data(), kWidth * 4);
        double sum = 0;
        for (int y = part.y + 1; y < part.y + part.height - 1; ++y)
            for (int x = part.x + 1; x < part.x + part.width - 1; ++x) sum += std::abs(s.at(x, y).y - s.at(x + 1, y).y);
        return sum;
    };
    const double still = lively(Finish::full, nullptr), whole = lively(Finish::quick, nullptr),
                 some = lively(Finish::quick, &part);
    CAPTURE(still, whole, some);
    CHECK(whole < 0.5 * still);
    CHECK(some > 0.6 * still);
    CHECK(some < 1.5 * still);
}
