// What of a level is kept on the graphics side: brought up to date bit by bit, and near the eye only.
#include <catch2/catch.hpp>

#include <cmath>

#include "base/maths.h"
#include "course/bake.h"
#include "cover/paint.h"
#include "level/ground.h"
#include "level/rasters.h"
#include "levels.h"
#include "picture.h"
#include "render/navigator.h"
#include "render/relief.h"
#include "render/software/variant_queue.h"
#include "shape/raise.h"

using namespace jam;
using namespace jam::test;

namespace {

// The picture that a renderer gives which has forgotten what it knew of the level.
Shot afresh(const Level& level, const Camera& camera, Finish finish, const Sight& sight = {}) {
    const HeightPyramid pyramid(level);
    static std::unique_ptr<PixelRenderer> own;  // another one, because shaders take long to compile
    if (!own) own = PixelRenderer::create().take();
    const Level other = flatLevel(33, 33);
    const HeightPyramid otherPyramid(other);
    own->scene().sync(other, otherPyramid);
    own->scene().sync(level, pyramid);
    return take(*own, camera, finish, sight);
}

}  // namespace

TEST_CASE("each raster of a level that shows something is uploaded when it changes", "[property]") {
    PixelRenderer& r = renderer();
    Level start = lopsidedLevel();
    start.layers.resize(5);  // enough, and quicker
    Course lane;
    for (const double x : {0.25, 0.5, 0.7})
        lane.posts.push_back({start.originX + x * start.width(), start.originZ + 0.6 * start.depth(), 9.f, 8, 12, 0});
    addCourse(start, "lane", lane);
    const Camera camera = slanting(start, start.originX + start.width() * 0.4, start.originZ + start.depth() * 0.8, 30,
                                   -35);
    const HeightPyramid before(start);
    r.scene().sync(start, before);
    const Shot was = take(r, camera, Finish::full);
    for (size_t n = 0;; ++n) {
        Level level = start;
        r.scene().sync(level, before);
        r.scene().bring(camera, {});
        // Something else in every tile of the n-th raster.
        size_t i = 0;
        bool found = false;
        Shows shows = Shows::nothing;
        std::string name;
        eachRaster(level, [&](const auto& kind, auto&, uint32_t, auto& grid) {
            if (grid.columns() == 0 || i++ != n) return;  // not there, as what strata own
            found = true;
            shows = kind.shows;
            name = kind.name;
            for (int z = 3; z < grid.rows(); z += 7)
                for (int x = 2; x < grid.columns(); x += 7) {
                    auto v = grid.at(x, z);
                    if constexpr (std::is_same_v<decltype(v), Wash>) v = {65535, 0, 40000, 60000};
                    else if constexpr (std::is_same_v<decltype(v), Wet>) v = {1e3f, start.pools[0].id};
                    else if constexpr (std::is_same_v<decltype(v), float>)
                        v += std::string_view(kind.name) == "owned" ? 0.4f : 1.5f;
                    else v = static_cast<uint16_t>(65535 - v);
                    grid.set(x, z, v);
                }
        });
        if (!found) break;
        INFO(n << " " << name);
        const HeightPyramid pyramid(level);
        const Change change = changesBetween(level, start);
        r.scene().sync(level, pyramid, &change);
        const Shot grown = take(r, camera, Finish::full);
        CHECK((grown == afresh(level, camera, Finish::full)));
        if (shows == Shows::ground || shows == Shows::wash || shows == Shows::water) CHECK_FALSE((grown == was));
        if (shows == Shows::nothing) CHECK((grown == was));
    }
}

