// How layers blend and what overlays show, in pixels, beside what the processor works out.
#include <catch2/catch.hpp>

#include <cmath>
#include <functional>
#include <glm/geometric.hpp>
#include <set>

#include "base/noise.h"
#include "cover/lay.h"
#include "cover/paint.h"
#include "cover/wash.h"
#include "cover/weights.h"
#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "pictures/material.h"
#include "render/light.h"
#include "render/navigator.h"
#include "render/software/pixel_renderer.h"
#include "survey/pick.h"
#include "survey/slope.h"
#include "survey/stretch.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("overlays agree with their legends and with the survey") {
    Level level = flatLevel(129, 129);
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, c < 64 ? 0.f : static_cast<float>(c - 64) * 0.7f);
    Sight look;
    look.overlay = Overlay::steepness;
    const auto nearTo = [](glm::ivec3 shown, glm::vec3 wanted) {
        // Relief shades the colour; its hue stays.
        const glm::vec3 a = glm::normalize(glm::vec3(shown)), b = glm::normalize(wanted);
        return glm::dot(a, b) > 0.985f;
    };
    PixelRenderer& r = renderer();
    for (const Finish finish : {Finish::quick, Finish::full}) {
        look.overlay = Overlay::steepness;
        look.walkable = 30;
        CHECK(nearTo(take(level, lookDown(level, 40, -32, 0), finish, look).at(kWidth / 2, kHeight / 2),
                     overlayColour(Overlay::steepness, 0, 30)));
        CHECK(nearTo(take(level, lookDown(level, 40, 32, 0), finish, look).at(kWidth / 2, kHeight / 2),
                     overlayColour(Overlay::steepness, 35.0f / 90, 30)));
        look.walkable = 40;
        CHECK(nearTo(take(level, lookDown(level, 40, 32, 0), finish, look).at(kWidth / 2, kHeight / 2),
                     overlayColour(Overlay::steepness, 35.0f / 90, 40)));
        look.overlay = Overlay::coverage;
        look.soloLayer = 0;
        CHECK(nearTo(take(level, lookDown(level, 40, -32, 0), finish, look).at(kWidth / 2, kHeight / 2),
                     overlayColour(Overlay::coverage, 1, 30)));
    }
    CHECK(r.scene().triangles() > 0);
}

namespace {

// A picture of fractal noise with bright spots, repeatable; `seed` makes another.
Layer patterned(uint32_t seed, double tileSize) {
    Pixels p{64, 64, 3, 8, {}};
    for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 64; ++x)
            for (int c = 0; c < 3; ++c) {
                const float n = fractalNoise(static_cast<float>(x) / 8, static_cast<float>(y) / 8,
                                             seed + static_cast<uint32_t>(c) * 7, 2, 0.5f, 8);
                p.samples.push_back(static_cast<uint16_t>(
                    std::clamp(120 + 40 * c + 70 * n + (std::hypot(x - 20, y - 40) < 9 ? 60 : 0), 5.f, 250.f)));
            }
    auto picture = std::make_shared<PictureFile>();
    picture->name = "pattern.png";
    picture->bytes = encodePng(p, 1);
    Layer layer = dullLayer(0, 0, 0);
    layer.name = "pattern " + std::to_string(seed);
    layer.colour = picture;
    layer.normal = plainPicture(128, 128, 255);  // no relief: only colour is compared
    layer.tileSize = tileSize;
    return layer;
}

// What the shader should show at a place on flat ground under flat light, worked out in double on the processor.
glm::dvec3 reference(const Level& level, const std::vector<Material>& materials, double x, double z, double away) {
    const auto mix = mixAt(level, x, z);
    const float wander = wanderAt(x, z);
    const Wash wash = level.wash.at(static_cast<int>(std::lround(level.toColumn(x))),
                                    static_cast<int>(std::lround(level.toRow(z))));
    const std::array<float, 3> painted = washLight(wash);
    double sum = 0;
    glm::dvec3 albedo(0);
    for (size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& l = level.layers[i];
        const Laid laid = laidAt(materials[i], l, x, z, away);
        double met = 0, total = 1e-4;
        for (size_t k = 0; k < level.layers.size(); ++k) {
            if (k == i) continue;
            met += mix[k] * blendBetween(level, l, level.layers[k]);
            total += mix[k];
        }
        bool paired = false;
        for (const BlendPair& p : level.pairs) paired |= p.one == l.id || p.other == l.id;
        const double own = l.blend, share = std::min(total * 100, 1.0),
                     sharp = paired ? own + (met / total - own) * share : own;
        const double weight = mix[i] * std::exp2(10 * sharp * (laid[3] - materials[i].meanStored[3]));
        const auto colour = shownColour(l.look, laid, wander);
        const auto tint = tintOf(l.look);
        const auto luminance = [](double r, double g, double b) { return 0.2126 * r + 0.7152 * g + 0.0722 * b; };
        const auto mean = [&](size_t c) {
            return static_cast<double>(materials[i].meanStored[c]) * materials[i].meanStored[c] * tint[c];
        };
        const double grain = std::min(
            luminance(colour[0], colour[1], colour[2]) / std::max(luminance(mean(0), mean(1), mean(2)), 1e-3), 2.0);
        const double washed = wash.strength / 65535.0 * l.look.wash;
        for (int c = 0; c < 3; ++c) {
            const auto k = static_cast<size_t>(c);
            albedo[c] += weight * (colour[k] + (painted[k] * grain - colour[k]) * washed);
        }
        sum += weight;
    }
    const LightLook light = lightLook(level.sun, true);
    const auto keep = static_cast<float>(std::lround(unevenness(x, z) * 255)) / 255;
    const glm::vec3 lit = litColour(light, glm::vec3(albedo / sum), {0, 1, 0}, keep, keep);
    const auto shown = [](float v) { return 255 * std::pow(1 - std::exp(-1.35 * v), 1 / 2.2); };
    return {shown(lit.x), shown(lit.y), shown(lit.z)};
}

}  // namespace

