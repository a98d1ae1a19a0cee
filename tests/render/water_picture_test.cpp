// Water as it is drawn: where it shows, how what lies below comes through, and what changes of it.
#include <cmath>

#include "base/maths.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/bake.h"
#include "render/memory.h"
#include "survey/pick.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// A hollow off the middle of oblong ground, with a ridge of one sample and lower ground beyond it that stays dry.
Level hollow() {
    Level l = flatLevel(131, 90, 2, 1.5);
    l.originX = 40, l.originZ = -200;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            double h = 6 + 0.3 * std::sin(c * 0.4) * std::cos(r * 0.3);
            const double away = std::hypot(c - 50.0, 1.3 * (r - 40.0));
            if (away < 25) h = std::min(h, 1 + away * away * 0.0085);
            if (c > 76 && c < 100 && r > 25 && r < 55) h = 0.5;  // beyond the ridge
            l.strata[0].heights.set(c, r, static_cast<float>(h));
        }
    return l;
}
uint32_t fill(Level& l, float height, WaterLook look = {}) {
    Pool p;
    p.name = "pond";
    p.x = l.originX + 50 * l.spacing, p.z = l.originZ + 40 * l.spacing;
    p.height = height;
    p.look = look;
    const auto id = addPool(l, p);
    REQUIRE(id);
    refillWater(l);
    return id.value();
}

Camera above(const Level& l, double height = 130) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = {l.originX + 62 * l.spacing, height, l.originZ + 40 * l.spacing + 0.01};
    c.pitch = -89.5;
    return c;
}

Shot draw(const Level& l, const Camera& c, const Sight& sight = {}, Finish finish = Finish::full) {
    const HeightPyramid pyramid(l);
    PixelRenderer& r = renderer();
    r.scene().sync(l, pyramid);
    r.scene().setShade({});
    return take(r, c, finish, sight);
}

int difference(const glm::ivec3& a, const glm::ivec3& b) {
    const glm::ivec3 d = glm::abs(a - b);
    return std::max({d.x, d.y, d.z});
}

}  // namespace

TEST_CASE("water shows exactly where it stands, to the pixel, and nowhere else", "[property]") {
    Level wet = hollow();
    const Level dry = wet;
    WaterLook look;
    look.clearness = 0.05f;  // murky, so that it hides what lies below
    look.foam = 0;
    fill(wet, 5, look);
    const HeightPyramid pyramid(wet);
    for (const Finish finish : {Finish::full, Finish::quick}) {
        const Camera camera = above(wet);
        const Shot a = draw(dry, camera, {}, finish), b = draw(wet, camera, {}, finish);
        int under = 0, beyond = 0, wrong = 0;
        for (int y = 4; y < kHeight - 4; y += 2)
            for (int x = 4; x < kWidth - 4; x += 2) {
                const auto at = pickGround(wet, pyramid, camera.ray(x + 0.5, y + 0.5));
                if (!at) continue;
                const double depth = depthAt(wet, at->x, at->z);
                // Near the outline a pixel may lie on either side, and wet ground above it is darkened.
                const bool near = std::abs(at->y - 5) < 0.45;
                if (depth > 0.4) ++under, wrong += difference(a.at(x, y), b.at(x, y)) < 8;
                else if (depth == 0 && !near) {
                    ++beyond;
                    bool close = false;  // the wet rim
                    for (int dz = -5; dz <= 5; ++dz)
                        for (int dx = -5; dx <= 5; ++dx) close = close || depthAt(wet, at->x + dx, at->z + dz) > 0;
                    wrong += !close && difference(a.at(x, y), b.at(x, y)) > 1;
                }
            }
        CHECK(under > 700);
        CHECK(beyond > 2000);
        CHECK(wrong <= under / 200);
    }
}

TEST_CASE("the deeper, the less of the bed comes through, and clear water shows more of it") {
    Level l = hollow();
    Level bright = l;
    bright.layers[0].colour = plainPicture(250, 90, 40);
    const auto through = [&](float clearness, double column) {
        WaterLook look;
        look.clearness = clearness, look.foam = 0, look.waves = 0;
        Level a = l, b = bright;
        fill(a, 5, look), fill(b, 5, look);
        Camera camera = above(l, 60);
        camera.at.x = l.originX + column * l.spacing;
        camera.at.z = l.originZ + 40 * l.spacing;
        return difference(draw(a, camera).at(kWidth / 2, kHeight / 2), draw(b, camera).at(kWidth / 2, kHeight / 2));
    };
    const int deepMurky = through(0.4f, 50), deepClear = through(8, 50), shallow = through(0.4f, 70.5);
    CHECK(deepMurky < 6);
    CHECK(deepClear > 3 * deepMurky + 10);
    CHECK(shallow > 3 * deepMurky + 10);
}

