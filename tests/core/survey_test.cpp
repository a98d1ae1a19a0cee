#include <catch2/catch.hpp>

#include <cmath>
#include <glm/geometric.hpp>

#include "base/maths.h"
#include "level/ground.h"
#include "levels.h"
#include "plain_pick.h"
#include "shape/raise.h"
#include "stroke/stroker.h"
#include "survey/contours.h"
#include "survey/pick.h"
#include "survey/profile.h"
#include "survey/slope.h"
#include "survey/sunlight.h"

using namespace jam;
using namespace jam::test;

namespace {

Level ramp(int size, double risePerMetre) {
    Level level = flatLevel(size, size, 1, 2);
    for (int r = 0; r < size; ++r)
        for (int c = 0; c < size; ++c) level.strata[0].heights.set(c, r, static_cast<float>(c * 2 * risePerMetre));
    return level;
}

Ray randomRay(Random& random, const Level& level) {
    const double w = level.width();
    Ray ray;
    ray.from = {between(random, -w, w), between(random, -20, 120), between(random, -w, w)};
    const glm::dvec3 to{between(random, -0.5, 0.5) * w, between(random, -40, 40), between(random, -0.5, 0.5) * w};
    ray.along = glm::normalize(to - ray.from);
    return ray;
}

}  // namespace

TEST_CASE("the slope of a ramp is the angle of the ramp") {
    const Level level = ramp(70, 0.5);
    Raster<float> slope(70, 70);
    readSlope(level, level.bounds(), slope.view());
    CHECK(slope.at(35, 35) == Approx(26.565f).margin(0.001));
    CHECK(slopeAt(level, 0, 0) == Approx(26.565).margin(0.001));
    CHECK(gradientAt(level, 3, 4).east == Approx(0.5));
    CHECK(gradientAt(level, 3, 4).south == Approx(0).margin(1e-9));
    CHECK(surveyGround(level).highest == Approx(69));
}

TEST_CASE("slope of every angle is right, and parts agree with the whole", "[property]") {
    for (int degrees = 1; degrees < 89; degrees += 4) {
        const Level level = ramp(10, std::tan(degrees * kRadians));
        Raster<float> slope(2, 2);
        readSlope(level, {4, 4, 6, 6}, slope.view());
        CHECK(slope.at(0, 0) == Approx(degrees).margin(0.01));
    }
    const Level level = hillyLevel(150, 140, 6, 1);
    Raster<float> whole(150, 140), part(30, 40);
    readSlope(level, level.bounds(), whole.view());
    readSlope(level, {50, 60, 80, 100}, part.view());
    for (int z = 0; z < 40; ++z)
        for (int x = 0; x < 30; ++x) REQUIRE(part.at(x, z) == whole.at(50 + x, 60 + z));
}

TEST_CASE("the pyramid bounds the ground and follows changes", "[property]") {
    Random random(21);
    Level level = hillyLevel(203, 117, 3, 1);
    level.lowest = -500, level.highest = 500;
    // One end of it lies below 0 and the other high above it, so that neither bound is one by chance.
    const float tilt = GENERATE(-1.f, 1.f);
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x)
            level.strata[0].heights.set(x, z, level.strata[0].heights.at(x, z) + tilt * static_cast<float>(x - 101));
    HeightPyramid pyramid(level);
    for (int round = 0; round < 30; ++round) {
        const Region changed = raiseGround(level,
                                           dabOn(level, between(random, -100, 100), between(random, -60, 60),
                                                 static_cast<float>(between(random, 1, 30)), {}, 1),
                                           static_cast<float>(between(random, -20, 20)));
        pyramid.update(level, changed);
    }
    const HeightPyramid fresh(level);
    REQUIRE(pyramid.levels() == fresh.levels());
    bool same = true;
    for (int n = 0; n < fresh.levels(); ++n)
        for (int z = 0; z < fresh.down(n); ++z)
            for (int x = 0; x < fresh.across(n); ++x)
                same &= pyramid.span(n, x, z).low == fresh.span(n, x, z).low &&
                        pyramid.span(n, x, z).high == fresh.span(n, x, z).high;
    CHECK(same);
    // Each block spans its own samples, both borders; those on the level's edge have fewer. Some lie below 0.
    const int side = HeightPyramid::kBlock;
    bool own = true;
    for (int bz = 0; bz < fresh.down(0); ++bz)
        for (int bx = 0; bx < fresh.across(0); ++bx) {
            HeightSpan seen{1e9f, -1e9f};
            for (int z = bz * side; z <= std::min((bz + 1) * side, level.rows - 1); ++z)
                for (int x = bx * side; x <= std::min((bx + 1) * side, level.columns - 1); ++x) {
                    const float h = groundSample(level, x, z);
                    seen = seen.joined({h, h});
                }
            own &= pyramid.span(0, bx, bz).low == seen.low && pyramid.span(0, bx, bz).high == seen.high;
        }
    CHECK(own);
    CHECK(fresh.whole().high == surveyGround(level).highest);
    CHECK(fresh.whole().low == surveyGround(level).lowest);
}