TEST_CASE("under a hand that sculpts, ground shows what was painted or looks otherwise in between", "[property]") {
    PixelRenderer& r = renderer();
    Level level = lopsidedLevel();
    level.layers.resize(5);  // enough, and quicker
    level.layers[0].colour = stripes();
    HeightPyramid pyramid(level);
    const double x = level.originX + level.width() * 0.4, z = level.originZ + level.depth() * 0.5;
    const Camera camera = slanting(level, x, z, 150, -80);
    const Dab dab = dabOn(level, x, z, 14, {}, 1);
    r.scene().sync(level, pyramid);
    r.scene().bring(camera, {});
    Sight sight;
    const auto sculpt = [&] {
        Change change;
        change.ground = raiseGround(level, dab, 0.7f);
        pyramid.update(level, change.ground);
        r.scene().sync(level, pyramid, &change);
        return take(r, camera, Finish::quick, sight);
    };
    const std::vector<std::pair<const char*, std::function<Change()>>> between{
        {"paint",
         [&] {
             Change c;
             c.cover = paintLayer(level, dabOn(level, x, z, 14, {}, level.coverFactor), 0.8f, level.layers[3].id, 1);
             return c;
         }},
        {"wash",
         [&] {
             Change c;
             c.wash.add(level.bounds());
             for (int k = 0; k < level.rows; ++k) level.wash.set(k % level.columns, k, {65535, 0, 40000, 60000});
             return c;
         }},
        {"tint", [&] { return level.layers[0].look.brightness = 1.6f, Change{}; }},
        {"size", [&] { return level.layers[0].tileSize *= 1.7f, Change{}; }},
        {"order", [&] { return std::swap(level.layers[1], level.layers[3]), Change{}; }},
        {"one tone", [&] { return sight.relief.oneTone = true, Change{}; }},
        {"and back", [&] { return sight.relief.oneTone = false, Change{}; }}};
    for (const auto& [name, change] : between) {
        INFO(name);
        const Shot before = sculpt();
        const Change made = change();
        r.scene().sync(level, pyramid, made.samples() ? &made : nullptr);
        CHECK_FALSE((take(r, camera, Finish::quick, sight) == before));
        const Shot seen = sculpt();
        CHECK((seen == afresh(level, camera, Finish::quick, sight)));
    }
}

TEST_CASE("a level wider than the window round the eye is drawn alike wherever one comes from", "[property]") {
    // The window holds 384 x 384 samples at most: it scrolls both ways, or along one side only.
    const auto [columns, rows] = GENERATE(std::pair(700, 420), std::pair(200, 650));
    const Level level = hillyLevel(columns, rows, 5, 4);
    const HeightPyramid pyramid(level);
    Sight sight;
    sight.liveMetres = 120;
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    Random random(31);
    for (int round = 0; round < 9; ++round) {
        const double x = level.originX + between(random, 0, 1) * level.width(),
                     z = level.originZ + between(random, 0, 1) * level.depth();
        Camera camera = slanting(level, x, z, between(random, 2, 60), between(random, -60, -5));
        camera.yaw = between(random, 0, 360);
        INFO(round << " at " << x << ", " << z);
        const Shot scrolled = take(r, camera, Finish::full, sight);
        REQUIRE((scrolled == afresh(level, camera, Finish::full, sight)));
        CHECK((take(r, camera, Finish::quick, sight) == afresh(level, camera, Finish::quick, sight)));
    }
}

TEST_CASE("a picture is complete once all is brought, and is not drawn again and again", "[property]") {
    // The farther ground is drawn live, the larger are the patches that stick out of the window there.
    const Level level = hillyLevel(1500, 1400, 5, 4);
    const HeightPyramid pyramid(level);
    Sight sight;
    sight.liveMetres = GENERATE(120.f, 450.f);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    Random random(32);
    for (int round = 0; round < 12; ++round) {
        // In any tile, looking along the rows and columns, where patches lie side by side with the window's border.
        const double x = level.originX + 64 * wholeBetween(random, 2, 20) + between(random, 1, 63),
                     z = level.originZ + 64 * wholeBetween(random, 2, 19) + between(random, 1, 63);
        Camera camera = slanting(level, x, z, 30, between(random, -20, -5));
        camera.yaw = 90 * (round % 4) + between(random, -10, 10);
        const Shot scrolled = take(r, camera, Finish::full, sight);
        INFO(sight.liveMetres << " m, " << round << " at " << x << ", " << z);
        while (r.scene().stale()) r.scene().bring(camera, sight, 100);
        CHECK(r.draw(camera, sight, Finish::full));
        // What the window held before is not seen, in patches that it holds a part of either.
        if (round < 3) CHECK((scrolled == afresh(level, camera, Finish::full, sight)));
    }
}

