#include <catch2/catch.hpp>

#include <cmath>
#include <cstring>

#include "base/parallel.h"
#include "brush/rows.h"
#include "cover/paint.h"
#include "cover/weights.h"
#include "grid/scratch.h"
#include "level/ground.h"
#include "levels.h"
#include "oracles.h"
#include "shape/flatten.h"
#include "shape/raise.h"
#include "shape/smooth.h"
#include "stroke/stroker.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

struct RandomDab {
    double x, z;
    float radius;
    Falloff falloff;
};

// Also centres outside the level and brushes larger than it.
RandomDab randomDab(Random& random, const Level& level) {
    RandomDab d;
    // On the raster that dabs keep to.
    d.x = std::round(between(random, -0.7, 0.7) * level.width() * 256) / 256;
    d.z = std::round(between(random, -0.7, 0.7) * level.depth() * 256) / 256;
    d.radius = static_cast<float>(between(random, 0.5, 90));
    d.falloff = {static_cast<Curve>(wholeBetween(random, 0, kCurves - 1)), static_cast<float>(between(random, 0, 1))};
    return d;
}

Dab on(const Level& level, const RandomDab& d) { return dabOn(level, d.x, d.z, d.radius, d.falloff, 1); }

Stroke wavyStroke(Tool tool, int points, double seconds, uint32_t layer = 0) {
    Stroke s;
    s.settings.tool = tool;
    s.settings.radius = 15;
    s.settings.strength = hasRate(tool) ? 5.f : 0.3f;
    s.settings.layer = layer;
    for (int i = 0; i <= points; ++i) {
        const double t = static_cast<double>(i) / points;
        s.points.push_back({-60 + 120 * t, 20 * std::sin(6 * t), 1, t * seconds});
    }
    return s;
}

}  // namespace

TEST_CASE("every falloff starts at one, ends at nothing and never rises") {
    for (int c = 0; c < kCurves; ++c)
        for (const float softness : {0.f, 0.3f, 1.f}) {
            const Falloff f{static_cast<Curve>(c), softness};
            CHECK(f.at(0) == 1);
            CHECK(f.at(1) == 0);
            for (int i = 1; i <= 100; ++i) REQUIRE(f.at(i / 100.f) <= f.at((i - 1) / 100.f) + 1e-6f);
        }
}

