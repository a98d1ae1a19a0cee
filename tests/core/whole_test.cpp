// Work on the whole ground: brushless wear, steps softened, other sizes, landscapes.
#include <catch2/catch.hpp>

#include <chrono>
#include <cmath>
#include <thread>

#include "base/parallel.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "level/resize.h"
#include "levels.h"
#include "oracles.h"
#include "shape/rain_wash.h"
#include "shape/steps.h"
#include "shape/whole.h"
#include "survey/check.h"
#include "survey/slope.h"

using namespace jam;
using namespace jam::test;

namespace {

std::vector<double> heights(const Level& level) { return plainGround(level).h; }

Raster<float> rasterOf(const Level& level) {
    Raster<float> g(level.columns, level.rows);
    readGround(level, level.bounds(), g.view());
    return g;
}

WholeWish wishFor(WholeKind kind) {
    WholeWish w;
    w.kind = kind;
    w.years = 2;
    w.spike = 0.2f;
    w.step = 0.5f;
    w.landscape.height = 30;
    return w;
}

}  // namespace

TEST_CASE("every work on the whole ground changes it, stays in range and leaves the level valid") {
    for (int k = 0; k < kWholeKinds; ++k) {
        Level level = hillyLevel(150, 131, 7, 2);
        level.strata[0].heights.set(70, 70, 12);  // something to remove
        const Level before = level;
        const Result<WholeOutcome> out = reshapeWhole(level, wishFor(static_cast<WholeKind>(k)));
        INFO(wholeName(static_cast<WholeKind>(k)));
        REQUIRE(out);
        CHECK(level == before);
        CHECK_FALSE(out.value().level == before);
        CHECK(checkLevel(out.value().level).empty());
        CHECK(out.value().level.layers == before.layers);
        CHECK(out.value().rise + out.value().fall > 0);
    }
}

TEST_CASE("whole-ground work gives the same bits on one thread and on many") {
    const Level level = hillyLevel(700, 520, 11, 1);
    for (const WholeKind kind : {WholeKind::crumble, WholeKind::rainWash, WholeKind::noise, WholeKind::smooth,
                                 WholeKind::generate, WholeKind::softenSteps}) {
        const auto run = [&](int threads) {
            const ThreadLimit limit(threads);
            return reshapeWhole(level, wishFor(kind)).take().level;
        };
        INFO(wholeName(kind));
        CHECK(run(1) == run(4));
    }
}

TEST_CASE("whole-ground work can be cancelled at once and leaves no trace") {
    const Level level = hillyLevel(1025, 1025, 11, 1);
    for (int k = 0; k < kWholeKinds; ++k) {
        WholeWish wish = wishFor(static_cast<WholeKind>(k));
        wish.years = 1000;
        std::atomic<bool> stop{false};
        Context context;
        context.cancel = &stop;
        std::chrono::steady_clock::time_point asked;
        std::thread hand([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(40));
            asked = std::chrono::steady_clock::now();
            stop = true;
        });
        const Result<WholeOutcome> out = reshapeWhole(level, wish, context);
        const auto ended = std::chrono::steady_clock::now();
        hand.join();
        INFO(wholeName(static_cast<WholeKind>(k)));
        // Quick work may be over before anybody asks.
        if (!out) {
            CHECK(wasCancelled(out.error()));
            // A fifth of a second is the promise; a busy machine gets more before this counts as a hang.
            CHECK(std::chrono::duration<double>(ended - asked).count() < 2);
        }
        if (static_cast<WholeKind>(k) == WholeKind::crumble || static_cast<WholeKind>(k) == WholeKind::rainWash)
            CHECK_FALSE(out);
    }
}

TEST_CASE("raising and scaling all do what their numbers say") {
    const Level level = hillyLevel(80, 60, 3, 1);
    WholeWish w;
    w.metres = 5;
    const Level raised = reshapeWhole(level, w).take().level;
    for (int r = 0; r < 60; r += 7)
        for (int c = 0; c < 80; c += 7) REQUIRE(groundSample(raised, c, r) == Approx(groundSample(level, c, r) + 5));
    w.kind = WholeKind::scale;
    w.low = -20;
    w.high = 60;
    const std::vector<double> h = heights(reshapeWhole(level, w).take().level);
    CHECK(*std::min_element(h.begin(), h.end()) == Approx(-20));
    CHECK(*std::max_element(h.begin(), h.end()) == Approx(60));
}

