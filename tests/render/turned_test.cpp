// Pictures that turn with the eye: every pixel against the direction in which it is seen, and what a whole look round
// is put together from.
#include <catch2/catch.hpp>
#include <cmath>
#include <glm/geometric.hpp>

#include "base/maths.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/software/panorama.h"
#include "render/software/turned.h"

using namespace jam;
using namespace jam::test;

namespace {

Camera anyCamera(Random& random) {
    Camera c;
    c.width = wholeBetween(random, 40, 190);
    c.height = wholeBetween(random, 30, 150);
    c.fieldOfView = between(random, 25, 95);
    c.yaw = between(random, -400, 400);
    c.pitch = between(random, -89.9, 89.9);
    return c;
}

Camera turned(Camera c, double yaw, double pitch) {
    c.yaw += yaw;
    c.pitch = std::clamp(c.pitch + pitch, -89.9, 89.9);
    return c;
}

int channel(uint32_t pixel, int k) { return static_cast<int>(pixel >> (8 * k) & 255); }

}  // namespace

TEST_CASE("a turned picture has the pixels that lie in each direction, weighed by how near they are", "[property]") {
    Random random(11);
    int drawn = 0, edges = 0;
    for (int round = 0; round < 60; ++round) {
        const Camera from = anyCamera(random);
        Camera to = anyCamera(random);
        if (round % 4) {
            to.yaw = from.yaw + between(random, -40, 40);
            to.pitch = std::clamp(from.pitch + between(random, -30, 30), -89.9, 89.9);
        }
        const int x0 = wholeBetween(random, 0, from.width - 8), y0 = wholeBetween(random, 0, from.height - 8);
        const PixelRect part{x0, y0, wholeBetween(random, 2, from.width - x0),
                             wholeBetween(random, 2, from.height - y0)};
        std::vector<uint32_t> pixels(static_cast<size_t>(part.width * part.height));
        for (uint32_t& p : pixels)
            for (int k = 0; k < 4; ++k)
                p |= static_cast<uint32_t>(wholeBetween(random, 60 * k, 60 * k + 40)) << (8 * k);
        const auto at = [&](int x, int y) { return pixels[static_cast<size_t>(y * part.width + x)]; };
        const Turned t(from, part, to);
        const double margin = between(random, -6, 6);
        std::vector<uint32_t> row(static_cast<size_t>(to.width));
        for (int y = 0; y < to.height; ++y) {
            const Turned::Span all = t.span(y, 0), some = t.span(y, margin);
            t.draw(y, all, pixels.data(), row.data() + all.first);
            for (int x = 0; x < to.width; ++x) {
                const auto place = from.pixel(from.at + to.ray(x, y).along);
                const double u = place ? place->x - part.x : -1e9, v = place ? place->y - part.y : -1e9;
                const double inside = std::min({u, part.width - 1 - u, v, part.height - 1 - v});
                const bool spanned = x >= all.first && x < all.end, within = x >= some.first && x < some.end;
                const bool told = (std::abs(inside) < 1e-4 || spanned == (inside > 0)) &&
                                  (std::abs(inside - margin) < 1e-4 || within == (inside > margin));
                edges += within != spanned;
                double apart = 0;
                if (inside > 1e-4) {
                    ++drawn;
                    const int i = std::min(static_cast<int>(u), part.width - 2),
                              j = std::min(static_cast<int>(v), part.height - 2);
                    for (int k = 0; k < 4; ++k) {
                        const auto mean = [&](int below) {
                            return glm::mix<double>(channel(at(i, below), k), channel(at(i + 1, below), k), u - i);
                        };
                        apart = std::max(apart, std::abs(channel(row[static_cast<size_t>(x)], k) -
                                                         glm::mix(mean(j), mean(j + 1), v - j)));
                    }
                }
                if (told && apart <= 2.5) continue;
                FAIL("round " << round << ", pixel " << x << ' ' << y << " at " << u << ' ' << v << ": "
                              << (told ? "wrong colour" : "wrong span"));
            }
        }
    }
    CHECK(drawn > 20'000);
    CHECK(edges > 2'000);
}

TEST_CASE("towards its edges a turned picture fades into what is there, and beyond them nothing is drawn") {
    Camera from;
    from.width = 80, from.height = 60;
    Camera to = from;
    to.width = 160, to.height = 120, to.fieldOfView = 92.3;  // about as fine, more to see
    const PixelRect part{10, 4, 60, 50};
    const std::vector<uint32_t> pixels(static_cast<size_t>(part.width * part.height), 0x40c8a050);
    const Turned t(from, part, to);
    constexpr int kFade = 9;
    const Turned::Span within{20, 130};
    for (int y = 0; y < to.height; ++y) {
        std::vector<uint32_t> row(static_cast<size_t>(to.width), 0x00001e96);
        t.fade(y, within, pixels.data(), kFade, row.data() + within.first);
        for (int x = 0; x < to.width; ++x) {
            const glm::dvec2 at = *from.pixel(from.at + to.ray(x, y).along) - glm::dvec2(part.x, part.y);
            const double inside = std::min({at.x, part.width - 1 - at.x, at.y, part.height - 1 - at.y});
            const double share = x < within.first || x >= within.end ? 0 : std::clamp(inside / kFade, 0.0, 1.0);
            for (int k = 0; k < 4; ++k) {
                INFO(x << ' ' << y << " byte " << k << ", " << inside << " inside");
                REQUIRE(channel(row[static_cast<size_t>(x)], k) ==
                        Approx(glm::mix<double>(channel(0x00001e96, k), channel(0x40c8a050, k), share)).margin(2));
            }
        }
    }
}

namespace {

// A world that is nothing but what colour lies in which direction.
uint32_t colourAlong(const glm::dvec3& d) {
    const double waves[] = {4 * d.x + 2 * d.y, 3 * d.y - 4 * d.z, 5 * d.z + 2 * d.x};
    uint32_t colour = 0;
    for (int k = 0; k < 3; ++k)
        colour |= static_cast<uint32_t>(std::lround(127.5 + 110 * std::sin(waves[k] + k))) << (8 * k);
    return colour;
}

// What a renderer would draw of it.
void paint(const Camera& camera, const PixelRect& part, uint32_t* out) {
    for (int y = 0; y < part.height; ++y)
        for (int x = 0; x < part.width; ++x) *out++ = colourAlong(camera.ray(part.x + x, part.y + y).along);
}

struct World {
    Panorama seen;
    std::vector<uint32_t> picture;
    long glimpsed = 0;  // pixels
    int wholes = 0;

    void take(const Camera& c) {
        picture.resize(static_cast<size_t>(c.width * c.height));
        paint(c, {0, 0, c.width, c.height}, picture.data());
        seen.take(c, {}, reinterpret_cast<const uint8_t*>(picture.data()), c.width * 4);
    }
    // Returns the most that a byte of what is shown differs from the world.
    int look(const Camera& c) {
        REQUIRE(seen.holds(c, {}));
        const auto missing = seen.missing(c);
        if (!missing) return ++wholes, take(c), 0;
        for (const Panorama::Glimpse& g : *missing) {
            REQUIRE(g.part.x >= 0);
            REQUIRE(g.part.y >= 0);
            REQUIRE(g.part.x + g.part.width <= g.camera.width);
            REQUIRE(g.part.y + g.part.height <= g.camera.height);
            glimpsed += g.part.width * g.part.height;
            paint(g.camera, g.part, seen.room(g));
        }
        // Rows are longer than the picture, and what lies beyond it is not touched.
        const size_t stride = static_cast<size_t>(c.width) + 5;
        std::vector<uint32_t> shown(stride * static_cast<size_t>(c.height), 0x7f00ff00);
        seen.show(c, reinterpret_cast<uint8_t*>(shown.data()), static_cast<int>(stride) * 4);
        int most = 0, spilt = 0;
        for (int y = 0; y < c.height; ++y) {
            const uint32_t* row = &shown[static_cast<size_t>(y) * stride];
            for (int x = 0; x < c.width; ++x) {
                const uint32_t should = colourAlong(c.ray(x, y).along);
                for (int k = 0; k < 3; ++k) most = std::max(most, std::abs(channel(row[x], k) - channel(should, k)));
            }
            for (size_t x = static_cast<size_t>(c.width); x < stride; ++x) spilt += row[x] != 0x7f00ff00;
        }
        REQUIRE(spilt == 0);
        return most;
    }
};

Camera eye() {
    Camera c;
    c.at = {7, 30, -4};
    c.width = 250, c.height = 140;
    c.yaw = 350, c.pitch = -20;
    return c;
}

}  // namespace

TEST_CASE("a look round shows the world in every direction, however one turns", "[property]") {
    const struct {
        const char* how;
        double yaw, pitch, startPitch;
        int steps;
    } kTurns[] = {
        {"to the right", 2.5, 0, -20, 100}, {"to the left", -1.3, 0, 15, 60},   {"up", 0, 1.7, -30, 60},
        {"down", 0.2, -1.6, 20, 50},        {"slanting", 2.2, 0.9, -60, 50},    {"about the plumb line", 4, 0, -89, 60},
        {"by little", 0.05, 0.02, 0, 40},   {"about the zenith", -4, 0, 88, 60}};
    for (const auto& turn : kTurns) {
        INFO(turn.how);
        World world;
        Camera c = eye();
        c.pitch = turn.startPitch;
        world.take(c);
        for (int i = 0; i < turn.steps; ++i) {
            INFO("step " << i);
            c = turned(c, turn.yaw, turn.pitch);
            // Where one picture was made of many it was blurred once more.
            REQUIRE(world.look(c) <= 6);
        }
        CHECK(world.wholes == 0);
    }
    // To and fro, with a jump now and then.
    Random random(5);
    World world;
    Camera c = eye();
    world.take(c);
    for (int i = 0; i < 120; ++i) {
        INFO("step " << i);
        const double reach = i % 40 == 39 ? 160 : 6;
        c = turned(c, between(random, -reach, reach), between(random, -reach / 2, reach / 2));
        REQUIRE(world.look(c) <= 8);
    }
    CHECK(world.wholes >= 1);
}

TEST_CASE("turning draws little more than what comes into sight, and nothing of what was in sight") {
    World world;
    Camera c = eye();
    c.width = 640, c.height = 300, c.pitch = 0;
    world.take(c);
    CHECK(world.look(c) <= 1);
    CHECK(world.glimpsed == 0);
    const double across = 2 * std::atan(std::tan(c.fieldOfView * kRadians / 2) * c.width / c.height) / kRadians;
    constexpr int kSteps = 25;
    for (int i = 1; i <= kSteps; ++i) world.look(turned(c, across * 0.5 * i / kSteps, 0));
    // Half a picture came into sight, and strips beyond it; all of these pictures are 25 times the whole.
    const long whole = static_cast<long>(c.width) * c.height;
    CHECK(world.glimpsed > whole / 2);
    CHECK(world.glimpsed < 3 * whole);
    const long there = world.glimpsed;
    for (int i = kSteps; i > 0; --i) world.look(turned(c, across * 0.5 * i / kSteps, 0));
    CHECK(world.glimpsed == there);
    // Further than half of it at once is a picture of its own.
    CHECK_FALSE(world.seen.missing(turned(c, 180, 0)));
}

TEST_CASE("what was seen is not kept without end") {
    World world;
    Camera c = eye();
    world.take(c);
    const auto round = [&] {
        const long before = world.glimpsed;
        for (int i = 0; i < 120; ++i) world.look(c = turned(c, 3, 0));
        return world.glimpsed - before;
    };
    const long first = round(), second = round();
    CHECK(second > first / 2);
}

TEST_CASE("the picture goes over into the strips beside it without a seam") {
    const Camera c = eye();
    const int width = c.width;
    Panorama seen;
    std::vector<uint32_t> bright(static_cast<size_t>(width * c.height), 0xd0d0d0);
    seen.take(c, {}, reinterpret_cast<const uint8_t*>(bright.data()), width * 4);
    for (const auto& [yaw, pitch] : {std::pair(11.0, 0.0), {-7.0, 5.0}, {0.0, -9.0}}) {
        const Camera to = turned(c, yaw, pitch);
        const auto missing = seen.missing(to);
        REQUIRE(missing);
        for (const Panorama::Glimpse& g : *missing) std::fill_n(seen.room(g), g.part.width * g.part.height, 0x303030);
        seen.show(to, reinterpret_cast<uint8_t*>(bright.data()), width * 4);
        int steepest = 0, least = 255, most = 0;
        for (int y = 1; y < c.height; ++y)
            for (int x = 1; x < width; ++x) {
                const auto at = [&](int px, int py) {
                    return channel(bright[static_cast<size_t>(py * width + px)], 1);
                };
                steepest = std::max({steepest, std::abs(at(x, y) - at(x - 1, y)), std::abs(at(x, y) - at(x, y - 1))});
                least = std::min(least, at(x, y)), most = std::max(most, at(x, y));
            }
        INFO(yaw << ' ' << pitch);
        CHECK(least == 0x30);
        CHECK(most == 0xd0);
        // Pixels of the picture are spread at the edges, and so is the way from one to the other.
        CHECK(steepest <= 2 * (0xd0 - 0x30) / Panorama::kFade);
    }
}

TEST_CASE("what was seen holds for the same eye and the same look alone") {
    World world;
    const Camera c = eye();
    CHECK(world.seen.empty());
    CHECK_FALSE(world.seen.holds(c, {}));
    world.take(c);
    CHECK(world.seen.holds(turned(c, 77, -12), {}));
    const auto other = [&](auto change) {
        Camera d = c;
        change(d);
        return world.seen.holds(d, {});
    };
    CHECK_FALSE(other([](Camera& d) { d.at.x += 0.01; }));
    CHECK_FALSE(other([](Camera& d) { d.at.y -= 0.01; }));
    CHECK_FALSE(other([](Camera& d) { d.fieldOfView = 54; }));
    CHECK_FALSE(other([](Camera& d) { d.width += 1; }));
    CHECK_FALSE(other([](Camera& d) { d.height -= 1; }));
    Sight contours;
    contours.contours = true;
    CHECK_FALSE(world.seen.holds(c, contours));
    // A picture from elsewhere lets go of the strips too.
    world.look(turned(c, 3, 0));
    Camera moved = c;
    moved.at.z += 1;
    world.take(moved);
    const long before = world.glimpsed;
    world.look(turned(moved, 3, 0));
    CHECK(world.glimpsed > before);
    // One of the same eye keeps them.
    const long kept = world.glimpsed;
    world.take(moved);
    world.look(turned(moved, 3, 0));
    CHECK(world.glimpsed == kept);
    world.seen.forget();
    CHECK_FALSE(world.seen.holds(moved, {}));
}

TEST_CASE("a glimpse is a part of the picture that it belongs to, and leaves the kept one as it was") {
    PixelRenderer& r = renderer();
    const Level l = chequeredLevel(161, 121, 3, 20, 30);
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    Camera c;
    c.at = {l.originX + 20, altitudeAt(l, l.originX + 20, l.originZ + 30) + 40, l.originZ + 30};
    c.width = kWidth, c.height = kHeight;
    c.yaw = 130, c.pitch = -25;
    const Shot whole = take(r, c, Finish::quick);
    Camera elsewhere = c;
    elsewhere.yaw = 80;
    const Shot kept = take(r, elsewhere, Finish::full);
    for (const PixelRect& part :
         {PixelRect{0, 0, 40, kHeight}, PixelRect{200, 0, 120, 30}, PixelRect{100, 200, 220, 40},
          PixelRect{33, 71, 5, 90}, PixelRect{0, 0, kWidth, kHeight}}) {
        std::vector<uint8_t> glimpse(static_cast<size_t>(part.width * part.height * 4));
        r.drawGlimpse(c, {}, part, glimpse.data(), part.width * 4);
        int apart = 0;
        for (int y = 0; y < part.height; ++y)
            for (int x = 0; x < part.width; ++x) {
                const uint8_t* p = &glimpse[static_cast<size_t>((y * part.width + x) * 4)];
                const glm::ivec3 d = glm::abs(whole.at(part.x + x, part.y + y) - glm::ivec3(p[2], p[1], p[0]));
                apart += std::max({d.x, d.y, d.z}) > 3;
            }
        INFO(part.x << ' ' << part.y << ' ' << part.width << ' ' << part.height);
        // The sky's grain lies otherwise, and an edge may fall to either side.
        CHECK(apart <= 6 + part.width * part.height / 200);
    }
    Shot after;
    r.read({0, 0, kWidth, kHeight}, after.bgra.data(), kWidth * 4);
    CHECK(after == kept);
}
