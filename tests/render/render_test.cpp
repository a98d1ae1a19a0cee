// The renderer without any window: pixels read back from a context of its own.
#include <catch2/catch.hpp>

#include <cmath>
#include <glm/geometric.hpp>

#include "base/noise.h"
#include "cover/lay.h"
#include "cover/paint.h"
#include "cover/weights.h"
#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/light.h"
#include "render/navigator.h"
#include "render/patches.h"
#include "render/software/pixel_renderer.h"
#include "shape/raise.h"
#include "survey/pick.h"
#include "survey/slope.h"

using namespace jam;
using namespace jam::test;

namespace {

glm::vec3 linear(int r, int g, int b) {
    const auto one = [](int v) {
        const float s = static_cast<float>(v) / 255;
        return s <= 0.04045f ? s / 12.92f : std::pow((s + 0.055f) / 1.055f, 2.4f);
    };
    return {one(r), one(g), one(b)};
}

}  // namespace

TEST_CASE("patches cover what is seen exactly once, whatever the camera", "[property]") {
    Random random(5);
    for (int round = 0; round < 60; ++round) {
        const Level level = hillyLevel(wholeBetween(random, 2, 300), wholeBetween(random, 2, 300),
                                       static_cast<uint32_t>(round % 5), 1);
        const HeightPyramid pyramid(level);
        Camera c;
        c.at = {between(random, -200, 200), between(random, 5, 300), between(random, -200, 200)};
        c.yaw = between(random, 0, 360);
        c.pitch = between(random, -89, 20);
        std::vector<Patch> patches;
        choosePatches(level, pyramid, c, finestReach(level, c, between(random, 2, 20)), patches);
        std::vector<int> drawn(static_cast<size_t>(level.columns * level.rows), 0);
        for (const Patch& p : patches)
            for (int z = p.row; z < std::min(p.row + Patch::kQuads * p.step, level.rows - 1); ++z)
                for (int x = p.column; x < std::min(p.column + Patch::kQuads * p.step, level.columns - 1); ++x)
                    ++drawn[static_cast<size_t>(z * level.columns + x)];
        bool once = true, complete = true;
        for (int z = 0; z < level.rows - 1; ++z)
            for (int x = 0; x < level.columns - 1; ++x) {
                const int n = drawn[static_cast<size_t>(z * level.columns + x)];
                once &= n <= 1;
                const auto pixel = c.pixel({level.originX + x, groundSample(level, x, z), level.originZ + z});
                const bool seen = pixel && pixel->x > 1 && pixel->y > 1 && pixel->x < c.width - 2 &&
                                  pixel->y < c.height - 2;
                complete &= !seen || n == 1;
            }
        REQUIRE(once);
        REQUIRE(complete);
    }
}

TEST_CASE("neighbouring patches differ by one level of detail at most where they touch", "[property]") {
    Random random(8);
    for (int round = 0; round < 20; ++round) {
        const Level level = hillyLevel(513, 513, static_cast<uint32_t>(round % 3), 1);
        const HeightPyramid pyramid(level);
        Camera c = lookDown(level, between(random, 3, 400), between(random, -200, 200), between(random, -200, 200));
        c.pitch = between(random, -89, -10);
        std::vector<Patch> patches;
        choosePatches(level, pyramid, c, finestReach(level, c, 7), patches);
        for (const Patch& a : patches)
            for (const Patch& b : patches) {
                const int sa = Patch::kQuads * a.step, sb = Patch::kQuads * b.step;
                const bool touch = a.column <= b.column + sb && b.column <= a.column + sa && a.row <= b.row + sb &&
                                   b.row <= a.row + sa;
                if (touch) REQUIRE(std::max(a.step, b.step) <= 2 * std::min(a.step, b.step));
            }
    }
}

TEST_CASE("the picture agrees with the light computed on the processor") {
    Level level = flatLevel(129, 129, 0);
    addLayer(level, dullLayer(90, 120, 60));
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, static_cast<float>(0.4 * c));  // a ramp to the east
    const Camera camera = lookDown(level, 60);
    const float up = 1 / std::sqrt(1 + 0.16f);
    const glm::vec3 lit = litColour(lightLook(level.sun, false), linear(90, 120, 60), {-0.4f * up, up, 0},
                                    unevenness(0, 0), unevenness(0, 0));
    for (const Finish finish : {Finish::quick, Finish::full}) {
        const glm::ivec3 p = take(level, camera, finish).at(kWidth / 2, kHeight / 2);
        CHECK(std::abs(p.x - finished(lit.x)) <= 3);
        CHECK(std::abs(p.y - finished(lit.y)) <= 3);
        CHECK(std::abs(p.z - finished(lit.z)) <= 3);
    }
}

