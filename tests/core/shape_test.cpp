// The brushes that wear, step, roughen and restore, against slow oracles and by what must hold of them.
#include <catch2/catch.hpp>

#include <cmath>
#include <cstring>

#include "base/noise.h"
#include "base/parallel.h"
#include "level/ground.h"
#include "levels.h"
#include "oracles.h"
#include "shape/crumble.h"
#include "shape/even_out.h"
#include "shape/noise_ground.h"
#include "shape/rain_wash.h"
#include "shape/raise.h"
#include "shape/restore.h"
#include "shape/slope_limit.h"
#include "shape/smooth.h"
#include "shape/terrace.h"
#include "stroke/stroker.h"
#include "survey/slope.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

struct StampPlace {
    double x, z;
    float radius;
    Falloff falloff;
};

StampPlace randomSpot(Random& random, const Level& level, double most) {
    const auto place = [&](double size) { return std::round(between(random, -0.6, 0.6) * size * 256) / 256; };
    Falloff f{static_cast<Curve>(wholeBetween(random, 0, kCurves - 1)),
              static_cast<float>(between(random, 0, 1)),
              {0.7f, 0.2f}};
    return {place(level.width()), place(level.depth()), static_cast<float>(between(random, 1, most)), f};
}

Dab on(const Level& level, const StampPlace& s) { return dabOn(level, s.x, s.z, s.radius, s.falloff, 1); }

double sumOf(const Level& level) {
    const PlainGround g = plainGround(level);
    double sum = 0;
    for (const double h : g.h) sum += h;
    return sum;
}

// Samples that stand out of all eight neighbours by more than `metres`.
int spikes(const Level& level, double metres) {
    const PlainGround g = plainGround(level);
    int n = 0;
    for (int r = 1; r + 1 < g.rows; ++r)
        for (int c = 1; c + 1 < g.columns; ++c) {
            double most = -1e9, least = 1e9;
            for (int dz = -1; dz <= 1; ++dz)
                for (int dx = -1; dx <= 1; ++dx)
                    if (dx || dz)
                        most = std::max(most, g.clamped(c + dx, r + dz)),
                        least = std::min(least, g.clamped(c + dx, r + dz));
            n += g.clamped(c, r) > most + metres || g.clamped(c, r) < least - metres;
        }
    return n;
}

// A ridge across the middle, `high` metres over `half` metres to each side.
Level ridgeLevel(int size, double high, double half) {
    Level level = flatLevel(size, size);
    Raster<float> before(size, size, 0.f), after(size, size);
    for (int z = 0; z < size; ++z)
        for (int x = 0; x < size; ++x)
            after.at(x, z) = static_cast<float>(high * std::max(0.0, 1 - std::abs(x - size / 2) / half) +
                                                0.05 * ((x * 7 + z * 13) % 5));
    writeGround(level, level.bounds(), before.view(), after.view());
    return level;
}

Stroke strokeOf(Tool tool, double x0, double z0, double x1, double z1) {
    Stroke s;
    s.settings.tool = tool;
    s.settings.radius = 14;
    s.settings.strength = hasRate(tool) ? 6.f : 0.4f;
    s.points = {{x0, z0, 1, 0}, {x1, z1, 1, 0.5}, {x1, z1, 1, 0.9}};
    return s;
}

}  // namespace

TEST_CASE("even out, terrace, restore and crumble agree with untiled oracles", "[property]") {
    Random random(31);
    for (int round = 0; round < 48; ++round) {
        Level level = hillyLevel(wholeBetween(random, 3, 140), wholeBetween(random, 3, 140),
                                 static_cast<uint32_t>(round), 1);
        PlainGround oracle = plainGround(level);
        const StampPlace s = randomSpot(random, level, 70);
        const auto share = static_cast<float>(between(random, 0.05, 1));
        const int what = round % 4;
        INFO("round " << round << " kernel " << what);
        if (what == 0) {
            evenOutGround(level, on(level, s), share, 0.25f);
            plainEvenOut(oracle, level, s.x, s.z, s.radius, s.falloff, share, 0.25);
        } else if (what == 1) {
            terraceGround(level, on(level, s), share, {3, 0.4f});
            plainTerrace(oracle, level, s.x, s.z, s.radius, s.falloff, share, 3, 0.4);
        } else if (what == 2) {
            const Level reference = hillyLevel(level.columns, level.rows, 99, 1);
            restoreGround(level, on(level, s), share, &reference);
            plainRestore(oracle, level, s.x, s.z, s.radius, s.falloff, share, plainGround(reference));
        } else {
            crumbleGround(level, on(level, s), share, 12);
            plainCrumble(oracle, level, s.x, s.z, s.radius, s.falloff, share, 12, kCrumblePasses);
        }
        REQUIRE(greatestDifference(oracle, level) < 3e-3);
    }
}

