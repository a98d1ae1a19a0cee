#include "mill_water.h"

#include <algorithm>
#include <cmath>

#include "course/bake.h"
#include "water/water.h"

namespace jam::samples {

namespace {

constexpr Place kPond{150, 318}, kDewPond{-318, 96};

const Path& stream() {
    static const Path path = curve({{420, -330},
                                    {350, -250},
                                    {330, -170},
                                    {278, -110},
                                    {262, -20},
                                    {292, 60},
                                    {262, 128},
                                    {214, 214},
                                    {186, 272},
                                    kPond});
    return path;
}

constexpr float kPondHeight = 12.4f;
// The valley's floor along the stream, from its spring to the pond.
float valleyFloor(size_t i) {
    const double t = static_cast<double>(i) / static_cast<double>(stream().size() - 1);
    return static_cast<float>(46 - 22 * std::min(t / 0.25, 1.0) - 8.5 * t);
}

}  // namespace

void shapeValley(Hand& hand) {
    for (int pass = 0; pass < 2; ++pass)
        for (size_t i = 0; i + 1 < stream().size(); ++i)
            hand.level({stream()[i], stream()[i + 1]}, pass ? 40 : 90, valleyFloor(i), pass ? 0.15f : 0.16f,
                       {Curve::bell, 1});
    hand.level(ring(kPond, 62, 0, 360), 36, kPondHeight + 2.2f, 0.16f, {Curve::smooth, 0.9f});
    hand.mound(kPond, 64, -5, {Curve::smooth, 0.7f});
    hand.mound({kPond.x - 26, kPond.z + 12}, 44, -2.5, {Curve::smooth, 0.8f});
    hand.mound({kPond.x + 22, kPond.z - 14}, 34, -2, {Curve::smooth, 0.8f});
    hand.smooth(ring(kPond, 52, 0, 360), 16, 0.3f, 0.2f);
    // A dew pond above the orchard, in a bank that only just holds it.
    hand.mound(kDewPond, 26, -3.4, {Curve::smooth, 0.7f});
}

void letWaterIn(Hand& hand) {
    Level& level = hand.level();
    Course bed;
    bed.use = CourseUse::carve;
    const auto post = [&](Place p, float height, float width) { bed.posts.push_back({p.x, p.z, height, width, 5, 0}); };
    const size_t n = stream().size();
    for (size_t i = 40; i + 24 < n; i += 22) {
        // Deeper where the valley is still shallow.
        post(stream()[i], valleyFloor(i) - (i < 80 ? 2.4f : 1.6f),
             1.6f + 1.2f * static_cast<float>(i) / static_cast<float>(n));
    }
    post({196, 257}, kPondHeight + 1.9f, 3);
    post({192.5, 264}, kPondHeight + 1.8f, 3.4f);
    post({191.5, 266.4}, kPondHeight - 0.3f, 4);
    post({184, 282}, kPondHeight - 0.9f, 6);
    post({172, 298}, kPondHeight - 2, 8);
    Stream water;
    water.name = "Mill stream";
    water.depth = 0.45f;
    water.look = {{0.17f, 0.28f, 0.22f}, 1.6f, 0.03f, 1.4f, 0.25f, 0.12f};
    water.course = addCourse(level, "Stream bed", std::move(bed));
    Pool pond = poolStanding(level, kPond.x, kPond.z, kPondHeight).value();
    pond.name = "Mill pond";
    pond.look = {{0.10f, 0.25f, 0.22f}, 2.6f, 0.035f, 3, 0.12f, 0.22f};
    (void)addPool(level, std::move(pond));
    (void)addStream(level, std::move(water));
    refillWater(level);
}

uint32_t streamBed(const Level& level) {
    for (const Stratum& s : level.strata)
        if (s.name == "Stream bed") return s.id;
    return 0;
}

void fillDewPond(Level& level) {
    Result<Pool> dew = poolAt(level, kDewPond.x, kDewPond.z);
    if (!dew) return;
    dew.value().name = "Dew pond";
    dew.value().height -= 0.06f;
    dew.value().look = {{0.24f, 0.30f, 0.20f}, 1, 0.015f, 1.2f, 0.3f, 0};
    if (addPool(level, dew.take())) refillWater(level);
}

}  // namespace jam::samples