TEST_CASE("row kernels for all processors give the same bits", "[property]") {
    Random random(5);
    const RowKernels &fast = rowKernels(), &plain = plainRowKernels();
    for (int round = 0; round < 300; ++round) {
        const int n = wholeBetween(random, 1, 100);
        const Falloff f{static_cast<Curve>(wholeBetween(random, 0, kCurves - 1)),
                        static_cast<float>(between(random, 0, 1))};
        std::vector<float> m1(static_cast<size_t>(n)), m2 = m1, g1(static_cast<size_t>(n)), g2;
        const auto dx = static_cast<float>(between(random, -80, 10)), dz = static_cast<float>(between(random, -40, 40));
        fast.mask(m1.data(), n, dx, dz, 40, f, 0.7f);
        plain.mask(m2.data(), n, dx, dz, 40, f, 0.7f);
        REQUIRE(std::memcmp(m1.data(), m2.data(), sizeof(float) * m1.size()) == 0);
        for (float& g : g1) g = static_cast<float>(between(random, -50, 50));
        g2 = g1;
        fast.flatten(g1.data(), m1.data(), n, 3, true, round % 2 == 0);
        plain.flatten(g2.data(), m1.data(), n, 3, true, round % 2 == 0);
        REQUIRE(std::memcmp(g1.data(), g2.data(), sizeof(float) * g1.size()) == 0);
        // Raising without a mask in between is the same arithmetic; without a root it is nearly what a root gives.
        std::vector<float> squares(m1.size());
        for (int i = 0; i < n; ++i) {
            const float x = dx + static_cast<float>(i);
            squares[static_cast<size_t>(i)] = x * x / 1600;
        }
        for (const Curve curve : {Curve::smooth, Curve::dome, Curve::bell}) {
            std::vector<float> masked = g1, raised = g1, other = g1;
            const float rest = 1 - dz * dz / 1600;
            fast.mask(m2.data(), n, dx, dz, 40, {curve, 1}, 0.7f);
            fast.fade(m1.data(), squares.data(), n, rest, curve, 0.7f);
            for (size_t i = 0; i < m1.size(); ++i) REQUIRE(std::abs(m1[i] - m2[i]) < 1e-5f);
            plain.fade(m2.data(), squares.data(), n, rest, curve, 0.7f);
            REQUIRE(std::memcmp(m1.data(), m2.data(), sizeof(float) * m1.size()) == 0);
            fast.raise(masked.data(), m1.data(), n);
            fast.raiseFading(raised.data(), squares.data(), n, rest, curve, 0.7f);
            plain.raiseFading(other.data(), squares.data(), n, rest, curve, 0.7f);
            REQUIRE(std::memcmp(masked.data(), raised.data(), sizeof(float) * g1.size()) == 0);
            REQUIRE(std::memcmp(masked.data(), other.data(), sizeof(float) * g1.size()) == 0);
        }
        std::vector<uint16_t> c1(static_cast<size_t>(n)), c2, b1(c1), b2(c1);
        fast.bits(b1.data(), m1.data(), n);
        plain.bits(b2.data(), m1.data(), n);
        REQUIRE(b1 == b2);
        for (uint16_t& c : c1) c = static_cast<uint16_t>(wholeBetween(random, 0, 65535));
        c2 = c1;
        fast.cover(c1.data(), b1.data(), n, 50000);
        plain.cover(c2.data(), b1.data(), n, 50000);
        REQUIRE(c1 == c2);
        fast.thin(c1.data(), b1.data(), n, 1000);
        plain.thin(c2.data(), b1.data(), n, 1000);
        REQUIRE(c1 == c2);
        // Whole rows of tiles are the same arithmetic, and weights beside the columns that were asked for stay.
        constexpr int kRows = 3;
        const auto random16 = [&](size_t count) {
            std::vector<uint16_t> v(count);
            for (uint16_t& x : v) x = static_cast<uint16_t>(wholeBetween(random, 0, 65535));
            return v;
        };
        const int lanes = wholeBetween(random, 1, kTileRow / kLanes) * kLanes, maskRow = lanes + 7;
        const std::vector<uint16_t> tile = random16(kRows * kTileRow),
                                    mask = random16(static_cast<size_t>(kRows * maskRow));
        for (const RowKernels* k : {&fast, &plain})
            for (const bool thins : {false, true}) {
                std::vector<uint16_t> ours = tile, wanted = tile;
                (thins ? k->thinRows : k->coverRows)(ours.data(), mask.data(), maskRow, lanes, kRows, 30000);
                for (int z = 0; z < kRows; ++z)
                    (thins ? plain.thin : plain.cover)(wanted.data() + z * kTileRow, mask.data() + z * maskRow, lanes,
                                                       30000);
                REQUIRE(ours == wanted);
            }
        const int first = wholeBetween(random, 0, kTileRow - 1), end = wholeBetween(random, first + 1, kTileRow);
        // A stack of two tiles, one row that is repeated, and what is left.
        const std::vector<uint16_t> lower = random16(tile.size()), even = random16(kTileRow);
        for (const RowKernels* k : {&fast, &plain}) {
            constexpr int kOutRow = 70;
            std::vector<uint8_t> out[4], wanted[4];
            for (auto* list : {out, wanted})
                for (int i = 0; i < 4; ++i) list[i].assign(kRows * kOutRow + 5, 99);
            const auto at = [&](int i) { return out[i].data() + 2; };
            const Weighed stack[] = {{tile.data(), kTileRow, at(0), kOutRow},
                                     {even.data(), 0, at(1), kOutRow},
                                     {lower.data(), kTileRow, at(2), kOutRow},
                                     {nullptr, 0, at(3), kOutRow}};
            k->weighRows(stack, 4, first, end, kRows);
            for (int z = 0; z < kRows; ++z) {
                std::vector<uint16_t> open(kTileRow, 65535);
                std::vector<uint8_t> below(kTileRow, 255);
                const uint16_t* covers[] = {tile.data() + z * kTileRow, even.data(), lower.data() + z * kTileRow};
                for (int i = 0; i < 3; ++i)
                    plain.weigh(covers[i] + first, end - first, open.data(), below.data(),
                                wanted[i].data() + 2 + z * kOutRow);
                std::copy_n(below.begin(), end - first, wanted[3].begin() + 2 + z * kOutRow);
            }
            for (int i = 0; i < 4; ++i) REQUIRE(out[i] == wanted[i]);
        }
    }
}