TEST_CASE("noise agrees with an untiled oracle", "[property]") {
    Random random(41);
    for (int round = 0; round < 24; ++round) {
        // Away from the edge, where the oracle's mean and ours see the same neighbours.
        Level level = hillyLevel(150, 140, static_cast<uint32_t>(round), 1);
        PlainGround oracle = plainGround(level);
        const Roughness rough{static_cast<float>(between(random, 2.5, 16)), static_cast<float>(between(random, 0.3, 4)),
                              wholeBetween(random, 1, 6), static_cast<NoiseSign>(wholeBetween(random, 0, 2)),
                              static_cast<uint32_t>(round)};
        const double x = std::round(between(random, -12, 12) * 256) / 256,
                     z = std::round(between(random, -12, 12) * 256) / 256;
        const Falloff f{static_cast<Curve>(wholeBetween(random, 0, kCurves - 1)), 0.7f};
        const auto share = static_cast<float>(between(random, 0.1, 1));
        noiseGround(level, dabOn(level, x, z, 25, f, 1), share, rough);
        plainNoise(oracle, level, x, z, 25, f, share, rough, boxRadii(0.5f * rough.scale).r);
        INFO("round " << round);
        REQUIRE(greatestDifference(oracle, level) < 3e-3);
    }
}

TEST_CASE("single drops of rain agree with an oracle that follows them step by step", "[property]") {
    int dug = 0, far = 0;
    // On smooth slopes: on rough ground a drop's path is chaotic, and floats leave doubles after some steps.
    for (uint32_t seed = 0; seed < 120; ++seed) {
        Level level = flatLevel(70, 60);
        for (int r = 0; r < 60; ++r)
            for (int c = 0; c < 70; ++c)
                level.strata[0].heights.set(
                    c, r,
                    static_cast<float>((0.1 + 0.01 * (seed % 40)) * c + 3 * std::sin(0.07 * r + seed) +
                                       0.004 * (c - 30) * (c - 30)));
        Raster<float> ground(70, 60), ones(70, 60, 1.f);
        readGround(level, level.bounds(), ground.view());
        PlainGround oracle = plainGround(level);
        // The first place that this seed gives, as the drop hashes it.
        const double x = 20 + static_cast<double>(hashUnit(0, 1, seed)) * 45,
                     z = 10 + static_cast<double>(hashUnit(0, 2, seed)) * 40;
        rainOn(ground.view(), ones.view(), {20, 10, 65, 50}, 1, seed, 1);
        plainDrop(oracle, x, z, 1);
        double worst = 0, moved = 0;
        for (int r = 0; r < 60; ++r)
            for (int c = 0; c < 70; ++c) {
                worst = std::max<double>(worst, std::abs(ground.at(c, r) - oracle.at(c, r)));
                moved = std::max<double>(moved, std::abs(ground.at(c, r) - groundSample(level, c, r)));
            }
        far += worst > 0.01 * moved + 1e-4;
        dug += moved > 0.05;
    }
    CHECK(dug > 60);
    CHECK(far <= 6);
}

TEST_CASE("pull to slope agrees with the envelope's definition", "[property]") {
    Random random(33);
    for (int round = 0; round < 12; ++round) {
        Level level = hillyLevel(wholeBetween(random, 8, 40), wholeBetween(random, 8, 40), static_cast<uint32_t>(round),
                                 1);
        const PlainGround before = plainGround(level);
        const Dab dab = dabOn(level, 0, 0, 100, {Curve::smooth, 0}, 1);
        limitSlope(level, dab, 1, 10, Earthwork::cut);
        REQUIRE(greatestDifference(plainSlopeCut(before, dab.region, level.spacing, 10), level) < 1e-3);
    }
}