TEST_CASE("the shader blends layers as the processor does, to within 2 of 255", "[property]") {
    // Two samples a metre everywhere, so that unevenness between samples stays small; painted at random.
    Level level = flatLevel(65, 65, 0, 2);
    for (uint32_t i = 0; i < 4; ++i) addLayer(level, patterned(11 * i + 3, 20.0 + 5 * i));
    Random random(6);
    for (size_t i = 1; i < 4; ++i) {
        const Dab dab = dabOn(level, between(random, -6, 6), between(random, -6, 6), 14, {Curve::smooth, 1}, 1);
        paintLayer(level, dab, 0.8f, level.layers[i].id, 1);
    }
    struct Case {
        const char* what;
        std::function<void(Level&)> set;
    };
    const Case cases[] = {{"plain", [](Level&) {}},
                          {"turned, moved, tinted",
                           [](Level& l) {
                               l.layers[1].look.turn = 37, l.layers[2].look.offsetX = 1.3f,
                               l.layers[0].look.tint = {1, 0.6f, 0.4f}, l.layers[0].look.brightness = 1.4f;
                           }},
                          {"broken",
                           [](Level& l) {
                               for (Layer& x : l.layers) x.look.tiling = Tiling::broken;
                           }},
                          {"one of them broken", [](Level& l) { l.layers[2].look.tiling = Tiling::broken; }},
                          {"second scale",
                           [](Level& l) {
                               l.layers[0].look.farTimes = 5, l.layers[0].look.farFrom = 4,
                               l.layers[1].look.farTimes = 3, l.layers[1].look.farFrom = 2;
                           }},
                          {"wandering",
                           [](Level& l) {
                               for (Layer& x : l.layers) x.look.variation = 0.5f;
                           }},
                          {"pairs",
                           [](Level& l) {
                               setBlendBetween(l, l.layers[0].id, l.layers[1].id, 0.6f),
                                   setBlendBetween(l, l.layers[1].id, l.layers[2].id, 0);
                           }},
                          {"washed", [](Level& l) {
                               for (int r = 0; r < 65; ++r)
                                   for (int c = 0; c < 65; ++c) l.wash.set(c, r, {60000, 30000, 8000, 40000});
                               l.layers[1].look.wash = 0.3f;
                           }}};
    PixelRenderer& r = renderer();
    for (const Case& k : cases) {
        INFO(k.what);
        Level now = level;
        k.set(now);
        std::vector<Material> materials;
        for (const Layer& l : now.layers) materials.push_back(makeMaterial(l, 512).take());
        const Camera camera = lookDown(now, 5.5, 0.7, 0.4);  // a pixel spans less than one of the pictures'
        const HeightPyramid pyramid(now);
        r.scene().sync(now, pyramid);
        r.scene().setFlatLight(true);
        const Shot shot = take(r, camera, Finish::full);
        r.scene().setFlatLight(false);
        int worst = 0, checked = 0;
        for (int i = 0; i < 400; ++i) {
            const int px = wholeBetween(random, 20, kWidth - 20), py = wholeBetween(random, 20, kHeight - 20);
            const Ray ray = camera.ray(px + 0.5, py + 0.5);
            const double t = -(camera.at.y - altitudeAt(now, 0, 0)) / ray.along.y;
            const glm::dvec3 place = camera.at + ray.along * t;
            const glm::dvec3 wanted = reference(now, materials, place.x, place.z, t);
            const glm::ivec3 got = shot.at(px, py);
            int off = 0;
            for (int c = 0; c < 3; ++c) off = std::max(off, static_cast<int>(std::floor(std::abs(got[c] - wanted[c]))));
            worst = std::max(worst, off);
            ++checked;
        }
        CHECK(checked == 400);
        CHECK(worst <= 2);
    }
}