TEST_CASE("brought bit by bit, with edits in between, a level is drawn as if it had come at once", "[property]") {
    Level level = hillyLevel(390, 260, 6, 5);
    HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    const Level other = flatLevel(33, 33);
    const HeightPyramid otherPyramid(other);
    r.scene().sync(other, otherPyramid);
    r.scene().sync(level, pyramid);
    const Camera camera = slanting(level, level.originX + 60, level.originZ + 200, 25, -25);
    Sight sight;
    sight.relief.lift = GENERATE(0.f, 0.8f);
    CHECK_FALSE(r.scene().drawable());
    CHECK(r.scene().stale());
    Random random(7);
    bool wasDrawable = false;
    int steps = 0, made = 0;
    for (; r.scene().stale() && steps < 5000; ++steps) {
        const bool couldDraw = r.scene().drawable();
        const TileSet brought = r.scene().bring(camera, sight, 0);
        // Before, some steps only make room, or bring the layers' pictures; and then some for near ground.
        made += couldDraw && brought.empty();
        wasDrawable |= r.scene().drawable() && r.scene().stale();
        if (steps % 9 == 5 && steps < 60) {
            const Dab dab = dabOn(level, between(random, -150, 150), between(random, -100, 100), 12, {}, 1);
            Change change;
            change.ground = raiseGround(level, dab, 4);
            pyramid.update(level, change.ground);
            r.scene().sync(level, pyramid, &change);
        }
        if (steps == 20) level.sun.azimuth += 70, r.scene().sync(level, pyramid);
    }
    CHECK(steps < 5000);
    CHECK(made <= 4);
    CHECK(wasDrawable);  // long before all is there
    CHECK((take(r, camera, Finish::full, sight) == afresh(level, camera, Finish::full, sight)));
    CHECK((take(r, camera, Finish::quick, sight) == afresh(level, camera, Finish::quick, sight)));
    // A step with a sheer edge shows as far as relief reaches, also where all was there before.
    const Dab sheer = dabOn(level, level.originX + 64, level.originZ + 170, 9, {Curve::smooth, 0}, 1);
    Change change;
    change.ground = raiseGround(level, sheer, 6);
    pyramid.update(level, change.ground);
    r.scene().sync(level, pyramid, &change);
    CHECK((take(r, camera, Finish::full, sight) == afresh(level, camera, Finish::full, sight)));
}

TEST_CASE("relief brightens crests and slopes towards its lights, darkens the others, and leaves even ground") {
    const Level level = flatLevel(65, 65, 1, 0.5);
    const ReliefLook look{0.8f, false};
    const double azimuth = 230;
    const Relief relief(level, look, azimuth);
    const int reach = relief.reach(), side = 2 * reach + 1;
    const auto middle = [&](const Relief& of, const Raster<float>& heights) {
        std::vector<float> light{1};
        of.multiply(heights.view(), reach, reach, 1, light);
        return light.front();
    };
    const auto shaded = [&](const std::function<double(double, double)>& heightAt) {
        Raster<float> h(side, side);
        for (int z = 0; z < side; ++z)
            for (int x = 0; x < side; ++x)
                h.at(x, z) = static_cast<float>(heightAt((x - reach) * 0.5, (z - reach) * 0.5));
        return middle(relief, h);
    };
    CHECK(shaded([](double, double) { return 7; }) == 1);
    CHECK(shaded([](double x, double z) { return -0.02 * (x * x + z * z); }) > 1.1f);
    CHECK(shaded([](double x, double z) { return 0.02 * (x * x + z * z); }) < 0.9f);
    // A slope that falls towards the sun, one that falls away from it, and both across.
    const auto slope = [&](double turn) {
        const double a = (azimuth + turn) * kRadians, east = std::sin(a), south = -std::cos(a);
        return shaded([=](double x, double z) { return -0.1 * (x * east + z * south); });
    };
    CHECK(slope(0) > 1.1f);
    CHECK(slope(180) < 0.9f);
    CHECK(std::abs(slope(90) - slope(-90)) > 0.05f);
    // More lift, more relief; none, none.
    const auto bump = [](double x, double z) { return -0.02 * (x * x + z * z); };
    Raster<float> h(side, side);
    for (int z = 0; z < side; ++z)
        for (int x = 0; x < side; ++x) h.at(x, z) = static_cast<float>(bump((x - reach) * 0.5, (z - reach) * 0.5));
    CHECK(middle(Relief(level, {0.3f, false}, azimuth), h) < middle(relief, h));
    CHECK(middle(Relief(level, {0, false}, azimuth), h) == 1);
}