TEST_CASE("raise, flatten and smooth agree with untiled oracles, also across tiles and edges", "[property]") {
    Random random(7);
    for (int round = 0; round < 60; ++round) {
        Level level = hillyLevel(wholeBetween(random, 2, 150), wholeBetween(random, 2, 150),
                                 static_cast<uint32_t>(round), 1);
        PlainGround oracle = plainGround(level);
        const RandomDab d = randomDab(random, level);
        const auto amount = static_cast<float>(between(random, 0.01, 1));
        const int what = round % 4;
        if (what == 0) {
            raiseGround(level, on(level, d), 30 * amount);
            plainRaise(oracle, level, d.x, d.z, d.radius, d.falloff, 30 * amount);
        } else if (what == 1) {
            const auto way = static_cast<Earthwork>(wholeBetween(random, 0, 2));
            flattenGround(level, on(level, d), amount, 5, way);
            plainFlatten(oracle, level, d.x, d.z, d.radius, d.falloff, amount, 5, way);
        } else if (what == 2) {
            smoothGround(level, on(level, d), amount, 0);
            plainSmooth(oracle, level, d.x, d.z, d.radius, d.falloff, amount);
        } else {
            const auto sigma = static_cast<float>(between(random, 1.3, 6));
            smoothGround(level, on(level, d), amount, sigma);
            plainBoxSmooth(oracle, level, d.x, d.z, d.radius, d.falloff, amount, boxRadii(sigma).r);
        }
        INFO("round " << round << " kernel " << what);
        // Falloff in float at coordinates of some hundred samples: a few hundredths of a millimetre.
        REQUIRE(greatestDifference(oracle, level) < 2e-3);
    }
}

TEST_CASE("the boxes together have the variance that was asked for") {
    for (const float sigma : {1.3f, 2.f, 5.f, 16.f, 40.f}) {
        double variance = 0;
        for (const int r : boxRadii(sigma).r) variance += ((2.0 * r + 1) * (2.0 * r + 1) - 1) / 12;
        CHECK(std::sqrt(variance) == Approx(sigma).epsilon(0.12));
    }
}

TEST_CASE("brushes stay within the height range of the level") {
    Level level = flatLevel(65, 65);
    for (int i = 0; i < 30; ++i) raiseGround(level, dabOn(level, 0, 0, 20, {}, 1), 50);
    CHECK(altitudeAt(level, 0, 0) == level.highest);
    for (int i = 0; i < 30; ++i) raiseGround(level, dabOn(level, 0, 0, 20, {}, 1), -50);
    CHECK(altitudeAt(level, 0, 0) == level.lowest);
}

TEST_CASE("a stamp that misses the level touches nothing") {
    Level level = hillyLevel(65, 65, 1);
    const Level before = level;
    CHECK(raiseGround(level, dabOn(level, 500, 0, 20, {}, 1), 5).empty());
    CHECK(smoothGround(level, dabOn(level, 0, -500, 20, {}, 1), 1, 3).empty());
    CHECK(paintLayer(level, dabOn(level, 500, 500, 20, {}, 1), 1, level.layers[1].id, 1).empty());
    CHECK(level == before);
}