TEST_CASE("pulled to a slope, ground is nowhere steeper, whichever way it is done") {
    for (const Earthwork way : {Earthwork::both, Earthwork::cut, Earthwork::fill}) {
        Level level = ridgeLevel(129, 40, 12);
        REQUIRE(slopeAt(level, 6, 0) > 60);
        limitSlope(level, dabOn(level, 0, 0, 200, {Curve::smooth, 0}, 1), 1, 30, way);
        double steepest = 0;
        for (double x = -60; x <= 60; x += 1.7)
            for (double z = -60; z <= 60; z += 5.3) steepest = std::max(steepest, slopeAt(level, x, z));
        CHECK(steepest < 30.5);
        CHECK(steepest > 25);
        const double crown = altitudeAt(level, 0, 0);
        if (way == Earthwork::fill) CHECK(crown > 39);
        if (way == Earthwork::cut) CHECK(crown < 12);
    }
}

TEST_CASE("crumbling only moves matter, and no sample passes its neighbours", "[property]") {
    Random random(35);
    for (int round = 0; round < 8; ++round) {
        Level level = hillyLevel(150, 130, static_cast<uint32_t>(round), 1);
        const double before = sumOf(level);
        const int spikesBefore = spikes(level, 1e-4);
        for (int i = 0; i < 30; ++i) crumbleGround(level, on(level, randomSpot(random, level, 60)), 1, 8);
        CHECK(sumOf(level) == Approx(before).epsilon(1e-5));
        CHECK(spikes(level, 1e-4) <= spikesBefore);
    }
    Raster<float> raster(97, 61);
    for (int z = 0; z < 61; ++z)
        for (int x = 0; x < 97; ++x) raster.at(x, z) = static_cast<float>(between(random, 0, 30));
    const auto total = [&] {
        double sum = 0;
        for (int z = 0; z < 61; ++z)
            for (int x = 0; x < 97; ++x) sum += raster.at(x, z);
        return sum;
    };
    const double before = total();
    REQUIRE(crumbleAll(raster, 1, 30, 200));
    CHECK(total() == Approx(before).epsilon(1e-5));
    // At rest nothing is steeper than the angle by much.
    for (int z = 0; z < 61; ++z)
        for (int x = 0; x + 1 < 97; ++x)
            REQUIRE(std::abs(raster.at(x, z) - raster.at(x + 1, z)) < std::tan(33 * 3.14159 / 180));
}

TEST_CASE("rain only moves matter, digs gullies into slopes and leaves fans at their feet") {
    Level level = ridgeLevel(161, 30, 45);
    const PlainGround before = plainGround(level);
    const double sum = sumOf(level);
    Stroke s = strokeOf(Tool::rainWash, -20, -40, -20, 40);
    s.settings.radius = 45;
    s.settings.strength = 0.6f;
    for (int i = 0; i < 4; ++i) {
        s.settings.seed = static_cast<uint32_t>(i);
        REQUIRE(runStroke(level, s));
    }
    CHECK(std::abs(sumOf(level) - sum) < 1e-3 * std::abs(sum));
    const PlainGround after = plainGround(level);
    double dug = 0, filled = 0, rough = 0, roughBefore = 0;
    for (int r = 40; r < 120; ++r) {
        dug += after.clamped(60, r) - before.clamped(60, r);     // half way up the slope
        filled += after.clamped(33, r) - before.clamped(33, r);  // just beyond its foot
        rough += std::abs(after.clamped(60, r + 2) - after.clamped(60, r));
        roughBefore += std::abs(before.clamped(60, r + 2) - before.clamped(60, r));
    }
    CHECK(dug / 80 < -0.3);
    CHECK(filled / 80 > 0.05);
    CHECK(rough > 1.2 * roughBefore);
    CHECK(spikes(level, 0.35) == 0);
}