TEST_CASE("the overlay of depth shows metres, by the legend's colours") {
    Level l = hollow();
    fill(l, 5);
    const HeightPyramid pyramid(l);
    Sight sight;
    sight.overlay = Overlay::depth;
    const float deepest = deepestShown(l);
    CHECK(deepest == Approx(4).margin(0.01));
    CHECK(depthLineStep(4) == Approx(0.5));
    CHECK(depthLineStep(1) == Approx(0.1));
    CHECK(depthLineStep(40) == Approx(5));
    Camera camera = above(l, 65);
    camera.at.x = l.originX + 50 * l.spacing;
    const Shot shot = draw(l, camera, sight);
    int agree = 0, looked = 0;
    for (int y = 4; y < kHeight - 4; y += 3)
        for (int x = 4; x < kWidth - 4; x += 3) {
            const auto at = pickGround(l, pyramid, camera.ray(x + 0.5, y + 0.5));
            if (!at) continue;
            const double depth = depthAt(l, at->x, at->z), line = std::abs(std::remainder(depth, 0.5));
            if (depth < 0.2 || line < 0.215) continue;
            const glm::vec3 wanted = 255.f * overlayColour(Overlay::depth, static_cast<float>(depth) / deepest, 35);
            ++looked;
            agree += difference(shot.at(x, y), glm::ivec3(wanted)) < 12;
        }
    CHECK(looked > 200);
    CHECK(agree > 0.9 * looked);
}

TEST_CASE("what is drawn after a change of the water is what is drawn afresh") {
    Level l = hollow();
    const uint32_t id = fill(l, 3);
    const HeightPyramid pyramid(l);
    PixelRenderer& r = renderer();
    const Camera camera = above(l);
    r.scene().sync(l, pyramid);
    r.scene().setShade({});
    take(r, camera, Finish::full);
    for (const float height : {4.f, 5.f, 2.f}) {
        Level next = l;
        next.pool(id)->height = height;
        Change change;
        change.waters = true;
        change.water = refreshWater(next, change);
        r.scene().sync(next, pyramid, &change);
        const Shot grown = take(r, camera, Finish::full);
        Level other = flatLevel(9, 9);
        const HeightPyramid otherPyramid(other);
        r.scene().sync(other, otherPyramid);
        take(r, camera, Finish::full);
        CHECK((grown == draw(next, camera)));
        l = next;
        r.scene().sync(l, pyramid);
        take(r, camera, Finish::full);
    }
    // Without water nothing of it stays.
    Level none = l;
    none.pools.clear();
    refillWater(none);
    r.scene().sync(none, pyramid);
    const Shot drained = take(r, camera, Finish::full);
    CHECK((drained == draw(hollow(), camera)));
}

TEST_CASE("still water does not move, and running time moves it") {
    Level l = hollow();
    fill(l, 5);
    Camera camera = above(l, 9);
    camera.at.x = l.originX + 50 * l.spacing;
    camera.pitch = -40;
    Sight sight;
    const Shot a = draw(l, camera, sight), b = draw(l, camera, sight);
    CHECK((a == b));
    sight.waterTime = 0.7f;
    CHECK_FALSE((draw(l, camera, sight) == a));
}