TEST_CASE("twelve and sixteen layers in one patch, with pairs of different blends, are blended as on the processor",
          "[property]") {
    Random random(16);
    for (const int count : {12, 16}) {
        Level level = flatLevel(65, 49, 0, 2);
        level.originX = 400, level.originZ = -150;
        for (int i = 0; i < count; ++i) {
            Layer l = patterned(static_cast<uint32_t>(7 * i + 1), 18.0 + 3 * i);
            l.blend = static_cast<float>(i % 5) / 8;  // sharper ones make much of the last bit of a weight
            l.look.tint = {1, 0.5f + 0.03f * static_cast<float>(i), 0.4f + 0.6f * static_cast<float>(i % 2)};
            addLayer(level, std::move(l));
        }
        for (size_t i = 1; i < level.layers.size(); ++i) {
            const Dab dab = dabOn(level, 464 + between(random, -8, 8), -102 + between(random, -8, 8), 12,
                                  {Curve::smooth, 1}, 1);
            paintLayer(level, dab, 0.5f, level.layers[i].id, 1);
        }
        for (size_t i = 0; i + 1 < level.layers.size(); i += 2)
            setBlendBetween(level, level.layers[i].id, level.layers[i + 1].id, static_cast<float>(i % 4) / 6);
        std::vector<Material> materials;
        for (const Layer& l : level.layers) materials.push_back(makeMaterial(l, 512).take());
        const Camera camera = lookDown(level, 5.5, 464.7, -101.6);
        const HeightPyramid pyramid(level);
        PixelRenderer& r = renderer();
        r.scene().sync(level, pyramid);
        r.scene().setFlatLight(true);
        const Shot shot = take(r, camera, Finish::full);
        r.scene().setFlatLight(false);
        int worst = 0;
        for (int i = 0; i < 300; ++i) {
            const int px = wholeBetween(random, 20, kWidth - 20), py = wholeBetween(random, 20, kHeight - 20);
            const Ray ray = camera.ray(px + 0.5, py + 0.5);
            const double t = -camera.at.y / ray.along.y;
            const glm::dvec3 place = camera.at + ray.along * t;
            const glm::dvec3 wanted = reference(level, materials, place.x, place.z, t);
            for (int c = 0; c < 3; ++c)
                worst = std::max(worst, static_cast<int>(std::floor(std::abs(shot.at(px, py)[c] - wanted[c]))));
        }
        INFO(count << " layers");
        CHECK(worst <= 4);  // each layer adds the rounding of its weight
        // Every layer is among what is seen.
        const auto mix = mixAt(level, 464.7, -101.6);
        CHECK(std::count_if(mix.begin(), mix.begin() + count, [](float m) { return m > 0.002f; }) >= count - 3);
    }
}

TEST_CASE("broken tiling takes the repeat out of the picture and keeps its contrast") {
    Level level = flatLevel(129, 129, 0, 2);
    addLayer(level, patterned(5, 6));
    PixelRenderer& r = renderer();
    const Camera camera = lookDown(level, 60);
    // Light of the pixels, and the same one repeat further east.
    const auto measure = [&](Tiling tiling) {
        level.layers[0].look.tiling = tiling;
        const HeightPyramid pyramid(level);
        r.scene().sync(level, pyramid);
        r.scene().setFlatLight(true);
        const Shot shot = take(r, camera, Finish::full);
        r.scene().setFlatLight(false);
        const auto a = camera.pixel({0, 2, 0}), b = camera.pixel({6, 2, 0});
        const int step = static_cast<int>(std::lround(b->x - a->x));
        std::vector<float> here, there;
        double sum = 0, squares = 0;
        for (int y = 20; y < kHeight - 20; ++y)
            for (int x = 20; x < kWidth - 20 - step; ++x) {
                here.push_back(static_cast<float>(shot.at(x, y).y));
                there.push_back(static_cast<float>(shot.at(x + step, y).y));
                sum += here.back();
                squares += here.back() * here.back();
            }
        const double n = static_cast<double>(here.size()), mean = sum / n;
        return std::pair{likeness(here, there), std::sqrt(squares / n - mean * mean)};
    };
    const auto [plain, plainSpread] = measure(Tiling::plain);
    const auto [broken, brokenSpread] = measure(Tiling::broken);
    CHECK(plain > 0.6);
    CHECK(std::abs(broken) < 0.2);
    CHECK(brokenSpread == Approx(plainSpread).epsilon(0.25));
}