TEST_CASE("what does not fit into the level's range is said, not hidden") {
    const Level level = hillyLevel(80, 60, 3, 1);
    WholeWish w;
    w.along = false;
    w.metres = level.highest + 1;
    const WholeOutcome out = reshapeWhole(level, w).take();
    CHECK(out.clipped > 0.2);
    w.metres = 1;
    CHECK(reshapeWhole(level, w).take().clipped == 0);
}

TEST_CASE("wishes out of range are refused by field") {
    const Level level = flatLevel(33, 33);
    const auto refusal = [&](WholeKind kind, auto change) {
        WholeWish w = wishFor(kind);
        change(w);
        const Result<WholeOutcome> r = reshapeWhole(level, w);
        return r ? std::string("accepted") : r.error().field;
    };
    CHECK(refusal(WholeKind::raise, [](WholeWish& w) { w.metres = NAN; }) == "metres");
    CHECK(refusal(WholeKind::scale, [](WholeWish& w) { w.low = 9, w.high = 3; }) == "high");
    CHECK(refusal(WholeKind::smooth, [](WholeWish& w) { w.width = 0; }) == "width");
    CHECK(refusal(WholeKind::noise, [](WholeWish& w) { w.noise.octaves = 40; }) == "octaves");
    CHECK(refusal(WholeKind::crumble, [](WholeWish& w) { w.angle = 90; }) == "angle");
    CHECK(refusal(WholeKind::rainWash, [](WholeWish& w) { w.years = -1; }) == "years");
    CHECK(refusal(WholeKind::softenSteps, [](WholeWish& w) { w.step = 0; }) == "step");
    CHECK(refusal(WholeKind::removeSpikes, [](WholeWish& w) { w.spike = INFINITY; }) == "spike");
    CHECK(refusal(WholeKind::generate, [](WholeWish& w) { w.landscape.scale = 0; }) == "scale");
}

TEST_CASE("rain over all keeps what there is of ground, and makes no new spike") {
    Level level = hillyLevel(420, 400, 21, 1);
    Raster<float> g = rasterOf(level);
    const auto sum = [&] {
        double s = 0;
        for (int z = 0; z < 400; ++z)
            for (int x = 0; x < 420; ++x) s += g.at(x, z);
        return s;
    };
    const double before = sum();
    REQUIRE(rainWashAll(g, 1, 6, 3));
    double moved = 0;
    for (int z = 0; z < 400; ++z)
        for (int x = 0; x < 420; ++x) moved += std::abs(g.at(x, z) - groundSample(level, x, z));
    CHECK(moved > 1000);
    CHECK(std::abs(sum() - before) < 1e-3 * moved);
    // Nothing towers above the ground that was there, however long it rains into hollows.
    const Level rained = reshapeWhole(level,
                                      [] {
                                          WholeWish w = wishFor(WholeKind::rainWash);
                                          w.years = 60;
                                          return w;
                                      }())
                             .take()
                             .level;
    const std::vector<double> was = heights(level), is = heights(rained);
    CHECK(*std::max_element(is.begin(), is.end()) < *std::max_element(was.begin(), was.end()) + 0.5);
    CHECK(*std::min_element(is.begin(), is.end()) > *std::min_element(was.begin(), was.end()) - 1);
}

