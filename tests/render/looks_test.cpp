// The picture at rest: against the mean of many that lie apart by parts of a pixel, without rings, in one tone.
// bench_looks measures the same on every layer.
#include <catch2/catch.hpp>

#include <cmath>
#include <set>
#include <tuple>

#include "base/noise.h"
#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/software/averager.h"
#include "render/software/pixel_renderer.h"

using namespace jam;
using namespace jam::test;

namespace {

// Even ground under one lively layer of 3 m with a second scale.
Level meadow() {
    Level level = flatLevel(257, 257, 1);
    Pixels p{128, 128, 3, 8, {}};
    for (int y = 0; y < 128; ++y)
        for (int x = 0; x < 128; ++x) {
            const float v = fractalNoise(static_cast<float>(x) / 8, static_cast<float>(y) / 8, 5, 4, 0.6f, 16);
            for (const float c : {90.f, 120.f, 60.f})
                p.samples.push_back(static_cast<uint16_t>(std::clamp(c * (1 + 0.6f * v), 0.f, 255.f)));
        }
    Layer& l = level.layers[0];
    l.colour = std::make_shared<PictureFile>(PictureFile{"meadow.png", encodePng(p)});
    l.tileSize = 3;
    l.look.farTimes = 5, l.look.farFrom = 26;
    return level;
}

// Light of each pixel, the mean of so many passes.
using Light = std::vector<double>;
Light meanOf(PixelRenderer& r, const Camera& c, int passes, int first = 1) {
    Light sum(static_cast<size_t>(kWidth * kHeight));
    Shot s;
    for (int k = first; k < first + passes; ++k) {
        r.draw(c, {}, Finish::full, nullptr, passOf(k));
        r.read({0, 0, kWidth, kHeight}, s.bgra.data(), kWidth * 4);
        for (size_t i = 0; i < sum.size(); ++i)
            sum[i] += (0.0722 * s.bgra[4 * i] + 0.7152 * s.bgra[4 * i + 1] + 0.2126 * s.bgra[4 * i + 2]) / passes;
    }
    return sum;
}
// Root mean square of what is apart, as a share of the mean.
double apart(const Light& a, const Light& b) {
    double squares = 0, sum = 0;
    for (size_t i = 0; i < a.size(); ++i) squares += (a[i] - b[i]) * (a[i] - b[i]), sum += b[i];
    return std::sqrt(squares / static_cast<double>(a.size())) / (sum / static_cast<double>(a.size()));
}
// From one pixel of a row to the next, as a share of the mean, in rows [top, end).
double lively(const Light& l, int top, int end) {
    double squares = 0, sum = 0;
    for (int y = top; y < end; ++y)
        for (int x = 0; x + 1 < kWidth; ++x) {
            const size_t i = static_cast<size_t>(y * kWidth + x);
            squares += (l[i] - l[i + 1]) * (l[i] - l[i + 1]), sum += l[i];
        }
    const double n = (end - top) * (kWidth - 1.0);
    return std::sqrt(squares / n) / (sum / n);
}

Camera over(const Level& level, double high, double pitch, double back) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.pitch = pitch, c.yaw = 20;
    c.at = {0, level.startHeight + high, back};
    return c;
}

}  // namespace

TEST_CASE("passes lie in all columns and rows, about the middle, and never twice") {
    for (const int n : {4, 8, 12, 16}) {
        double x = 0, y = 0, detail = 0;
        std::set<std::pair<float, float>> places;
        for (int k = 1; k <= n; ++k) {
            const Pass p = passOf(k);
            CHECK((std::abs(p.shiftX) <= 0.5f && std::abs(p.shiftY) <= 0.5f && std::abs(p.detail) <= 0.5f));
            x += p.shiftX, y += p.shiftY, detail += p.detail;
            places.insert({p.shiftX, p.shiftY});
        }
        CHECK(places.size() == static_cast<size_t>(n));
        CHECK((std::abs(x) < 1e-6 && std::abs(y) < 1e-6 && std::abs(detail) < 1e-6));
    }
    CHECK((passOf(0).shiftX == 0 && passOf(0).finer == 0));
}

