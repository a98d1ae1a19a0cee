// Moving pictures in fewer pixels: enlarging is exact where it can be, and the coarse picture lies where the fine one
// does.
#include <catch2/catch.hpp>
#include <cmath>

#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/software/enlarge.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("an enlarged row keeps its centres, its ends and its slope", "[property]") {
    Random random(5);
    for (int round = 0; round < 200; ++round) {
        const int few = wholeBetween(random, 2, 60), whole = wholeBetween(random, few, 3 * few);
        const Enlarged all = enlarged(few, whole, 0, whole);
        REQUIRE(static_cast<int>(all.from.size()) == whole);
        // A ramp in the first channel, a constant in the others.
        std::vector<uint32_t> in(static_cast<size_t>(few)), out(static_cast<size_t>(whole));
        for (int i = 0; i < few; ++i) in[static_cast<size_t>(i)] = 0xff60c800u + static_cast<uint32_t>(4 * i);
        enlarge(in.data(), all, out.data());
        for (int i = 0; i < whole; ++i) {
            INFO(few << " of " << whole << " at " << i);
            REQUIRE(all.from[static_cast<size_t>(i)] >= 0);
            REQUIRE(all.from[static_cast<size_t>(i)] + 1 < few);
            const double at = std::clamp((i + 0.5) * few / whole - 0.5, 0.0, few - 1.0);
            const uint32_t p = out[static_cast<size_t>(i)];
            REQUIRE(std::abs(static_cast<int>(p & 255) - 4 * at) <= 0.6);
            REQUIRE(p >> 8 == 0xff60c8u);
        }
        // Part of it is the same part.
        const int first = wholeBetween(random, 0, whole - 1), end = wholeBetween(random, first, whole);
        const Enlarged part = enlarged(few, whole, first, end);
        for (int i = first; i < end; ++i) {
            REQUIRE(part.from[static_cast<size_t>(i - first)] == all.from[static_cast<size_t>(i)]);
            REQUIRE(part.share[static_cast<size_t>(i - first)] == all.share[static_cast<size_t>(i)]);
        }
    }
}

TEST_CASE("rows between two rows are their mixes, at every share") {
    std::vector<uint8_t> a(256), b(256), out(256);
    for (size_t i = 0; i < 256; ++i) a[i] = static_cast<uint8_t>(i), b[i] = static_cast<uint8_t>(i * 7);
    for (uint32_t share = 0; share < 256; ++share) {
        between(a.data(), b.data(), share, 256, out.data());
        for (size_t i = 0; i < 256; ++i)
            REQUIRE(out[i] == std::floor((a[i] * (256 - share) + b[i] * share + 128) / 256.0));
    }
}

namespace {

Shot coarse(PixelRenderer& r, Finish finish, const Camera& c, const PixelRect& part = {0, 0, kWidth, kHeight},
            Shot s = {}) {
    r.scene().bring(c, {});
    const bool whole = part.width == kWidth && part.height == kHeight;
    r.draw(c, {}, finish, whole ? nullptr : &part);
    r.readCoarse(part, s.bgra.data() + (part.y * kWidth + part.x) * 4, kWidth * 4);
    return s;
}

double apart(const Shot& a, const Shot& b, int dx, int dy) {
    double sum = 0;
    for (int y = 4; y < kHeight - 4; ++y)
        for (int x = 4; x < kWidth - 4; ++x) {
            const glm::ivec3 d = a.at(x, y) - b.at(x + dx, y + dy);
            sum += std::abs(d.x) + std::abs(d.y) + std::abs(d.z);
        }
    return sum / (3.0 * kWidth * kHeight);
}

}  // namespace

// How much neighbouring pixels differ, in the lower half of a picture, where the ground is near.
static double sharpness(const Shot& s) {
    double sum = 0;
    for (int y = kHeight / 2; y < kHeight - 2; ++y)
        for (int x = 2; x < kWidth - 2; ++x) {
            const glm::ivec3 across = s.at(x, y) - s.at(x + 2, y), down = s.at(x, y) - s.at(x, y + 2);
            sum += std::abs(across.y) + std::abs(down.y);
        }
    return sum;
}

TEST_CASE("fewer pixels read the ground as finely as all of them do") {
    // Cover that changes from sample to sample: read as coarsely as fewer pixels ask for, it comes to 0.73 and 0.63.
    Level l = hillyLevel(257, 257, 2, 3);
    Random random(5);
    for (int r = 0; r < l.coverRows(); ++r)
        for (int c = 0; c < l.coverColumns(); ++c)
            l.layers[1].coverage.set(c, r, wholeBetween(random, 0, 1) ? kFullCover : uint16_t{0});
    const HeightPyramid pyramid(l);
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = {0, pyramid.whole().high + 260, 0};
    c.pitch = -89;
    renderer().scene().sync(l, pyramid);
    const double quick = sharpness(take(renderer(), c, Finish::quick));
    INFO("two thirds " << sharpness(coarse(renderer(), Finish::coarse, c)) / quick << ", half "
                       << sharpness(coarse(renderer(), Finish::coarsest, c)) / quick);
    CHECK(sharpness(coarse(renderer(), Finish::coarse, c)) > 0.79 * quick);
    CHECK(sharpness(coarse(renderer(), Finish::coarsest, c)) > 0.69 * quick);
}

TEST_CASE("the coarse picture is the quick one in fewer pixels, and lies exactly there") {
    const Level l = chequeredLevel(161, 121, 3, 20, 30);
    const HeightPyramid pyramid(l);
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = {l.originX + 70, 60, l.originZ + l.depth() + 5};
    c.pitch = -35, c.yaw = 8;
    renderer().scene().sync(l, pyramid);
    const Finish finish = GENERATE(Finish::coarse, Finish::coarsest);
    const Shot quick = take(renderer(), c, Finish::quick), few = coarse(renderer(), finish, c);
    const double here = apart(few, quick, 0, 0);
    CHECK(here < (finish == Finish::coarse ? 6 : 9));
    CHECK(here > 0);
    for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) CHECK(apart(few, quick, dx, dy) > here);
    // What is kept stays as it was.
    Shot kept;
    renderer().read({0, 0, kWidth, kHeight}, kept.bgra.data(), kWidth * 4);
    CHECK(kept == quick);
    // In parts, of any size and at any edge, it comes out as in one, which has more grain than a whole picture.
    Random random(9);
    const PixelRect all{0, 0, kWidth, kHeight};
    Shot one;
    renderer().draw(c, {}, finish, &all);
    renderer().readCoarse(all, one.bgra.data(), kWidth * 4);
    Shot parts = one;
    for (int round = 0; round < 30; ++round) {
        PixelRect p;
        p.x = wholeBetween(random, 0, kWidth - 2), p.y = wholeBetween(random, 0, kHeight - 2);
        p.width = wholeBetween(random, 1, kWidth - p.x), p.height = wholeBetween(random, 1, kHeight - p.y);
        for (int y = p.y; y < p.y + p.height; ++y)
            std::fill_n(parts.bgra.begin() + (y * kWidth + p.x) * 4, p.width * 4, uint8_t{0});
        parts = coarse(renderer(), finish, c, p, parts);
        INFO(p.x << " " << p.y << " " << p.width << " " << p.height);
        REQUIRE(parts == one);
    }
}