TEST_CASE("a large cloud rains everywhere, and gives the same bits on any number of threads") {
    // Three blocks by two and a bit, so that several of one colour are under way together.
    constexpr int w = 640, d = 430;
    const auto washed = [](int threads) {
        const ThreadLimit limit(threads);
        Raster<float> ground(w, d), ones(w, d, 1.f);
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x)
                ground.at(x, z) = static_cast<float>(0.2 * x + 4 * std::sin(0.09 * x) * std::cos(0.07 * z));
        double sum = 0;
        for (uint32_t seed = 0; seed < 3; ++seed) rainOn(ground.view(), ones.view(), {10, 5, w, d - 7}, 6000, seed, 1);
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x)
                sum += ground.at(x, z) - (0.2 * x + 4 * std::sin(0.09 * x) * std::cos(0.07 * z));
        CHECK(std::abs(sum) < 1e-4 * w * d);
        return ground;
    };
    const Raster<float> one = washed(1), many = washed(4);
    REQUIRE(std::memcmp(one.view().data, many.view().data, sizeof(float) * w * d) == 0);
    for (int bz = 0; bz < d / 43; ++bz)
        for (int bx = 0; bx < w / 40; ++bx) {
            int touched = 0;
            for (int z = 43 * bz; z < 43 * (bz + 1); ++z)
                for (int x = 40 * bx; x < 40 * (bx + 1); ++x)
                    touched += std::abs(one.at(x, z) - (0.2 * x + 4 * std::sin(0.09 * x) * std::cos(0.07 * z))) > 0.01;
            INFO(bx << ", " << bz);
            CHECK(touched > 200);
        }
}

TEST_CASE("rain is stable at full strength for long") {
    Level level = hillyLevel(129, 129, 3, 1);
    const double sum = sumOf(level);
    double low = 1e9, high = -1e9;
    for (const double h : plainGround(level).h) low = std::min(low, h), high = std::max(high, h);
    Stroke s = strokeOf(Tool::rainWash, 0, 0, 0, 0);
    s.settings.radius = 60;
    s.settings.strength = 1;
    s.points = {{0, 0, 1, 0}, {0, 0, 1, 12}};
    REQUIRE(runStroke(level, s));
    for (const double h : plainGround(level).h) REQUIRE((h > low - 1.5 && h < high + 0.5));
    CHECK(std::abs(sumOf(level) - sum) < 1e-3 * 129 * 129 * (high - low));
    CHECK(spikes(level, 0.5) == 0);
}

TEST_CASE("noise does not pile up, however often a spot is passed") {
    Level level = flatLevel(129, 129);
    Stroke s = strokeOf(Tool::noise, -10, 0, 10, 0);
    s.settings.radius = 50;
    s.settings.strength = 0.5f;
    s.settings.amplitude = 3;
    s.settings.scale = 16;
    const auto tallest = [&] {
        double most = 0;
        for (const double h : plainGround(level).h) most = std::max(most, std::abs(h));
        return most;
    };
    REQUIRE(runStroke(level, s));
    const double once = tallest();
    CHECK(once > 1);
    for (int i = 0; i < 10; ++i) REQUIRE(runStroke(level, s));
    const double often = tallest();
    for (int i = 0; i < 30; ++i) REQUIRE(runStroke(level, s));
    CHECK(often < 1.5 * once);
    CHECK(tallest() < 1.05 * often);
    CHECK(spikes(level, 1.3) == 0);
}

TEST_CASE("noise goes only the way it was told, and is the same wherever the window lies") {
    for (const NoiseSign way : {NoiseSign::up, NoiseSign::down}) {
        Level level = flatLevel(97, 97);
        noiseGround(level, dabOn(level, 0, 0, 60, {Curve::smooth, 0}, 1), 1, {10, 2, 4, way, 5});
        for (const double h : plainGround(level).h) REQUIRE((way == NoiseSign::up ? h >= 0 : h <= 0));
    }
    // Two dabs that share ground bring it to the same heights.
    const Level hills = hillyLevel(200, 200, 4, 1);
    Level a = hills, b = hills;
    const Roughness rough{60, 4, 5, NoiseSign::both, 9};
    noiseGround(a, dabOn(a, -20, 0, 50, {Curve::smooth, 0}, 1), 1, rough);
    noiseGround(b, dabOn(b, 20, 10, 50, {Curve::smooth, 0}, 1), 1, rough);
    CHECK(altitudeAt(a, 0, 0) == altitudeAt(b, 0, 0));
    CHECK(altitudeAt(a, 5, 8) == altitudeAt(b, 5, 8));
    CHECK(altitudeAt(a, 5, 8) != altitudeAt(hills, 5, 8));
}