TEST_CASE("soften steps brings slopes back from 256 steps and leaves cliffs") {
    // A gentle slope and a cliff, rounded to steps of one metre.
    const int size = 200;
    Raster<float> truth(size, size), g(size, size);
    for (int z = 0; z < size; ++z)
        for (int x = 0; x < size; ++x) {
            const double cliff = x > 120 ? 25 : 0;
            truth.at(x, z) = static_cast<float>(0.06 * x + 3 * std::sin(z * 0.05) + cliff);
            g.at(x, z) = std::round(truth.at(x, z));
        }
    const Steps steps = surveySteps(g.view());
    CHECK(steps.stepped());
    CHECK(steps.height == Approx(1));
    CHECK_FALSE(surveySteps(truth.view()).stepped());
    const Raster<float> stepped = g;
    REQUIRE(softenSteps(g, 1));
    double error = 0, errorBefore = 0, steep = 0;
    for (int z = 20; z < 180; ++z)
        for (int x = 20; x < 110; ++x) {
            error += std::pow(g.at(x, z) - truth.at(x, z), 2);
            errorBefore += std::pow(stepped.at(x, z) - truth.at(x, z), 2);
            steep = std::max<double>(steep, std::abs(g.at(x + 1, z) - g.at(x, z)));
        }
    CHECK(std::sqrt(error) < 0.35 * std::sqrt(errorBefore));
    CHECK(steep < 0.3);
    for (int z = 20; z < 180; ++z) CHECK(g.at(121, z) - g.at(120, z) > 23.9);
    for (int z = 0; z < size; ++z)
        for (int x = 0; x < size; ++x) REQUIRE(std::abs(g.at(x, z) - stepped.at(x, z)) <= 0.5001f);
}

TEST_CASE("spikes go and everything else stays") {
    Raster<float> g = rasterOf(hillyLevel(90, 70, 5, 1));
    const Raster<float> before = g;
    g.at(40, 30) += 20;
    g.at(0, 0) -= 15;
    g.at(60, 50) += 9;
    REQUIRE(removeSpikes(g, 3));
    CHECK(g.at(40, 30) == Approx(before.at(40, 30)).margin(1.5));
    CHECK(g.at(0, 0) == Approx(before.at(0, 0)).margin(3));
    int changed = 0;
    for (int z = 0; z < 70; ++z)
        for (int x = 0; x < 90; ++x) changed += g.at(x, z) != before.at(x, z);
    CHECK(changed <= 3);
}

TEST_CASE("resampling keeps smooth ground where it was, also when shrinking, and carries the cover") {
    const Level level = hillyLevel(201, 161, 9, 3);
    const Level fine = resampleLevel(level, 401, 321, 0.5).take();
    CHECK(checkLevel(fine).empty());
    CHECK(fine.width() == level.width());
    // A bicubic meets its own samples exactly.
    for (int r = 0; r < 161; r += 5)
        for (int c = 0; c < 201; c += 5)
            REQUIRE(groundSample(fine, 2 * c, 2 * r) == Approx(groundSample(level, c, r)).margin(1e-3));
    const Level back = resampleLevel(fine, 201, 161, 1).take();
    double worst = 0;
    for (int r = 3; r < 158; ++r)
        for (int c = 3; c < 198; ++c)
            worst = std::max<double>(worst, std::abs(groundSample(back, c, r) - groundSample(level, c, r)));
    CHECK(worst < 0.25);
    CHECK(fine.layers.size() == level.layers.size());
    CHECK(fine.layers[1].coverage.at(200, 160) == Approx(level.layers[1].coverage.at(100, 80)).margin(700));
}

TEST_CASE("shrinking does not fold fine ripples into false hills") {
    Level level = flatLevel(257, 257);
    for (int r = 0; r < 257; ++r)
        for (int c = 0; c < 257; ++c) level.strata[0].heights.set(c, r, c % 2 ? 4.f : -4.f);
    const std::vector<double> h = heights(resampleLevel(level, 65, 65, 4).take());
    for (size_t i = 0; i < h.size(); ++i)
        if (i % 65 > 2 && i % 65 < 62) REQUIRE(std::abs(h[i]) < 0.3);
}