TEST_CASE("a sea shows over what is no land, and its cut sides at the edge") {
    Level l = flatLevel(80, 60, 2);
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            l.strata[0].heights.set(c, r, 6 - static_cast<float>(std::hypot(c - 40, r - 30)) * 0.3f);
            if (c < 12) l.noLand.set(c, r, 255);
        }
    Camera camera;
    camera.width = kWidth, camera.height = kHeight;
    camera.at = {l.originX + 6, 40, l.originZ + 30};
    camera.pitch = -89;
    const Shot bare = draw(l, camera);
    Level sea = l;
    Pool p;
    p.name = "bay", p.sea = true, p.height = 1;
    p.x = l.originX + 1, p.z = l.originZ + 1;
    REQUIRE(addPool(sea, p));
    refillWater(sea);
    CHECK(sea.water.at(3, 30).wet());
    CHECK(difference(draw(sea, camera).at(kWidth / 2, kHeight / 2), bare.at(kWidth / 2, kHeight / 2)) > 20);
    // From the south, below the surface's height: the side of the sea before the level's edge.
    camera.at = {l.originX + 30, 0, l.originZ + l.depth() + 25};
    camera.pitch = 0;
    camera.yaw = 0;
    const Shot side = draw(sea, camera), without = draw(l, camera);
    int blue = 0;
    for (int y = 0; y < kHeight; ++y) blue += difference(side.at(kWidth / 2, y), without.at(kWidth / 2, y)) > 12;
    CHECK(blue > 4);
}

TEST_CASE("who dives sees the sky in a round window as wide as light bends, and water's own colour around it") {
    Level l = hollow();
    WaterLook look;
    look.waves = 0;
    look.clearness = 40;
    fill(l, 5, look);
    Camera c = above(l, 3);
    c.at.x = l.originX + 50 * l.spacing;  // over the deepest place, two metres under the surface
    c.pitch = 89.9;
    c.fieldOfView = 110;
    Sight sight;
    sight.under = {look.clearness, 2, look.colour};
    const Finish finish = GENERATE(Finish::full, Finish::quick);
    const Shot up = draw(l, c, sight, finish);
    // The window ends where light that comes in flat is bent to: by Snell, at asin(1 / 1.333) off the vertical.
    const double edge = std::tan(std::asin(1 / 1.333)), perPixel = std::tan(c.fieldOfView * kRadians / 2) * 2 / kHeight;
    const glm::ivec3 around = up.at(2, kHeight / 2);
    int inside = 0, outside = 0;
    for (int y = 2; y < kHeight; y += 3)
        for (int x = 2; x < kWidth; x += 3) {
            const double away = perPixel * std::hypot(x + 0.5 - kWidth / 2.0, y + 0.5 - kHeight / 2.0);
            INFO(x << " " << y << " at " << away << ", edge " << edge);
            const int told = difference(up.at(x, y), around);
            if (away < 0.8 * edge) ++inside;
            if (away > 1.05 * edge) ++outside;
            REQUIRE((away > 0.8 * edge || told > 40));
            REQUIRE((away < 1.05 * edge || told < 12));
        }
    CHECK(inside > 500);
    CHECK(outside > 500);
}

TEST_CASE("ground beside water is baked alike in parts of any size") {
    Level l = hollow();
    fill(l, 5);
    const std::vector<MaterialMeans> means(l.layers.size());
    const BakeSource source(l, means, {}, {}, {});
    const Baked all = bake(source, l.bounds(), 1, true);
    for (int z = 0; z < l.rows; z += Baked::kBlock)
        for (int x = 0; x < l.columns; x += Baked::kBlock) {
            const Baked part = bake(source, Region{x, z, x + Baked::kBlock, z + Baked::kBlock}.clipped(l.bounds()), 1,
                                    true);
            for (int k = 0; k < part.region.depth(); ++k)
                for (int i = 0; i < part.region.width(); ++i) {
                    REQUIRE(part.lit.at(i, k) == all.lit.at(part.region.x0 + i, part.region.z0 + k));
                    REQUIRE(part.surface.at(i, k) == all.surface.at(part.region.x0 + i, part.region.z0 + k));
                }
        }
}

TEST_CASE("ground finer than half a metre takes no finer map of its light") {
    NewLevel wish;
    wish.columns = wish.rows = 2049;
    const auto at = [&](double spacing) {
        wish.spacing = spacing;
        return static_cast<double>(drawingMemory(wish, 4)) / (1 << 20);
    };
    // Four bytes a texel, and a third more.
    const double map = 2049.0 * 2049 * 16 / 3 / (1 << 20);
    CHECK(at(1) == at(0.5));
    CHECK(at(0.5) - at(0.25) == Approx(0.75 * map).epsilon(0.01));
    CHECK(at(0.5) - at(0.125) == Approx(0.9375 * map).epsilon(0.01));
}