TEST_CASE("levels of every small size are drawn, changed and drawn again", "[property]") {
    PixelRenderer& r = renderer();
    for (const auto& [columns, rows] : {std::pair(2, 2), {5, 3}, {2, 40}, {16, 16}, {17, 9}, {65, 2}}) {
        INFO(columns << " x " << rows);
        Level level = hillyLevel(columns, rows, 3, 2);
        HeightPyramid pyramid(level);
        r.scene().sync(level, pyramid);
        const Camera camera = slanting(level, 0, 0, 12, -70);
        take(r, camera, Finish::full);
        Change change;
        change.ground = raiseGround(level, dabOn(level, 0, 0, 3, {}, 1), 2);
        pyramid.update(level, change.ground);
        r.scene().sync(level, pyramid, &change);
        CHECK((take(r, camera, Finish::full) == afresh(level, camera, Finish::full)));
        CHECK((take(r, camera, Finish::quick) == afresh(level, camera, Finish::quick)));
    }
}

TEST_CASE("what the hand does is brought before what waits far away") {
    Level level = hillyLevel(700, 700, 3, 2);
    HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    const Camera camera = slanting(level, level.originX + 30, level.originZ + 30, 40, -30);
    r.scene().bring(camera, {});
    level.sun.azimuth += 40;  // all of the lit map waits
    r.scene().sync(level, pyramid);
    Change change;
    change.ground = raiseGround(level, dabOn(level, level.originX + 600, level.originZ + 600, 10, {}, 1), 4);
    pyramid.update(level, change.ground);
    r.scene().sync(level, pyramid, &change);
    r.scene().bring(camera, {}, 0);
    CHECK(r.scene().stale());
    const Camera there = slanting(level, level.originX + 600, level.originZ + 600, 8, -89.9);
    CHECK(r.draw(there, {}, Finish::full));  // nothing in sight is stale
}

TEST_CASE("the lit map of a very long level lies where the ground does") {
    // So long that the lit map has a texel for every second sample only.
    Level level = flatLevel(4401, 66, 0);
    level.layers.clear();
    level.originX = -1200;
    addLayer(level, plainLayer("dark", 20, 20, 20));
    addLayer(level, plainLayer("white", 250, 250, 250));
    Layer& white = level.layers.back();
    for (int z = 20; z < 40; ++z)
        for (int x = 3001; x < 3031; ++x) white.coverage.set(x, z, kFullCover);
    const double x = level.originX + 3015.5, z = level.originZ + 29.5;
    Camera camera = slanting(level, x, z, 60, -89.9);
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    Sight far;
    far.liveMetres = 0;
    const Shot shot = take(r, camera, Finish::full, far);
    double sumX = 0, sumY = 0, count = 0;
    for (int y = kHeight / 2 - 50; y < kHeight / 2 + 50; ++y)
        for (int px = kWidth / 2 - 80; px < kWidth / 2 + 80; ++px)
            if (shot.at(px, y).y > 120) sumX += px, sumY += y, ++count;
    REQUIRE(count > 500);
    const auto middle = camera.pixel({x, altitudeAt(level, x, z), z});
    CHECK(std::abs(sumX / count - middle->x) < 2.5);
    CHECK(std::abs(sumY / count - middle->y) < 2.5);
}

