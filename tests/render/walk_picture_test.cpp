// What walking adds to the picture: who gets where, and the view under water.
#include <catch2/catch.hpp>

#include <cmath>
#include <glm/geometric.hpp>

#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "survey/pyramid.h"
#include "walk/reach.h"
#include "walk/spots.h"

using namespace jam;
using namespace jam::test;

namespace {

// Plateaus of different height, pits and a wall, in a level that is oblong, off the middle and not a metre fine.
Level broken() {
    Level l = lopsidedLevel();
    l.pools.clear();
    for (Stratum& s : l.strata) s.heights = TiledGrid<float>(l.columns, l.rows, 0.f);
    l.water = TiledGrid<Wet>(l.columns, l.rows, Wet{});
    Stratum& s = l.strata[0];
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            const float h = c < l.columns / 3 ? 4.f : c > 2 * l.columns / 3 ? 9.f : 0.f;
            s.heights.set(c, r, std::hypot(c - 0.5 * l.columns, r - 0.55 * l.rows) < 9 ? -6.f : h);
        }
    Spot spot;
    spot.name = "start", spot.x = l.originX + 0.2 * l.width(), spot.z = l.originZ + 0.4 * l.depth();
    REQUIRE(addSpot(l, spot));
    spot.name = "goal", spot.kind = "goal", spot.x = l.originX + 0.45 * l.width(),
    spot.z = l.originZ + 0.15 * l.depth();
    REQUIRE(addSpot(l, spot));
    return l;
}

// The share of the colours' scale for a class.
float shareOf(Reached is) { return (static_cast<float>(is) - 1 + 0.5f) / 4; }

}  // namespace

TEST_CASE("the overlay of reach shows at every place what the survey says of it, quick and full", "[property]") {
    const Level level = broken();
    const HeightPyramid pyramid(level);
    const Reach reach = surveyReach(level, kBodies[0]);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    // Every second sample alone, as of large levels, must come to lie in the same places.
    for (const int stride : {1, 2}) {
        auto classes = std::make_shared<Raster<uint8_t>>((level.columns - 1) / stride + 1,
                                                         (level.rows - 1) / stride + 1);
        for (int z = 0; z < classes->depth(); ++z)
            for (int x = 0; x < classes->width(); ++x) classes->at(x, z) = reach.classes.at(x * stride, z * stride);
        r.scene().setReach(classes, stride);
        for (const Finish finish : {Finish::quick, Finish::full}) {
            Sight sight;
            sight.overlay = Overlay::reach;
            Camera camera;
            camera.width = kWidth, camera.height = kHeight;
            camera.pitch = -89.5;
            camera.at = {level.originX + 0.45 * level.width(), 130, level.originZ + 0.5 * level.depth()};
            take(r, camera, finish, sight);  // what overlays need of a fresh level comes with the first picture
            const Shot shot = take(r, camera, finish, sight);
            Random random(7);
            int looked = 0, agree = 0;
            std::set<int> seen;
            for (int i = 0; i < 900; ++i) {
                const int px = wholeBetween(random, 8, kWidth - 8), py = wholeBetween(random, 8, kHeight - 8);
                const auto place = pickGround(level, pyramid, camera.ray(px, py));
                if (!place) continue;
                const double c = level.toColumn(place->x), q = level.toRow(place->z);
                const auto is = static_cast<Reached>(
                    reach.classes.at(static_cast<int>(std::lround(c)), static_cast<int>(std::lround(q))));
                // Away from the borders between classes.
                bool inside = is != Reached::nothing;
                for (int dz = -3; dz <= 3; ++dz)
                    for (int dx = -3; dx <= 3; ++dx) {
                        const int x = std::clamp(static_cast<int>(std::lround(c)) + dx, 0, level.columns - 1),
                                  z = std::clamp(static_cast<int>(std::lround(q)) + dz, 0, level.rows - 1);
                        inside = inside && reach.classes.at(x, z) == static_cast<uint8_t>(is);
                    }
                if (!inside) continue;
                ++looked;
                seen.insert(static_cast<int>(is));
                // Nearest to its own colour of the four.
                const glm::vec3 got = glm::normalize(glm::vec3(shot.at(px, py)));
                int best = 0;
                float near = -1;
                for (int k = 1; k <= 4; ++k)
                    if (const float d = glm::dot(
                            got, glm::normalize(overlayColour(Overlay::reach, shareOf(static_cast<Reached>(k)), 35)));
                        d > near)
                        near = d, best = k;
                agree += best == static_cast<int>(is);
            }
            CAPTURE(stride, finish == Finish::quick);
            CHECK(looked > 200);
            CHECK(seen.size() >= 3);
            CHECK(agree > 0.9 * looked);
        }
    }
    r.scene().setReach(nullptr, 1);
}

TEST_CASE("under water what is far takes the water's colour and what is near does not, the darker the deeper") {
    const Level level = hillyLevel(129, 129, 3, 3);
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    Camera camera;
    camera.width = kWidth, camera.height = kHeight;
    camera.at = {0, altitudeAt(level, 0, 0) + 1.5, 0};
    camera.pitch = -12;
    const Shot dry = take(r, camera, Finish::full);
    const auto wet = [&](float metres, float deep) {
        Sight sight;
        sight.under = {metres, deep, {0.1f, 0.3f, 0.25f}};
        return take(r, camera, Finish::full, sight);
    };
    const Shot murky = wet(3, 0.5f), clear = wet(30, 0.5f), deep = wet(3, 8);
    const auto difference = [](const glm::ivec3& a, const glm::ivec3& b) {
        return std::abs(a.x - b.x) + std::abs(a.y - b.y) + std::abs(a.z - b.z);
    };
    // By the feet hardly other; a few dozen metres off of one colour, but not in clear water.
    double near = 0, spread = 0, clearSpread = 0;
    const glm::ivec3 far = murky.at(kWidth / 2, kHeight / 3);
    for (int x = 20; x < kWidth - 20; x += 10) {
        near += difference(murky.at(x, kHeight - 3), dry.at(x, kHeight - 3));
        spread += difference(murky.at(x, kHeight / 3), far);
        clearSpread += difference(clear.at(x, kHeight - 30), murky.at(x, kHeight - 30));
    }
    const int n = (kWidth - 40) / 10;
    CHECK(spread / n < 6);
    CHECK(near / n < 120);
    CHECK(clearSpread / n > 10);
    CHECK(far.y > far.x);
    CHECK(far.y >= far.z);
    const glm::ivec3 below = deep.at(kWidth / 2, kHeight / 3);
    CHECK(below.y < 0.8 * far.y);
    // The next picture is dry again.
    CHECK(take(r, camera, Finish::full) == dry);
}