TEST_CASE("paint works towards its target and thins what lies above") {
    Level level = flatLevel(65, 65, 3);
    const uint32_t low = level.layers[1].id, top = level.layers[2].id;
    const Dab dab = dabOn(level, 0, 0, 20, {Curve::smooth, 0}, 1);
    paintLayer(level, dab, 1, top, 1);
    CHECK(weightsAt(level, 32, 32)[2] == 255);
    paintLayer(level, dab, 1, low, 1);
    CHECK(weightsAt(level, 32, 32)[1] == 255);
    for (int i = 0; i < 200; ++i) paintLayer(level, dab, 0.1f, top, 0.5f);
    CHECK(weightsAt(level, 32, 32)[2] == Approx(128).margin(1));
    CHECK(weightsAt(level, 32, 32)[1] == Approx(127).margin(1));
}

TEST_CASE("erase uncovers exactly what lay below") {
    Level level = hillyLevel(129, 129, 9, 4);
    level.layers[3].coverage = TiledGrid<uint16_t>(129, 129, 0);
    const auto before = weightsAt(level, 64, 64);
    const Dab dab = dabOn(level, 0, 0, 30, {Curve::bell, 0.8f}, 1);
    paintLayer(level, dab, 0.7f, level.layers[3].id, 1);
    CHECK(weightsAt(level, 64, 64) != before);
    for (int i = 0; i < 400; ++i) eraseLayer(level, dab, 0.5f, level.layers[3].id);
    CHECK(weightsAt(level, 64, 64) == before);
    CHECK(eraseLayer(level, dab, 1, level.layers[0].id).empty());
}

TEST_CASE("the finest strength still has an effect in both directions") {
    Level level = flatLevel(9, 9, 2);
    const uint32_t id = level.layers[1].id;
    const Dab dab = dabOn(level, 0, 0, 4, {Curve::smooth, 0}, 1);
    for (int i = 0; i < 70000; ++i) paintLayer(level, dab, 1e-7f, id, 1);
    CHECK(level.layers[1].coverage.at(4, 4) == kFullCover);
    for (int i = 0; i < 70000; ++i) eraseLayer(level, dab, 1e-7f, id);
    CHECK(level.layers[1].coverage.at(4, 4) == 0);
}

TEST_CASE("cover at twice the ground's resolution is painted in the same place") {
    Level coarse = flatLevel(65, 65, 2, 1, 1), fine = flatLevel(65, 65, 2, 1, 4);
    for (Level* l : {&coarse, &fine}) paintLayer(*l, dabOn(*l, 7, -3, 12, {}, l->coverFactor), 1, l->layers[1].id, 1);
    for (int r = 0; r < 65; r += 3)
        for (int c = 0; c < 65; c += 3)
            REQUIRE(std::abs(int(coarse.layers[1].coverage.at(c, r)) - int(fine.layers[1].coverage.at(c * 4, r * 4))) <=
                    2);
}

TEST_CASE("a moving hand stamps by distance, a resting hand by time") {
    std::vector<Stamp> stamps;
    StrokeSettings ten;
    ten.radius = 10;
    StampPlacer moving(ten);
    moving.add({0, 0, 1, 0}, stamps);
    moving.add({30, 0, 1, 0.01}, stamps);
    CHECK(stamps.size() == 21);  // one at the touch, one each 1.5 m
    CHECK(stamps.back().x == Approx(30));
    stamps.clear();
    StampPlacer resting(ten);
    resting.add({5, 5, 1, 0}, stamps);
    resting.add({5, 5, 1, 1}, stamps);
    CHECK(stamps.size() == 21);  // one at the touch, twenty in a second
}