TEST_CASE("the stretch overlay shows what the survey measures") {
    Level level = flatLevel(129, 129, 0);
    addLayer(level, dullLayer(120, 120, 120));
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, c < 64 ? 0.f : static_cast<float>(c - 64) * 1.2f);
    Sight look;
    look.overlay = Overlay::stretch;
    for (const bool sides : {true, false}) {
        level.layers[0].sides = sides;
        Raster<float> stretch(1, 1);
        readStretch(level, {96, 64, 97, 65}, stretch.view());
        // Laid from above 1.2 m a metre draws out to 156 %; from three sides less.
        CHECK(stretch.at(0, 0) ==
              Approx(sides ? (1.728 + 1) * std::sqrt(2.44) / (2.0736 + 1) - 1 : std::sqrt(2.44) - 1).margin(0.01));
        for (const Finish finish : {Finish::quick, Finish::full}) {
            const glm::vec3 wanted = overlayColour(Overlay::stretch, stretch.at(0, 0) / kStretchShown, 35);
            const glm::vec3 got(take(level, lookDown(level, 40, 32, 0), finish, look).at(kWidth / 2, kHeight / 2));
            CHECK(glm::dot(glm::normalize(got), glm::normalize(wanted)) > 0.985f);
        }
    }
    CHECK(stretchedShare(level, 0.5) == Approx(0.5).margin(0.02));
    level.layers[0].sides = true;
    CHECK(stretchedShare(level, 0.5) == 0);
}

namespace {

// Where along its scale an overlay stands at a place, by what the core knows of the ground. A new overlay belongs here.
float shareAt(Overlay overlay, const Level& level, const Sight& sight, double x, double z) {
    const auto height = [&](double dx, double dz) {
        return static_cast<float>(altitudeAt(level, x + dx * level.spacing, z + dz * level.spacing));
    };
    switch (overlay) {
        case Overlay::none: break;
        case Overlay::steepness: return static_cast<float>(slopeAt(level, x, z)) / 90;
        case Overlay::altitude: {
            const HeightSpan span = HeightPyramid(level).whole();
            const float band = (std::floor(height(0, 0) / sight.bandStep) + 0.5f) * sight.bandStep;
            return (band - span.low) / (span.high - span.low);
        }
        case Overlay::curvature: {
            const float bend = 4 * height(0, 0) - height(-1, 0) - height(1, 0) - height(0, -1) - height(0, 1);
            const auto area = static_cast<float>(level.spacing * level.spacing);
            return (bend / area / curvatureScale(level) + 1) / 2;
        }
        case Overlay::coverage: return mixAt(level, x, z)[static_cast<size_t>(sight.soloLayer)];
        case Overlay::stretch: {
            const int c = static_cast<int>(std::lround(level.toColumn(x))),
                      r = static_cast<int>(std::lround(level.toRow(z)));
            Raster<float> stretch(1, 1);
            readStretch(level, {c, r, c + 1, r + 1}, stretch.view());
            return stretch.at(0, 0) / kStretchShown;
        }
        case Overlay::depth: break;  // of the water and not of the ground: water_picture_test.cpp
        case Overlay::reach: break;  // walk_picture_test.cpp
    }
    return 0;
}

}  // namespace

TEST_CASE("every overlay shows at every place what the survey knows of it", "[property]") {
    const Level level = lopsidedLevel();
    const HeightPyramid pyramid(level);
    const double x = level.originX + 0.62 * level.width(), z = level.originZ + 0.4 * level.depth();
    Sight sight;
    sight.soloLayer = 3;
    sight.walkable = 28;
    sight.bandStep = 4;
    for (int which = 1; which <= static_cast<int>(Overlay::stretch); ++which)
        for (const Finish finish : {Finish::quick, Finish::full}) {
            sight.overlay = static_cast<Overlay>(which);
            const Camera camera = lookDown(level, 45, x, z);
            const Shot shot = take(level, camera, finish, sight);
            Random random(17);
            int agree = 0, looked = 0;
            std::set<int> colours;
            for (int i = 0; i < 500; ++i) {
                const int px = wholeBetween(random, 10, kWidth - 10), py = wholeBetween(random, 10, kHeight - 10);
                const auto place = pickGround(level, pyramid, camera.ray(px, py));
                if (!place) continue;
                const float share = shareAt(sight.overlay, level, sight, place->x, place->z);
                const glm::vec3 wanted = overlayColour(sight.overlay, share, sight.walkable), got(shot.at(px, py));
                ++looked;
                agree += glm::dot(glm::normalize(got), glm::normalize(wanted)) > 0.98f;
                colours.insert(static_cast<int>(share * 20));
            }
            INFO("overlay " << which << (finish == Finish::quick ? " quick" : " full"));
            CHECK(looked > 300);
            CHECK(colours.size() > 3);  // the ground has something to show
            CHECK(agree > 0.9 * looked);
        }
}