TEST_CASE("a live blend of plain layers agrees with the weights on the processor") {
    Level level = flatLevel(65, 65, 0);
    const int tones[3][3] = {{60, 110, 40}, {180, 70, 50}, {225, 225, 230}};
    for (const auto& t : tones)
        addLayer(level, dullLayer(static_cast<uint8_t>(t[0]), static_cast<uint8_t>(t[1]), static_cast<uint8_t>(t[2])));
    for (int r = 0; r < 65; ++r)
        for (int c = 0; c < 65; ++c) {
            level.layers[1].coverage.set(c, r, static_cast<uint16_t>(c * 1000));
            level.layers[2].coverage.set(c, r, static_cast<uint16_t>(r * 700));
        }
    const Camera camera = lookDown(level, 40);
    const Shot shot = take(level, camera, Finish::full);
    const HeightPyramid pyramid(level);
    const LightLook light = lightLook(level.sun, false);
    for (int y = 40; y < kHeight; y += 40)
        for (int x = 40; x < kWidth; x += 40) {
            const auto place = pickGround(level, pyramid, camera.ray(x, y));
            REQUIRE(place);
            const auto mix = mixAt(level, place->x, place->z);
            glm::vec3 albedo(0);
            for (size_t i = 0; i < 3; ++i) albedo += mix[i] * linear(tones[i][0], tones[i][1], tones[i][2]);
            const glm::vec3 lit = litColour(light, albedo, {0, 1, 0}, unevenness(place->x, place->z),
                                            unevenness(place->x, place->z));
            const glm::ivec3 p = shot.at(x, y);
            INFO(x << " " << y);
            CHECK(std::abs(p.x - finished(lit.x)) <= 3);
            CHECK(std::abs(p.y - finished(lit.y)) <= 3);
            CHECK(std::abs(p.z - finished(lit.z)) <= 3);
        }
}

TEST_CASE("updating by dirty tiles gives the same picture as starting afresh", "[property]") {
    Random random(12);
    Level level = hillyLevel(200, 200, 3, 4);
    HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    Camera camera = lookDown(level, 120);
    camera.pitch = -50;
    for (int round = 0; round < 12; ++round) {
        const Dab dab = dabOn(level, between(random, -90, 90), between(random, -90, 90),
                              static_cast<float>(between(random, 3, 40)), {}, 1);
        Change change;
        if (round % 2) change.ground = raiseGround(level, dab, 6);
        else change.cover = paintLayer(level, dab, 0.7f, level.layers[2].id, 1);
        pyramid.update(level, change.ground);
        r.scene().sync(level, pyramid, &change);
    }
    const Shot grown = take(r, camera, Finish::full);
    const Level other = flatLevel(33, 33);
    take(other, camera, Finish::quick);  // makes the renderer forget
    CHECK(take(level, camera, Finish::full) == grown);
}

TEST_CASE("redrawing a part gives the same pixels as redrawing all") {
    const Level level = hillyLevel(150, 150, 7, 3);
    Camera camera = lookDown(level, 50);
    camera.pitch = -35;
    Sight look;
    look.contours = true;
    const Shot whole = take(level, camera, Finish::full, look);
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    r.scene().bring(camera, look);
    r.draw(camera, look, Finish::quick);
    for (int y = 0; y < kHeight; y += 60)
        for (int x = 0; x < kWidth; x += 80) {
            const PixelRect part{x, y, 80, 60};
            r.draw(camera, look, Finish::full, &part);
        }
    Shot parts;
    r.read({0, 0, kWidth, kHeight}, parts.bgra.data(), kWidth * 4);
    CHECK(parts == whole);
}