TEST_CASE("the event rate does not matter") {
    for (int t = 0; t < static_cast<int>(Tool::paint); ++t) {
        const auto tool = static_cast<Tool>(t);
        INFO(toolName(tool));
        // The same straight hand movement, reported 30 and 240 times a second.
        const auto ground = [&](int rate) {
            Level level = hillyLevel(161, 161, 3);
            Stroke s;
            s.settings.tool = tool;
            s.settings.strength = hasRate(tool) ? 8.f : 0.2f;
            for (int i = 0; i <= 2 * rate; ++i) {
                const double t = static_cast<double>(i) / rate;
                const double x = t < 1 ? -50 + 100 * t : 50;
                s.points.push_back({x, 0.3 * x, 1, t});
            }
            REQUIRE(runStroke(level, s));
            return level;
        };
        CHECK(ground(30) == ground(240));
    }
}

TEST_CASE("the same stroke gives the same bits on one thread and on many") {
    const auto run = [](int threads) {
        const ThreadLimit limit(threads);
        Level level = hillyLevel(400, 400, 8, 5);
        giveWork(level, Tool::plant);
        level.layers[2].rules = {Rule{}};
        for (int t = 0; t < kTools; ++t) {
            Stroke s = wavyStroke(static_cast<Tool>(t), 6, 0.3, level.layers[2].id);
            s.settings.radius = 120;
            s.settings.from = level.layers[1].id;
            s.settings.kind = level.kinds[0].id;
            REQUIRE(runStroke(level, s));
        }
        return level;
    };
    CHECK(run(1) == run(4));
}

TEST_CASE("live and replayed strokes agree") {
    const Stroke stroke = wavyStroke(Tool::raise, 40, 2);
    Level live = hillyLevel(161, 161, 3), replayed = live;
    Stroker stroker(stroke.settings, live);
    for (const StrokePoint& p : stroke.points) stroker.add(live, p);
    REQUIRE(runStroke(replayed, stroke));
    CHECK(live == replayed);
}

TEST_CASE("holding still for a second raises by the strength") {
    Level level = flatLevel(65, 65);
    Stroke s;
    s.settings.tool = Tool::raise;
    s.settings.strength = 10;
    s.points = {{0, 0, 1, 0}, {0, 0, 1, 1}};
    REQUIRE(runStroke(level, s));
    CHECK(altitudeAt(level, 0, 0) == Approx(10.5));  // twenty stamps of half a metre, and the first touch
}

TEST_CASE("flatten takes its height from the first touch unless told") {
    Level level = hillyLevel(161, 161, 3);
    const double first = altitudeAt(level, -30, 10);
    Stroke s = wavyStroke(Tool::flatten, 10, 1);
    s.points.insert(s.points.begin(), {-30, 10, 1, 0});
    s.settings.strength = 1;
    s.settings.falloff.softness = 0;
    REQUIRE(runStroke(level, s));
    CHECK(altitudeAt(level, s.points.back().x, s.points.back().z) == Approx(first).margin(1e-4));
    s.settings.height = 33;
    REQUIRE(runStroke(level, s));
    CHECK(altitudeAt(level, s.points.back().x, s.points.back().z) == Approx(33).margin(1e-4));
}

TEST_CASE("settings and points out of range are refused by name and leave the level alone") {
    Level level = hillyLevel(65, 65, 3);
    const Level before = level;
    const auto refusal = [&](auto change) {
        Stroke s = wavyStroke(Tool::raise, 4, 1, level.layers[1].id);
        change(s);
        const Result<Change> r = runStroke(level, s);
        return r ? std::string("accepted") : r.error().field;
    };
    CHECK(refusal([](Stroke& s) { s.settings.radius = 0; }) == "radius");
    CHECK(refusal([](Stroke& s) { s.settings.radius = std::nanf(""); }) == "radius");
    CHECK(refusal([](Stroke& s) { s.settings.strength = 1000; }) == "strength");
    CHECK(refusal([](Stroke& s) { s.settings.falloff.softness = 2; }) == "softness");
    CHECK(refusal([](Stroke& s) { s.points.clear(); }) == "points");
    CHECK(refusal([](Stroke& s) { s.points[2].x = INFINITY; }) == "points[2].x");
    CHECK(refusal([](Stroke& s) { s.points[3].time = 0; }) == "points[3].time");
    CHECK(refusal([](Stroke& s) {
              s.settings.tool = Tool::paint;
              s.settings.strength = 0.5f;
              s.settings.layer = 999;
          }) == "layer");
    CHECK(level == before);
}