TEST_CASE("terraces never fall where the ground rises, and treads are flat") {
    for (const float riser : {0.f, 0.3f, 1.f}) {
        const Terraces t{4, riser};
        for (int i = -400; i < 400; ++i) REQUIRE(terraced(i * 0.05f, t) <= terraced((i + 1) * 0.05f, t) + 1e-4f);
        CHECK(terraced(8, t) == Approx(8));
        CHECK(std::abs(terraced(8.4f, t) - 8) < 0.9f);
    }
    CHECK(terraced(9.3f, {4, 0.3f}) == Approx(8));
    CHECK(terraced(10, {4, 0.3f}) == Approx(10));
}

TEST_CASE("one stroke of even out leaves the share of the relief that it promises") {
    Level level = hillyLevel(129, 129, 6, 1);
    const PlainGround before = plainGround(level);
    Stroke s = strokeOf(Tool::evenOut, 0, 0, 0, 0);
    s.settings.radius = 500;
    s.settings.falloff.softness = 0;
    s.settings.remains = 0.4f;
    s.points = {{0, 0, 1, 0}, {0, 0, 1, 8}};
    REQUIRE(runStroke(level, s));
    const auto relief = [](const PlainGround& g) {
        return *std::max_element(g.h.begin(), g.h.end()) - *std::min_element(g.h.begin(), g.h.end());
    };
    CHECK(relief(plainGround(level)) == Approx(0.4 * relief(before)).epsilon(0.01));
}

TEST_CASE("a brush never crosses its height limits, and leaves ground beyond them alone") {
    for (int t = 0; t < static_cast<int>(Tool::paint); ++t) {
        Level level = hillyLevel(129, 129, 8, 1);
        const PlainGround before = plainGround(level);
        Stroke s = strokeOf(static_cast<Tool>(t), -30, -10, 30, 20);
        s.settings.radius = 40;
        s.settings.limits = {-1.f, 2.f};
        s.settings.height = 50.f;
        REQUIRE(runStroke(level, s));
        const PlainGround after = plainGround(level);
        INFO(toolName(static_cast<Tool>(t)));
        for (size_t i = 0; i < after.h.size(); ++i) {
            REQUIRE(after.h[i] <= std::max(before.h[i], 2.0) + 1e-4);
            REQUIRE(after.h[i] >= std::min(before.h[i], -1.0) - 1e-4);
        }
    }
}

TEST_CASE("a fence keeps every brush out") {
    const Level level = hillyLevel(129, 129, 8, 1);
    TiledGrid<uint16_t> fence(129, 129, 65535);
    for (int z = 0; z < 129; ++z)
        for (int x = 0; x < 60; ++x) fence.set(x, z, 0);
    Dab dab = dabOn(level, 0, 0, 40, {}, 1);
    dab.fence = &fence;
    const auto check = [&](auto work) {
        Level changed = level;
        work(changed);
        REQUIRE_FALSE(changed == level);
        for (int z = 0; z < 129; ++z)
            for (int x = 0; x < 60; ++x) REQUIRE(groundSample(changed, x, z) == groundSample(level, x, z));
    };
    check([&](Level& l) { raiseGround(l, dab, 3); });
    check([&](Level& l) { smoothGround(l, dab, 1, 4); });
    check([&](Level& l) { evenOutGround(l, dab, 1, 0.3f); });
    check([&](Level& l) { terraceGround(l, dab, 1, {2, 0.2f}); });
    check([&](Level& l) { limitSlope(l, dab, 1, 5, Earthwork::both); });
    check([&](Level& l) { noiseGround(l, dab, 1, {}); });
    check([&](Level& l) { crumbleGround(l, dab, 1, 3); });
    check([&](Level& l) { rainWashGround(l, dab, 1, 7); });
    check([&](Level& l) { restoreGround(l, dab, 1, nullptr); });
}