TEST_CASE("what is picked is what is drawn") {
    // A white spot on dark ground, seen slanting: its pixels pick places inside it.
    Level level = hillyLevel(129, 129, 5, 0);
    addLayer(level, plainLayer("dark", 20, 20, 20));
    addLayer(level, plainLayer("white", 250, 250, 250));
    level.layers[1].coverage = TiledGrid<uint16_t>(129, 129, 0);
    paintLayer(level, dabOn(level, 10, -12, 14, {Curve::smooth, 0}, 1), 1, level.layers[1].id, 1);
    Camera camera = lookDown(level, 70);
    camera.at.z += 60;
    camera.pitch = -45;
    const Shot shot = take(level, camera, Finish::full);
    const HeightPyramid pyramid(level);
    int agree = 0, looked = 0;
    for (int y = 2; y < kHeight - 2; y += 5)
        for (int x = 2; x < kWidth - 2; x += 5) {
            const auto place = pickGround(level, pyramid, camera.ray(x, y));
            if (!place) continue;
            const double d = std::hypot(place->x - 10, place->z + 12);
            if (std::abs(d - 14) < 2) continue;  // its border is soft by a sample
            ++looked;
            agree += (d < 14) == (shot.at(x, y).y > 110);
        }
    CHECK(looked > 1000);
    CHECK(agree >= looked * 0.99);
}

TEST_CASE("a change's pixels hold everything that changes") {
    Level level = hillyLevel(150, 150, 9, 2);
    HeightPyramid pyramid(level);
    Camera camera = lookDown(level, 90);
    camera.pitch = -40;
    camera.at.z += 60;
    const Shot before = take(level, camera, Finish::full);
    const Region changed = raiseGround(level, dabOn(level, 5, 5, 12, {}, 1), 15);
    const HeightSpan was = pyramid.spanOf(changed);
    pyramid.update(level, changed);
    const PixelRect part = pixelsOf(level, changed, was.joined(pyramid.spanOf(changed)), camera);
    const Shot after = take(level, camera, Finish::full);
    CHECK_FALSE(before == after);
    CHECK(part.width < kWidth);
    bool inside = true;
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x)
            if (before.at(x, y) != after.at(x, y))
                inside &= x >= part.x && y >= part.y && x < part.x + part.width && y < part.y + part.height;
    CHECK(inside);
}

TEST_CASE("the pixels of ground hold all of it that can be seen, and little more, also round the eye", "[property]") {
    Random random(31);
    Level level = flatLevel(201, 137, 1, 1.5);
    level.originX = -40, level.originZ = 25;
    int around = 0, behind = 0, partly = 0, filled = 0;
    for (int round = 0; round < 600; ++round) {
        Camera c;
        c.width = kWidth, c.height = kHeight;
        c.at = {level.originX + between(random, 0, level.width()), between(random, -10, 60),
                level.originZ + between(random, 0, level.depth())};
        c.yaw = between(random, 0, 360), c.pitch = between(random, -89, 30);
        const int x0 = wholeBetween(random, 0, 190), z0 = wholeBetween(random, 0, 126);
        const Region ground{x0, z0, x0 + wholeBetween(random, 1, 10), z0 + wholeBetween(random, 1, 10)};
        const float low = static_cast<float>(between(random, -12, 20));
        const HeightSpan span{low, low + static_cast<float>(between(random, 0, 15))};
        if (round % 2)
            c.at = {level.originX + level.spacing * (x0 + between(random, -12, 20)), low + between(random, -5, 20),
                    level.originZ + level.spacing * (z0 + between(random, -12, 20))};
        const PixelRect part = pixelsOf(level, ground, span, c);
        // What of the box is seen, by many places in it. pixelsOf() looks two samples around.
        const glm::dvec3 least{level.originX + level.spacing * std::max(x0 - 2, 0), span.low,
                               level.originZ + level.spacing * std::max(z0 - 2, 0)},
            most{level.originX + level.spacing * std::min(ground.x1 + 2, level.columns), span.high,
                 level.originZ + level.spacing * std::min(ground.z1 + 2, level.rows)};
        double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
        const auto ahead = [&](const glm::dvec3& at) { return glm::dot(at - c.at, c.forward()) - 0.1; };
        const auto meet = [&](const glm::dvec3& place) {
            const auto p = c.pixel(place);
            if (!p || ahead(place) < 0) return;
            left = std::min(left, p->x), right = std::max(right, p->x);
            top = std::min(top, p->y), bottom = std::max(bottom, p->y);
        };
        for (int k = 0; k < 1000; ++k)
            meet(
                {between(random, least.x, most.x), between(random, least.y, most.y), between(random, least.z, most.z)});
        for (int k = 0; k < 8; ++k) {
            const auto corner = [&](int bits) {
                return glm::dvec3(bits & 1 ? most.x : least.x, bits & 2 ? most.y : least.y,
                                  bits & 4 ? most.z : least.z);
            };
            meet(corner(k));
            // Where an edge comes from behind the eye the box is seen widest.
            for (const int along : {1, 2, 4})
                if (const double here = ahead(corner(k)), there = ahead(corner(k ^ along)); here > 0 && there < 0)
                    meet(glm::mix(corner(k), corner(k ^ along), 0.9999 * here / (here - there)));
        }
        CAPTURE(round, left, top, right, bottom, part.x, part.y, part.width, part.height);
        if (left > right) {
            ++behind;
            filled += !part.empty();
            continue;
        }
        // Cut off where the picture ends.
        const double l = std::clamp(left, 0.0, double(kWidth)), r = std::clamp(right, 0.0, double(kWidth)),
                     t = std::clamp(top, 0.0, double(kHeight)), b = std::clamp(bottom, 0.0, double(kHeight));
        if (part.empty()) {
            CHECK((l >= r || t >= b));
            continue;
        }
        CHECK(part.x <= l);
        CHECK(part.x + part.width >= r);
        CHECK(part.y <= t);
        CHECK(part.y + part.height >= b);
        if (part.width == kWidth && part.height == kHeight) ++around;
        else ++partly;
        // Places that were not met lie near some that were, but for what is close to the eye.
        const glm::dvec3 middle{level.originX + level.spacing * (ground.x0 + ground.x1) / 2.0,
                                (span.low + span.high) / 2,
                                level.originZ + level.spacing * (ground.z0 + ground.z1) / 2.0};
        if (glm::distance(middle, c.at) < 40) continue;
        CHECK(part.x > l - 12);
        CHECK(part.x + part.width < r + 12);
        CHECK(part.y > t - 12);
        CHECK(part.y + part.height < b + 12);
    }
    CHECK(around > 5);
    CHECK(around < 20);  // though the eye stands in or beside half of them
    CHECK(filled <= 1);  // what lies within a hand's breadth
    CHECK(partly > 100);
    CHECK(behind > 100);
}

