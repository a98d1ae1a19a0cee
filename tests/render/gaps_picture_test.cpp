// Where there is no ground the picture has none: pixel by pixel against the level's own definition.
#include <catch2/catch.hpp>
#include <cmath>

#include "level/ground.h"
#include "level/opening.h"
#include "levels.h"
#include "match/neighbour.h"
#include "picture.h"
#include "survey/pick.h"

using namespace jam;
using namespace jam::test;

namespace {

// Red ground, which no sky and no inside of a hill is.
Level redLevel(int columns, int rows) {
    Level l = flatLevel(columns, rows, 0, 1.5);
    addLayer(l, plainLayer("red", 210, 30, 30));
    return l;
}
bool isGround(const glm::ivec3& p) { return p.r > 60 && p.r > 2 * p.b; }

Camera above(const Level& l, double height) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.pitch = -80;
    c.at = {l.originX + l.width() / 2, height, l.originZ + l.depth() / 2 + 8};
    return c;
}

// Pixels that do not agree; those that an edge may cross are left out.
int wrongPixels(const Level& l, const HeightPyramid& pyramid, const Camera& c, const Shot& shot, int& looked) {
    int wrong = 0;
    for (int y = 2; y < kHeight - 2; y += 3)
        for (int x = 2; x < kWidth - 2; x += 3) {
            // The surface that is or would be there, at the pixel and round it.
            std::optional<bool> there;
            bool clear = true;
            for (const auto& [dx, dy] :
                 {std::pair{0, 0}, {2, 0}, {-2, 0}, {0, 2}, {0, -2}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}}) {
                const auto at = pickGround(l, pyramid, c.ray(x + dx, y + dy), 1e9, Meet::surface);
                if (!at) return clear = false, wrong;
                const bool g = groundAt(l, at->x, at->z);
                if (!there) there = g;
                clear = clear && *there == g;
            }
            if (!clear) continue;
            ++looked;
            wrong += isGround(shot.at(x, y)) != *there;
        }
    return wrong;
}

}  // namespace

TEST_CASE("the picture has ground where the level has, on random masks", "[property]") {
    Random random(21);
    for (int round = 0; round < 12; ++round) {
        Level l = redLevel(161, 121);
        l.smoothEdges = round % 2 == 0;
        for (int r = 0; r < l.rows; ++r)
            for (int c = 0; c < l.columns; ++c)
                l.strata[0].heights.set(c, r, static_cast<float>(2 * std::sin(c * 0.1) + std::cos(r * 0.07)));
        // Blobs, so that there is something to see between the edges.
        Gaps& mask = round % 3 == 2 ? l.noLand : l.opening;
        for (int k = 0; k < 12; ++k) {
            const int cc = wholeBetween(random, 30, 130), cr = wholeBetween(random, 20, 100),
                      size = wholeBetween(random, 3, 14);
            for (int r = cr - size; r <= cr + size; ++r)
                for (int c = cc - size; c <= cc + size; ++c)
                    if (std::hypot(c - cc, r - cr) <= size)
                        mask.set(c, r, static_cast<uint8_t>(wholeBetween(random, 128, 255)));
        }
        const HeightPyramid pyramid(l);
        renderer().scene().sync(l, pyramid);
        const Camera c = above(l, round < 6 ? 70 : 110);
        for (const Finish finish : {Finish::quick, Finish::full}) {
            int looked = 0;
            const Shot shot = take(renderer(), c, finish);
            const int wrong = wrongPixels(l, pyramid, c, shot, looked);
            INFO("round " << round << ", " << looked << " pixels");
            CHECK(looked > 1000);
            CHECK(wrong == 0);
        }
        // Changed a little, it is drawn as if it were new.
        Level next = l;
        for (int r = 40; r < 60; ++r)
            for (int cc = 60; cc < 90; ++cc)
                next.opening.set(cc, r, static_cast<uint8_t>(next.opening.at(cc, r) > 0 ? 0 : 255));
        Change hint;
        hint.gaps = TileSet(Region{60, 40, 90, 60});
        const HeightPyramid same(next);
        renderer().scene().sync(next, same, &hint);
        const Shot changed = take(renderer(), c, Finish::full);
        int looked = 0;
        CHECK(wrongPixels(next, same, c, changed, looked) == 0);
        // And with the ground back everywhere, there is no hole left.
        next.opening = next.noLand = Gaps(next.columns, next.rows, 0);
        renderer().scene().sync(next, same);
        CHECK(wrongPixels(next, same, c, take(renderer(), c, Finish::full), looked) == 0);
    }
}

TEST_CASE("a few gaps in a large level lie where they are, wherever others come later") {
    Level l = redLevel(601, 421);
    const auto hole = [&](int column, int row, int size) {
        for (int r = row - size; r <= row + size; ++r)
            for (int c = column - size; c <= column + size; ++c)
                if (std::hypot(c - column, r - row) <= size) l.opening.set(c, r, 255);
    };
    const auto agrees = [&](int column, int row, const Change* hint) {
        const HeightPyramid pyramid(l);
        renderer().scene().sync(l, pyramid, hint);
        Camera c = above(l, 60);
        c.at.x = l.originX + column * l.spacing, c.at.z = l.originZ + row * l.spacing + 8;
        int looked = 0, wrong = wrongPixels(l, pyramid, c, take(renderer(), c, Finish::full), looked);
        CHECK(looked > 1000);
        CHECK(wrong == 0);
        // The cell in the middle is open and those around it are not.
        CHECK_FALSE(groundAt(l, c.at.x, c.at.z - 8));
    };
    hole(430, 300, 9);
    agrees(430, 300, nullptr);
    // Near the first, by a hand; then far from it on all sides.
    const std::pair<int, int> later[] = {{452, 310}, {70, 60}, {540, 350}, {65, 345}};
    for (const auto& [column, row] : later) {
        hole(column, row, 5);
        Change hint;
        hint.gaps = TileSet(Region{column - 5, row - 5, column + 6, row + 6});
        agrees(column, row, &hint);
        agrees(430, 300, nullptr);
    }
    // All of them gone but one that never was.
    l.opening = Gaps(l.columns, l.rows, 0);
    hole(300, 30, 7);
    agrees(300, 30, nullptr);
}

