// Streams in a moving picture: what is not seen is left out, and fewer points look like all of them.
#include <cmath>
#include <glm/geometric.hpp>

#include "course/bake.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/stream_strips.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// Two streams of murky blue that wind along oblong red ground.
Level winding() {
    Level l = flatLevel(421, 121, 0);
    addLayer(l, plainLayer("red", 200, 60, 40));
    for (const double side : {-1.0, 1.0}) {
        Course bed;
        bed.use = CourseUse::carve;
        for (int k = 0; k <= 14; ++k) {
            Post p;
            p.x = l.originX + (0.04 + 0.065 * k) * l.width();
            p.z = l.originZ + l.depth() * (0.5 + side * 0.25 + (k % 2 ? 0.1 : -0.1));
            p.height = static_cast<float>(-0.4 - 0.15 * k), p.width = 5, p.shoulder = 3;
            bed.posts.push_back(p);
        }
        Stream s;
        s.name = freeWaterName(l, "brook");
        s.course = addCourse(l, s.name, bed);
        s.look.clearness = 0.05f;
        s.look.colour = {0.02f, 0.1f, 0.9f};
        s.look.foam = 0;
        REQUIRE(addStream(l, s));
    }
    refillWater(l);
    REQUIRE(l.water.presentTiles() > 4);
    return l;
}

Camera from(const glm::dvec3& at, double yaw, double pitch) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = at, c.yaw = yaw, c.pitch = pitch;
    return c;
}

}  // namespace

TEST_CASE("a strip goes from point to point and ends at the last, whatever the stride") {
    for (const size_t stride : {1, 4, 16})
        for (const auto& [begin, end] : {std::pair<size_t, size_t>{0, 16}, {16, 23}, {32, 33}}) {
            const std::vector<uint32_t> corners = StreamStrips::cornersBetween(begin, end, stride);
            CAPTURE(stride, begin, end);
            CHECK(corners.size() == 12 * ((end - begin + stride - 1) / stride));
            // Twice the area, with points one apart and the three vertices of a point in a row: each half faces up.
            double area = 0;
            uint32_t least = 1000, most = 0;
            for (size_t t = 0; t < corners.size(); t += 3) {
                const auto along = [&](size_t k) { return static_cast<int>(corners[t + k] / 3); };
                const auto aside = [&](size_t k) { return static_cast<int>(corners[t + k] % 3); };
                const int twice = (along(1) - along(0)) * (aside(2) - aside(0)) -
                                  (aside(1) - aside(0)) * (along(2) - along(0));
                CHECK(twice < 0);
                area -= twice;
                for (size_t k = 0; k < 3; ++k)
                    least = std::min(least, corners[t + k]), most = std::max(most, corners[t + k]);
            }
            CHECK(area == 4 * static_cast<double>(end - begin));
            CHECK(least == 3 * begin);
            CHECK(most == 3 * end + 2);
        }
}

TEST_CASE("of a stream only what may be seen is drawn, with fewer points from afar") {
    renderer();  // its context
    const Level l = winding();
    StreamStrips strips;
    strips.build();
    CHECK(strips.empty());
    strips.follow(l, 1);
    CHECK(!strips.empty());
    const Camera whole = from({0, 500, 0}, 0, -90);
    strips.draw(whole, 0);
    const int all = strips.drawn();
    CHECK(all > 2 * 12 * 500);
    // From the middle to the west, half of it; up into the sky, and beside it, nothing.
    strips.draw(from({0, 60, 0}, 270, -45), 0);
    CHECK(strips.drawn() < 0.6 * all);
    CHECK(strips.drawn() > 0.1 * all);
    for (const Camera& away : {from({0, 60, 0}, 270, 60), from({0, 20, -400}, 0, -10)}) {
        strips.draw(away, 0);
        CHECK(strips.drawn() == 0);
    }
    int before = all;
    for (const double apart : {1.0, 6.0, 30.0}) {
        strips.draw(whole, apart);
        CHECK(strips.drawn() <= before);
        CHECK(strips.drawn() >= all / 17);
        before = strips.drawn();
    }
    CHECK(before < all / 10);
    // Near by every point counts, however few pixels they are asked for.
    const double x = l.originX + 0.3 * l.width();
    strips.draw(from({x, 4, l.originZ + 0.25 * l.depth()}, 0, -60), 6);
    const int near = strips.drawn();
    strips.draw(from({x, 4, l.originZ + 0.25 * l.depth()}, 0, -60), 0);
    CHECK(near == strips.drawn());
    CHECK(near > 0);
    Level dry = l;
    while (!dry.streams.empty()) removeWater(dry, dry.streams.front().id);
    strips.follow(dry, 1);
    CHECK(strips.empty());
}

TEST_CASE("a moving picture shows streams where they are at rest", "[property]") {
    PixelRenderer& r = renderer();
    Random random(9);
    const Level l = winding();
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    r.scene().setShade({});
    for (int k = 0; k < 8; ++k) {
        const bool low = k < 4;
        const Camera c = from({between(random, -120, 120), low ? between(random, 8, 30) : between(random, 50, 250),
                               low ? between(random, 40, 55) : between(random, 20, 80)},
                              between(random, -30, 30), low ? between(random, -50, -25) : between(random, -80, -55));
        // The ground is red and the water blue.
        std::vector<bool> wet[2];
        for (const Finish finish : {Finish::full, Finish::quick}) {
            const Shot a = take(r, c, finish);
            for (int y = 0; y < kHeight; ++y)
                for (int x = 0; x < kWidth; ++x) wet[finish == Finish::quick].push_back(a.at(x, y).z > a.at(x, y).x);
        }
        const auto count = std::count(wet[0].begin(), wet[0].end(), true);
        int lost = 0;
        const auto at = [&](int which, int x, int y) { return wet[which][static_cast<size_t>(y * kWidth + x)]; };
        for (int y = 1; y + 1 < kHeight; ++y)
            for (int x = 1; x + 1 < kWidth; ++x) {
                if (at(0, x, y) == at(1, x, y)) continue;
                // A pixel at a shore may go either way.
                bool shore = false;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx) shore = shore || at(0, x + dx, y + dy) == at(1, x, y);
                lost += !shore;
            }
        CAPTURE(k, c.at.x, c.at.y, c.at.z, c.yaw, c.pitch, count);
        CHECK(count > 100);
        CHECK(lost <= count / 200);
    }
}