TEST_CASE("picking agrees with the cell-by-cell walk", "[property]") {
    Random random(23);
    int met = 0;
    for (int world = 0; world < 4; ++world) {
        const Level level = hillyLevel(wholeBetween(random, 2, 140), wholeBetween(random, 20, 140),
                                       static_cast<uint32_t>(world + 40), 1);
        const HeightPyramid pyramid(level);
        for (int i = 0; i < 5000; ++i) {
            const Ray ray = randomRay(random, level);
            const auto fast = pickGround(level, pyramid, ray), plain = pickPlainly(level, ray);
            REQUIRE(fast.has_value() == plain.has_value());
            if (!fast) continue;
            ++met;
            REQUIRE(glm::distance(*fast, *plain) < 1e-5);
            REQUIRE(std::abs(altitudeAt(level, fast->x, fast->z) - fast->y) < 1e-4);
        }
    }
    CHECK(met > 8000);
}

TEST_CASE("a ray straight down meets the altitude, also on sample borders") {
    const Level level = hillyLevel(60, 60, 2, 1);
    const HeightPyramid pyramid(level);
    for (double x = -29; x <= 29; x += 0.5) {
        const auto hit = pickGround(level, pyramid, {{x, 300, 3.5}, {0, -1, 0}});
        REQUIRE(hit);
        REQUIRE(hit->y == Approx(altitudeAt(level, x, 3.5)).margin(1e-6));
    }
    CHECK_FALSE(pickGround(level, pyramid, {{100, 300, 0}, {0, -1, 0}}));
    CHECK_FALSE(pickGround(level, pyramid, {{0, 300, 0}, {0, -1, 0}}, 10));
}

TEST_CASE("a wall throws its shadow as long as the sun is low") {
    Level level = flatLevel(101, 101);
    for (int r = 0; r < 101; ++r) level.strata[0].heights.set(50, r, 10);
    level.sun = {270, 45};  // from the west: shadow to the east, as long as the wall is high
    Raster<uint8_t> light(101, 101);
    readSunlight(level, light.view());
    CHECK(light.at(40, 50) == 255);
    CHECK(light.at(55, 50) == 0);
    CHECK(light.at(62, 50) == 255);
    level.sun = {0, 45};  // along the wall: no shadow beside it
    readSunlight(level, light.view());
    CHECK(light.at(55, 50) == 255);
    level.sun = {90, 90};
    readSunlight(level, light.view());
    CHECK(light.at(51, 50) == 255);
}

TEST_CASE("sunlight agrees with marching towards the sun from every sample", "[property]") {
    Level level = hillyLevel(90, 90, 12, 1);
    for (const float azimuth : {10.f, 100.f, 225.f, 300.f}) {
        level.sun = {azimuth, 20};
        Raster<uint8_t> light(90, 90);
        readSunlight(level, light.view());
        const Direction d = towardsSun(level.sun);
        int agree = 0, looked = 0;
        for (int r = 5; r < 85; r += 2)
            for (int c = 5; c < 85; c += 2) {
                const double x = level.originX + c, z = level.originZ + r, y = groundSample(level, c, r);
                const double flat = std::hypot(d.x, d.z);
                bool shaded = false;
                for (double s = 1; s < 200 && !shaded; s += 0.5) {
                    const double px = x + s * d.x / flat, pz = z + s * d.z / flat;
                    if (!level.holds(px, pz)) break;
                    shaded = altitudeAt(level, px, pz) > y + s * d.y / flat;
                }
                ++looked;
                agree += shaded == (light.at(c, r) < 128);
            }
        CHECK(agree > looked * 0.95);  // the sweep interpolates, so borders may differ by a sample
    }
}

TEST_CASE("contours run where the ground has that altitude", "[property]") {
    const Level level = hillyLevel(120, 120, 5, 1);
    const auto pieces = contours(level, 5, 1);
    CHECK(pieces.size() > 500);
    for (const ContourPiece& p : pieces) {
        REQUIRE(altitudeAt(level, p.x0, p.z0) == Approx(p.altitude).margin(0.01));
        REQUIRE(altitudeAt(level, p.x1, p.z1) == Approx(p.altitude).margin(0.01));
    }
    CHECK(contourInterval(100, 10) == 10);
    CHECK(contourInterval(37, 10) == 5);
    CHECK(contourInterval(1.1f, 10) == Approx(0.2));
}

TEST_CASE("the profile follows the ground and is not a number outside") {
    const Level level = ramp(51, 1);
    const auto p = groundProfile(level, -60, 0, 40, 0, 11);
    CHECK(std::isnan(p[0]));
    CHECK(p[1] == Approx(0));
    CHECK(p[10] == Approx(90));
}