TEST_CASE("the first use of any look or overlay waits for no shader", "[property]") {
    renderer();  // opens the context
    std::unique_ptr<PixelRenderer> r = PixelRenderer::create().take();
    const auto variants = std::make_shared<VariantQueue>();
    r->setQueues(variants, nullptr);
    Level level = lopsidedLevel();
    const HeightPyramid pyramid(level);
    const Camera camera = slanting(level, level.originX + level.width() * 0.4, level.originZ + level.depth() * 0.8, 12,
                                   -30);
    std::vector<std::pair<std::string, std::function<void(Sight&, Level&)>>> uses = {
        {"contours", [](Sight& s, Level&) { s.contours = true; }},
        {"grid", [](Sight& s, Level&) { s.grid = true; }},
        {"mesh", [](Sight& s, Level&) { s.mesh = true; }},
        {"from above alone", [](Sight&, Level& l) { l.layers[1].sides = false; }},
        {"pieces", [](Sight&, Level& l) { l.layers[0].look.tiling = Tiling::broken; }},
        {"second scale", [](Sight&, Level& l) { l.layers[0].look.farTimes = 5; }},
        {"variation", [](Sight&, Level& l) { l.layers[2].look.variation = 0.4f; }}};
    for (int o = 0; o <= static_cast<int>(Overlay::stretch); ++o)
        uses.emplace_back("overlay " + std::to_string(o),
                          [o](Sight& s, Level&) { s.overlay = static_cast<Overlay>(o); });
    const auto see = [&](const std::function<void(Sight&, Level&)>& use) {
        Sight sight;
        Level seen = level;
        use(sight, seen);
        r->scene().sync(seen, pyramid);
        r->scene().bring(camera, sight);
        return sight;
    };
    const size_t atStart = r->scene().shaders();
    size_t plainer = 0;
    for (const auto& [name, use] : uses) {
        INFO(name);
        const Sight sight = see(use);
        // Nothing is ready: something plainer is drawn, and nothing is compiled.
        plainer += !r->draw(camera, sight, Finish::full);
        r->draw(camera, sight, Finish::quick);
        CHECK(r->scene().shaders() == atStart);
    }
    CHECK(plainer == uses.size());
    // What was asked for is what is needed: when that is ready, all is drawn as it should be.
    const Variant last{1u << 30, {}};
    variants->wantLater(last);
    const std::unique_ptr<PixelRenderer> maker = PixelRenderer::create().take();
    Target target;
    const Level small = flatLevel(9, 9);
    const HeightPyramid smallPyramid(small);
    maker->scene().sync(small, smallPyramid);
    for (auto wanted = variants->next(); *wanted != last; wanted = variants->next()) {
        // The kinds of the textures that it reads belong to it: for others drivers would compile anew.
        CHECK(wanted->textures[0].format != 0);
        CHECK((wanted->textures[9].format == 0 || wanted->textures[9].target != 0));
        maker->scene().makeVariant(target, *wanted);
        CHECK(maker->scene().triangles() > 0);  // a driver compiles nothing for an empty picture
        variants->done(*wanted);
    }
    CHECK(maker->scene().shaders() >= r->scene().shaders());
    for (const auto& [name, use] : uses) {
        INFO(name);
        const Sight sight = see(use);
        // One more in every picture, so that none waits for many.
        for (const Finish f : {Finish::full, Finish::quick}) {
            int pictures = 0;
            for (bool complete = false; !complete && pictures < 10; ++pictures) {
                const size_t had = r->scene().shaders();
                complete = r->draw(camera, sight, f);
                CHECK(r->scene().shaders() <= had + 1);
            }
            CHECK(pictures < 10);
        }
    }
    CHECK(r->scene().shaders() > atStart);
}