TEST_CASE("cliffs hang from the edge of the land, as deep as they are said to be, and nowhere else") {
    Level l = redLevel(101, 81);
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c)
            if (c < 20 || c > 80 || r < 15 || r > 65) l.noLand.set(c, r, 255);
    l.cliff = 20;
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = {l.originX + 75, 4, l.originZ + 170};
    c.yaw = 0, c.pitch = -6;
    const auto shot = [&] {
        const HeightPyramid pyramid(l);
        renderer().scene().sync(l, pyramid);
        return take(renderer(), c, Finish::full);
    };
    const double edge = l.originZ + 65.5 * 1.5;
    // Where there is neither ground nor cliff there is what one sees without any land.
    Level nothing = l;
    for (int r = 0; r < l.rows; ++r)
        for (int k = 0; k < l.columns; ++k) nothing.noLand.set(k, r, 255);
    const HeightPyramid none(nothing);
    renderer().scene().sync(nothing, none);
    const Shot sky = take(renderer(), c, Finish::full);
    const auto earthAt = [&](const Shot& s, double x, double y) {
        const auto p = c.pixel({x, y, edge});
        REQUIRE(p);
        const glm::ivec3 d = s.at(static_cast<int>(p->x), static_cast<int>(p->y)) -
                             sky.at(static_cast<int>(p->x), static_cast<int>(p->y));
        return std::abs(d.r) + std::abs(d.g) + std::abs(d.b) > 12;
    };
    Shot s = shot();
    CHECK(earthAt(s, l.originX + 75, -2));
    CHECK(earthAt(s, l.originX + 75, -18));
    CHECK_FALSE(earthAt(s, l.originX + 75, -23));
    CHECK_FALSE(earthAt(s, l.originX + 27, -5));
    // They follow the ground, and go with the land.
    for (int r = 0; r < l.rows; ++r)
        for (int k = 0; k < l.columns; ++k) l.strata[0].heights.set(k, r, -10);
    s = shot();
    CHECK(earthAt(s, l.originX + 75, -28));
    CHECK_FALSE(earthAt(s, l.originX + 75, -2));
    l.cliff = 0;
    CHECK_FALSE(earthAt(shot(), l.originX + 75, -20));
    l.cliff = 20;
    // An opening has none.
    std::swap(l.opening, l.noLand);
    CHECK_FALSE(earthAt(shot(), l.originX + 27, -5));
}

TEST_CASE("a neighbour's ghost lies beyond the side that it is on") {
    Level l = redLevel(81, 61);
    Level beside = flatLevel(81, 40, 1, 1.5);
    for (int r = 0; r < 40; ++r)
        for (int c = 0; c < 81; ++c) beside.strata[0].heights.set(c, r, 6);
    const HeightPyramid pyramid(l);
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.pitch = -89.9;
    c.at = {l.originX + 60, 190, l.originZ + 45};
    renderer().scene().sync(l, pyramid);
    const Shot alone = take(renderer(), c, Finish::full);
    const auto differs = [&](const Shot& s, double x, double z) {
        const auto p = c.pixel({x, 6, z});
        REQUIRE(p);
        return s.at(static_cast<int>(p->x), static_cast<int>(p->y)) !=
               alone.at(static_cast<int>(p->x), static_cast<int>(p->y));
    };
    std::array<std::shared_ptr<const Level>, kLevelSides> strips;
    strips[static_cast<size_t>(Side::north)] = std::make_shared<const Level>(beside);
    renderer().scene().setGhosts(strips);
    const Shot s = take(renderer(), c, Finish::full);
    CHECK(differs(s, l.originX + 60, l.originZ - 6));
    CHECK_FALSE(differs(s, l.originX + 60, l.originZ + l.depth() + 6));
    CHECK_FALSE(differs(s, l.originX + l.width() + 6, l.originZ + 40));
    renderer().scene().setGhosts({});
    CHECK(take(renderer(), c, Finish::full) == alone);
}

TEST_CASE("through an opening one sees the dark inside of the hill, above the foot of its sides, and no sky") {
    Level l = redLevel(121, 91);
    for (int r = 20; r < 70; ++r)
        for (int c = 30; c < 100; ++c) l.opening.set(c, r, 255);
    Camera c = above(l, 60);
    const HeightPyramid pyramid(l);
    renderer().scene().sync(l, pyramid);
    for (const Finish finish : {Finish::quick, Finish::full}) {
        const glm::ivec3 inside = take(renderer(), c, finish).at(kWidth / 2, kHeight / 2);
        INFO((finish == Finish::quick ? "quick" : "full"));
        CHECK(inside.r + inside.g + inside.b < 240);
        CHECK(inside.b < 90);
    }
    // A level whose land floats has no inside: there the sky is seen.
    for (int r = 0; r < l.rows; ++r) l.noLand.set(0, r, 255);
    const HeightPyramid same(l);
    renderer().scene().sync(l, same);
    for (const Finish finish : {Finish::quick, Finish::full})
        CHECK(take(renderer(), c, finish).at(kWidth / 2, kHeight / 2).b > 120);
}