TEST_CASE("the sun's shade darkens the picture, flat light takes it away") {
    Level level = flatLevel(101, 101, 1);
    for (int r = 0; r < 101; ++r) level.strata[0].heights.set(50, r, 12);
    level.sun = {270, 40};
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    const Camera camera = lookDown(level, 60, 6, 0);
    const int lit = take(r, camera, Finish::full).at(kWidth / 2, kHeight / 2).y;
    r.scene().setShade(
        {std::make_shared<Raster<uint8_t>>(101, 101, 0), std::make_shared<Raster<uint8_t>>(101, 101, 255)});
    const int shaded = take(r, camera, Finish::full).at(kWidth / 2, kHeight / 2).y;
    CHECK(shaded < lit - 30);
    r.scene().setFlatLight(true);
    CHECK(take(r, camera, Finish::full).at(kWidth / 2, kHeight / 2).y > shaded + 20);
    r.scene().setFlatLight(false);
}

TEST_CASE("a camera's ray and pixel are each other's inverse", "[property]") {
    Random random(2);
    for (int i = 0; i < 500; ++i) {
        Camera c;
        c.at = {between(random, -500, 500), between(random, -50, 500), between(random, -500, 500)};
        c.yaw = between(random, 0, 360);
        c.pitch = between(random, -89, 89);
        const double x = between(random, 0, c.width), y = between(random, 0, c.height);
        const Ray ray = c.ray(x, y);
        const auto back = c.pixel(ray.from + ray.along * between(random, 1, 900));
        REQUIRE(back);
        REQUIRE(std::hypot(back->x - x, back->y - y) < 1e-6);
    }
}

TEST_CASE("no way of moving takes the camera below the ground", "[property]") {
    Random random(4);
    const Level level = hillyLevel(200, 200, 6, 1);
    const HeightPyramid pyramid(level);
    const Navigator n(level, pyramid);
    Camera c = n.overview({});
    for (int i = 0; i < 4000; ++i) {
        const glm::dvec3 place(between(random, -100, 100), 0, between(random, -100, 100));
        switch (wholeBetween(random, 0, 6)) {
            case 0: c = n.travel(c, between(random, -1, 1), between(random, -1, 1), between(random, -1, 1), 0.1); break;
            case 1: c = n.look(c, between(random, -90, 90), between(random, -60, 60)); break;
            case 2: c = n.zoom(c, place, between(random, -1, 0.9)); break;
            case 3: c = n.slide(c, place, {between(random, 0, c.width), between(random, 0, c.height)}); break;
            case 4: c = n.orbit(c, place, between(random, -90, 90), between(random, -60, 60)); break;
            case 5:
                c = n.centre(c, {place.x, altitudeAt(level, place.x, place.z), place.z}, between(random, 1, 200));
                break;
            default: c = n.plan(c);
        }
        REQUIRE(std::isfinite(c.at.x + c.at.y + c.at.z + c.yaw + c.pitch));
        if (level.holds(c.at.x, c.at.z)) REQUIRE(n.heightAbove(c) >= Navigator::kClearance - 1e-6);
    }
}