TEST_CASE("cropping keeps every sample inside and extends at the start height") {
    const Level level = hillyLevel(120, 100, 14, 3);
    const Level piece = cropLevel(level, {30, -10, 150, 60}).take();
    CHECK(checkLevel(piece).empty());
    CHECK(piece.columns == 120);
    CHECK(piece.rows == 70);
    CHECK(piece.originX == level.originX + 30);
    CHECK(groundSample(piece, 10, 30) == groundSample(level, 40, 20));
    CHECK(weightsAt(piece, 10, 30) == weightsAt(level, 40, 20));
    CHECK(groundSample(piece, 100, 5) == level.startHeight);
    CHECK(cropLevel(piece, {-30, 10, 90, 110}).take().strata[0].heights.at(40, 20) ==
          level.strata[0].heights.at(40, 20));
    CHECK_FALSE(cropLevel(level, {5, 5, 5, 5}));
    CHECK_FALSE(cropLevel(level, {0, 0, 9000, 40}));
    CHECK_FALSE(resampleLevel(level, 1, 40, 1));
    CHECK_FALSE(resampleLevel(level, 40, 40, 0));
}

TEST_CASE("landscapes repeat with their seed, differ between seeds, and keep about their height") {
    const Level level = flatLevel(200, 180, 1, 4);
    for (int k = 0; k < kLandscapes; ++k) {
        LandscapeWish wish;
        wish.kind = static_cast<Landscape>(k);
        wish.height = 80;
        Raster<float> a, b, c;
        REQUIRE(generateLandscape(wish, level, a));
        REQUIRE(generateLandscape(wish, level, b));
        wish.seed = 2;
        REQUIRE(generateLandscape(wish, level, c));
        double low = 1e9, high = -1e9, differs = 0;
        bool same = true;
        for (int z = 0; z < 180; ++z)
            for (int x = 0; x < 200; ++x) {
                low = std::min<double>(low, a.at(x, z)), high = std::max<double>(high, a.at(x, z));
                same &= a.at(x, z) == b.at(x, z);
                differs += std::abs(a.at(x, z) - c.at(x, z));
            }
        INFO(landscapeName(wish.kind));
        CHECK(same);
        CHECK(differs / (180 * 200) > 2);
        CHECK(low >= -1);
        CHECK(high < 100);
        CHECK(high - low > 35);
    }
}

TEST_CASE("an island has sea all round, and edge mountains enclose a level") {
    Level level = flatLevel(200, 200, 1, 4);
    LandscapeWish wish;
    wish.kind = Landscape::island;
    Raster<float> g;
    REQUIRE(generateLandscape(wish, level, g));
    double inside = 0;
    for (int i = 0; i < 200; ++i) {
        for (const float h : {g.at(i, 0), g.at(i, 199), g.at(0, i), g.at(199, i)}) REQUIRE(h < wish.height / 3);
        inside = std::max<double>(inside, g.at(i, 100));
    }
    CHECK(inside > wish.height / 2);
    wish.kind = Landscape::rollingHills;
    wish.height = 10;
    wish.edge = 60;
    REQUIRE(generateLandscape(wish, level, g));
    for (int i = 0; i < 200; ++i)
        for (const float h : {g.at(i, 2), g.at(i, 197), g.at(2, i), g.at(197, i)}) REQUIRE(h > 25);
    CHECK(g.at(100, 100) < 13);
}

TEST_CASE("generated ground meets the present one as told") {
    const Level level = hillyLevel(90, 80, 2, 1);
    WholeWish w = wishFor(WholeKind::generate);
    Raster<float> g;
    REQUIRE(generateLandscape(w.landscape, level, g));
    for (int m = 0; m < kMeetings; ++m) {
        w.meeting = static_cast<Meeting>(m);
        const Level out = reshapeWhole(level, w).take().level;
        for (const auto& [c, r] : {std::pair{3, 4}, {50, 20}, {80, 70}}) {
            const double was = groundSample(level, c, r), made = level.startHeight + g.at(c, r);
            const double wanted = m == 0   ? made
                                  : m == 1 ? was + g.at(c, r)
                                  : m == 2 ? std::max(was, made)
                                           : std::min(was, made);
            CHECK(groundSample(out, c, r) == Approx(wanted).margin(1e-3));
        }
    }
}