TEST_CASE("four and sixteen passes come near the mean of many, and no ground gets livelier with distance") {
    const Level level = meadow();
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    for (const auto& [high, pitch, back] : {std::tuple{1.8, -12.0, 60.0}, {20.0, -30.0, 60.0}, {90.0, -60.0, 30.0}}) {
        CAPTURE(high);
        const Camera c = over(level, high, pitch, back);
        r.scene().bring(c, {});
        const Light truth = meanOf(r, c, 48, kPasses + 1), four = meanOf(r, c, 4), sixteen = meanOf(r, c, 16);
        CHECK(apart(four, truth) < 0.03);
        CHECK(apart(sixteen, truth) < 0.015);
        CHECK(apart(sixteen, truth) < apart(four, truth));
        // Along the ground a single picture is a smear, and the average is none; and every shift tells.
        const Light first = meanOf(r, c, 1, 0);
        if (high < 2)
            CHECK(lively(sixteen, kHeight / 2, kHeight - 30) > 1.1 * lively(first, kHeight / 2, kHeight - 30));
        // From below, where it is near, upwards; where there is something to tell.
        for (int top = kHeight - 16; top >= kHeight / 2 - 24; top -= 8) {
            const double far = lively(sixteen, top, top + 8), near = lively(sixteen, top + 8, top + 16);
            CAPTURE(top, far, near);
            if (near > 0.01) CHECK(far < 1.15 * near);
            if (far > 0.01) CHECK(far > 0.75 * near);
        }
    }
}

TEST_CASE("a layer keeps its tone with distance, at rest and moving") {
    const Level level = meadow();
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    std::vector<double> tones;
    for (const double far : {5.0, 15.0, 50.0, 100.0})
        for (const Finish finish : {Finish::full, Finish::quick}) {
            Camera c = over(level, 0, -32, 0);
            c.at = glm::dvec3(3, level.startHeight, -2) - c.forward() * far;
            r.scene().bring(c, {});
            r.draw(c, {}, finish);
            Shot s;
            r.read({0, 0, kWidth, kHeight}, s.bgra.data(), kWidth * 4);
            double sum = 0;
            for (int y = kHeight / 2 - 40; y < kHeight / 2 + 40; ++y)
                for (int x = kWidth / 2 - 60; x < kWidth / 2 + 60; ++x) sum += s.at(x, y).y;
            tones.push_back(sum / (80 * 120));
        }
    for (const double t : tones) CHECK(t == Approx(tones.front()).epsilon(0.05));
}

TEST_CASE("what is averaged is the mean, pixel by pixel, and what was drawn anew begins again") {
    Averager average;
    constexpr int w = 20, h = 10;
    average.resize(w, h);
    std::vector<uint32_t> picture(w * h, 0xff640000u);  // red 100
    const PixelRect all{0, 0, w, h}, part{3, 2, 5, 4};
    const auto pass = [&](const PixelRect& where, uint8_t red) {
        std::vector<uint8_t> bgra(static_cast<size_t>(where.width * where.height * 4));
        for (size_t i = 0; i < bgra.size(); i += 4) bgra[i + 2] = red, bgra[i] = static_cast<uint8_t>(red / 2);
        return average.add(where, bgra.data(), where.width * 4, picture.data());
    };
    const auto red = [&](int x, int y) {
        return static_cast<int>(picture[static_cast<size_t>(y * w + x)] >> 16 & 255);
    };
    CHECK(pass(all, 40) == 30);
    CHECK(red(0, 0) == 70);  // with the picture that stood alone
    pass(all, 70), pass(all, 90);
    CHECK(red(0, 0) == 75);
    pass(all, 20);
    CHECK(red(0, 0) == 55);  // without it
    CHECK((picture[0] & 255) == 28);
    // A part is drawn anew.
    for (int y = part.y; y < part.y + part.height; ++y)
        for (int x = part.x; x < part.x + part.width; ++x) picture[static_cast<size_t>(y * w + x)] = 0xffc80000u;
    average.forget(part);
    CHECK(average.wants(part, 1));
    CHECK_FALSE(average.wants({0, 0, 2, 2}, 4));
    pass(all, 100);
    CHECK(red(4, 3) == 150);
    CHECK(red(0, 0) == 64);
    // What is finished stays.
    average.finish(part);
    CHECK_FALSE(average.wants(part, kPasses));
    pass(all, 255);
    CHECK(red(4, 3) == 150);
}