TEST_CASE("splitting a stroke's segments anywhere gives the same stamps", "[property]") {
    Random random(15);
    for (int round = 0; round < 200; ++round) {
        std::vector<StrokePoint> points{{0, 0, 1, 0}};
        for (int i = 0; i < 6; ++i) {
            const StrokePoint& last = points.back();
            const bool rests = wholeBetween(random, 0, 3) == 0;
            points.push_back({rests ? last.x : between(random, -50, 50), rests ? last.z : between(random, -50, 50), 1,
                              last.time + between(random, 0.01, 1)});
        }
        std::vector<Stamp> whole, split;
        StrokeSettings eight;
        eight.radius = 8;
        StampPlacer a(eight), b(eight);
        for (const StrokePoint& p : points) a.add(p, whole);
        b.add(points[0], split);
        for (size_t i = 1; i < points.size(); ++i) {
            const StrokePoint &from = points[i - 1], &to = points[i];
            const int parts = wholeBetween(random, 1, 9);
            for (int k = 1; k <= parts; ++k) {
                const double t = static_cast<double>(k) / parts;
                b.add({from.x + t * (to.x - from.x), from.z + t * (to.z - from.z), 1,
                       from.time + t * (to.time - from.time)},
                      split);
            }
        }
        REQUIRE(whole.size() == split.size());
        for (size_t i = 0; i < whole.size(); ++i) {
            REQUIRE(std::abs(whole[i].x - split[i].x) <= 1.0 / 1024);
            REQUIRE(std::abs(whole[i].z - split[i].z) <= 1.0 / 1024);
        }
    }
}

TEST_CASE("cover arithmetic is exact at its ends, for every value", "[exhaustive]") {
    const RowKernels& k = rowKernels();
    for (int v = 0; v <= 65535; ++v) {
        const auto value = static_cast<uint16_t>(v);
        uint16_t cover = value;
        const uint16_t none = 0, all = 65535;
        k.cover(&cover, &none, 1, 65535);
        REQUIRE(cover == value);
        k.cover(&cover, &all, 1, 65535);
        REQUIRE(cover == 65535);
        cover = value;
        k.thin(&cover, &all, 1, 0);
        REQUIRE(cover == 0);
        // A layer that covers nothing lets everything through; one that covers all, nothing.
        uint16_t open = value, clear = 0, full = 65535;
        auto below = static_cast<uint8_t>((value - (value >> 8) + 128) >> 8);
        const uint8_t before = below;
        uint8_t weight = 9;
        k.weigh(&clear, 1, &open, &below, &weight);
        REQUIRE(open == value);
        REQUIRE(below == before);
        REQUIRE(weight == 0);
        k.weigh(&full, 1, &open, &below, &weight);
        REQUIRE(open == 0);
        REQUIRE(below == 0);
        REQUIRE(weight == before);
    }
}

TEST_CASE("what stamps work in is kept from one to the next and given back with the stroke") {
    Level level = flatLevel(400, 300, 1);
    StrokeSettings settings = usualSettings(Tool::noise);
    settings.radius = 90;
    for (const bool ends : {true, false}) {
        {
            Stroker stroker(settings, level);
            stroker.add(level, {0, 0, 1, 0});
            stroker.add(level, {30, 0, 1, 0.4});
            CHECK(Scratch::kept() > 180 * 180 * sizeof(float));
            if (ends) stroker.finish(level);
        }
        CHECK(Scratch::kept() == 0);
    }
}
