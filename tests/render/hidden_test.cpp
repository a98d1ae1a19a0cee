// What is left out of a picture because something else lies before it.
#include <catch2/catch.hpp>

#include <cmath>
#include <glm/geometric.hpp>

#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "survey/pick.h"

using namespace jam;
using namespace jam::test;

namespace {

Camera from(const glm::dvec3& at, double yaw, double pitch) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = at, c.yaw = yaw, c.pitch = pitch;
    return c;
}

int differing(const Shot& a, const Shot& b) {
    int count = 0;
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) count += a.at(x, y) != b.at(x, y);
    return count;
}

// What a picture is before anything is drawn, which nothing else is but by chance.
constexpr glm::ivec3 kBare{89, 92, 77};

// A camera near the level, often low, sometimes outside of it or below its ground.
Camera anywhere(const Level& l, Random& random) {
    const double x = l.originX + l.width() * between(random, -0.2, 1.2),
                 z = l.originZ + l.depth() * between(random, -0.2, 1.2);
    const double ground = altitudeAt(l, std::clamp(x, l.originX, l.originX + l.width()),
                                     std::clamp(z, l.originZ, l.originZ + l.depth()));
    return from({x, ground + std::pow(between(random, 0, 1), 2) * 80 - 2, z}, between(random, 0, 360),
                between(random, -89, 20));
}

}  // namespace

TEST_CASE("where there is no ground there is sky, wherever one looks from", "[property]") {
    PixelRenderer& r = renderer();
    Random random(5);
    Level noGaps = hillyLevel(120, 90, 4, 2), opened = noGaps;
    for (int z = 30; z < 50; ++z)
        for (int x = 40; x < 70; ++x) opened.opening.set(x, z, 255);
    Level island = opened;
    for (int z = 0; z < island.rows; ++z)
        for (int x = 0; x < 25; ++x) island.noLand.set(x, z, 255);
    for (const Level& l : {noGaps, opened, island, lopsidedLevel()}) {
        const HeightPyramid pyramid(l);
        r.scene().sync(l, pyramid);
        for (int k = 0; k < 25; ++k) {
            const Camera camera = anywhere(l, random);
            for (const Finish finish : {Finish::quick, Finish::full}) {
                const Shot shot = take(r, camera, finish);
                int bare = 0;
                for (int y = 0; y < kHeight; ++y)
                    for (int x = 0; x < kWidth; ++x) bare += shot.at(x, y) == kBare;
                CAPTURE(k, camera.at.x, camera.at.y, camera.at.z, camera.yaw, camera.pitch);
                REQUIRE(bare < 8);
            }
        }
    }
}

TEST_CASE("a moving sky looks like the one at rest, with clouds and below the horizon", "[property]") {
    PixelRenderer& r = renderer();
    Random random(21);
    const Level l = flatLevel(30, 20, 1);
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    for (int k = 0; k < 24; ++k) {
        // Away from the level, from just below the horizon down to straight below, and up into the clouds.
        const double pitch = k < 12 ? between(random, -90, -28) : between(random, -20, 60);
        const Camera camera = from({0, 40, 4000}, 180 + between(random, -60, 60), pitch);
        const Shot still = take(r, camera, Finish::full), moving = take(r, camera, Finish::quick);
        int most = 0, sum = 0;
        for (int y = 0; y < kHeight; y += 3)
            for (int x = 0; x < kWidth; x += 3) {
                const glm::ivec3 d = glm::abs(still.at(x, y) - moving.at(x, y));
                most = std::max({most, d.x, d.y, d.z});
                sum += d.x + d.y + d.z;
            }
        CAPTURE(camera.yaw, camera.pitch, most);
        // Clouds lose their finest lines.
        if (k < 12) CHECK(most <= 4);
        CHECK(sum < 3 * (kWidth / 3) * (kHeight / 3) * (k < 12 ? 1.2 : 3));
    }
}

TEST_CASE("who is below the ground sees it from below") {
    PixelRenderer& r = renderer();
    const Level l = hillyLevel(120, 120, 4, 2);
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    const glm::dvec3 under{0, altitudeAt(l, 0, 0) - 3, 0};
    for (const Finish finish : {Finish::quick, Finish::full}) {
        const Shot below = take(r, from(under, 30, 45), finish);
        const Shot sky = take(r, from(under + glm::dvec3(0, 400, 0), 30, 45), finish);
        CHECK(differing(below, sky) > 0.9 * kWidth * kHeight);
    }
}

TEST_CASE("through an opening one does not see through the ground behind it") {
    PixelRenderer& r = renderer();
    // A green plain with an opening, and a valley whose far side and floor are red.
    Level l = flatLevel(140, 60, 0);
    addLayer(l, plainLayer("green", 40, 160, 40));
    addLayer(l, plainLayer("red", 200, 30, 30));
    for (int z = 0; z < l.rows; ++z)
        for (int x = 0; x < l.columns; ++x) {
            if (x >= 80) l.strata[0].heights.set(x, z, -12.f * static_cast<float>(std::clamp(x - 80, 0, 8)) / 8);
            if (x >= 89) l.layers[1].coverage.set(x, z, kFullCover);
            if (x >= 20 && x < 70) l.opening.set(x, z, 255);
        }
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    const Camera east = from({l.originX + 22, 1, l.originZ + 30}, 90, -6);
    for (const Finish finish : {Finish::quick, Finish::full}) {
        // Straight at the slope down to the valley, from inside the earth.
        const auto pixel = east.pixel({l.originX + 84, -6, l.originZ + 30});
        REQUIRE(pixel);
        const glm::ivec3 seen = take(r, east, finish).at(static_cast<int>(pixel->x), static_cast<int>(pixel->y));
        CHECK(seen.y > seen.x);
    }
}

TEST_CASE("between pieces of ground of any detail there is no gap", "[property]") {
    PixelRenderer& r = renderer();
    Random random(8);
    Level l = hillyLevel(700, 500, 6, 0);
    l.layers.clear();
    addLayer(l, plainLayer("red", 220, 30, 30));
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    int gaps = 0, looked = 0;
    for (int k = 0; k < 150; ++k) {
        const double x = between(random, -330, 330), z = between(random, -230, 230);
        const Camera c = from({x, altitudeAt(l, x, z) + between(random, 1, 60), z}, between(random, 0, 360),
                              between(random, -40, 5));
        const Shot shot = take(r, c, Finish::quick);
        for (int y = 1; y + 1 < kHeight; ++y)
            for (int px = 1; px + 1 < kWidth; ++px) {
                // Nothing but ground is so red; hazy ground is left out.
                const auto red = [&](int u, int v) { return shot.at(u, v).x > shot.at(u, v).z + 25; };
                const bool around = red(px - 1, y) && red(px + 1, y) && red(px, y - 1) && red(px, y + 1);
                looked += around;
                if (!around || red(px, y)) continue;
                // Between two ridges, or over the level's border, a pixel of sky or of hazy ground may stand alone.
                bool ground = true;
                for (const auto& [dx, dy] : {std::pair{0., 0.}, {0.5, 0.5}, {-0.5, 0.5}, {0.5, -0.5}, {-0.5, -0.5}}) {
                    const auto at = pickGround(l, pyramid, c.ray(px + dx, y + dy));
                    ground = ground && at && glm::distance(*at, c.at) < 300 && std::abs(at->x) < 330 &&
                             std::abs(at->z) < 230;
                }
                gaps += ground;
            }
    }
    CHECK(looked > 500000);
    CHECK(gaps == 0);
}