TEST_CASE("pictures do not stretch down a cliff that is seen from three sides") {
    // A wall of 80 degrees that faces south, covered with stripes that run east and west.
    Level level = flatLevel(129, 129, 0);
    Layer layer = dullLayer(120, 120, 120);
    Pixels stripes{32, 32, 3, 8, {}};
    for (int y = 0; y < 32; ++y)
        for (int x = 0; x < 32; ++x)
            for (int k = 0; k < 3; ++k) stripes.samples.push_back(y % 8 < 4 ? 230 : 30);
    auto picture = std::make_shared<PictureFile>();
    picture->name = "stripes.png";
    picture->bytes = encodePng(stripes);
    layer.colour = picture;
    layer.tileSize = 16;  // a stripe each 4 m
    addLayer(level, layer);
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, static_cast<float>(std::clamp(70 - r, 0, 10)) * 5.6f);
    Camera camera;
    camera.width = kWidth;
    camera.height = kHeight;
    camera.at = {0, 28, 70};  // looks north at the wall
    camera.pitch = 0;
    const auto edges = [&](bool sides) {
        level.layers[0].sides = sides;
        const Shot shot = take(level, camera, Finish::full);
        // Changes from light to dark down the middle of the wall, between 8 m and 48 m of its height.
        const auto top = camera.pixel({0, 48, 62 - 64 - 1}), foot = camera.pixel({0, 8, 69 - 64 - 1});
        REQUIRE(top);
        REQUIRE(foot);
        REQUIRE((top->y >= 0 && foot->y < kHeight));
        int n = 0;
        bool light = false;
        for (int y = static_cast<int>(top->y); y < static_cast<int>(foot->y); ++y) {
            const bool now = shot.at(kWidth / 2, y).y > 105;
            n += now != light;
            light = now;
        }
        return n;
    };
    const int above = edges(false), around = edges(true);
    // 40 m of wall hold ten light and ten dark stripes; from above the same wall is 7 m deep and holds two.
    CHECK(above <= 6);
    CHECK(around >= 14);
    CHECK(around <= 26);
}

TEST_CASE("a driver that offers too little is refused in words, and a level that is too large for it is not drawn") {
    (void)renderer();  // its context is current
    const DriverLimits real = driverLimits();
    CHECK(checkDriver(real));
    CHECK(checkFits(real, 8193, 4097));
    for (int k = 0; k < 5; ++k) {
        DriverLimits less = real;
        if (k == 0) less.version = 32;
        if (k == 1) less.textureSide = 1024;
        if (k == 2) less.slices = 64;
        if (k == 3) less.units = 8;
        if (k == 4) less.frames = false;
        const auto made = SceneRenderer::create(false, less);
        REQUIRE_FALSE(made);
        CHECK(made.error().sentence().size() > 40);
    }
    DriverLimits small = real;
    small.textureSide = 2048;
    auto scene = SceneRenderer::create(false, small).take();
    const Level large = flatLevel(40, 2049), fits = flatLevel(40, 2048);
    const HeightPyramid ofLarge(large), ofFits(fits);
    Camera c;
    c.at = {0, 40, 0}, c.pitch = -60, c.width = 64, c.height = 48;
    scene->sync(large, ofLarge);
    scene->bring(c, {});
    REQUIRE(scene->trouble());
    CHECK(scene->trouble()->sentence().find("2048 samples a side, and the level has 40 x 2049") != std::string::npos);
    CHECK_FALSE(scene->drawable());
    CHECK_FALSE(scene->stale());
    // It goes on with one that fits.
    scene->sync(fits, ofFits);
    scene->bring(c, {});
    CHECK_FALSE(scene->trouble());
    CHECK(scene->drawable());
}
