// Which leg of a line is the nearest, block by block against all legs of the square.
#include <catch2/catch.hpp>

#include "course/bake.h"
#include "course/legs.h"
#include "levels.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("blocks of samples find the nearest leg that all legs of their square would give", "[property]") {
    Random random(91);
    int told = 0, narrower = 0;
    for (int round = 0; round < 60; ++round) {
        const int columns = wholeBetween(random, 20, 150), rows = wholeBetween(random, 20, 90);
        const double step = round % 2 ? 1 : 0.37, x0 = -31.5, z0 = 12.25;
        std::vector<LinePoint> line;
        const int posts = wholeBetween(random, 2, 60);
        for (int i = 0; i < posts; ++i) {
            LinePoint p;
            p.x = x0 + step * wholeBetween(random, -20, columns + 20);
            p.z = z0 + step * wholeBetween(random, -20, rows + 20);
            // Broad legs beside narrow ones: the nearest is not always one that reaches as far.
            p.width = step * wholeBetween(random, 0, i % 3 ? 3 : 30);
            p.shoulder = step * wholeBetween(random, 0, 4);
            p.height = i;
            line.push_back(p);
        }
        const double size = 64 * step, edge = 0.5 * step;
        const int across = (columns + 63) / 64, down = (rows + 63) / 64;
        const LegsBy legs(line, x0 - edge, z0 - edge, size, across, down, -1);
        for (int tz = 0; tz < down; ++tz)
            for (int tx = 0; tx < across; ++tx) {
                const Region square =
                    Region{64 * tx, 64 * tz, 64 * tx + 64, 64 * tz + 64}.clipped({0, 0, columns, rows});
                std::vector<char> seen(64 * 64);
                eachNear(legs, tx, tz, square, x0, z0, step, [&](int x, int z, const Near& n) {
                    const Near all = legs.nearest(tx, tz, x0 + x * step, z0 + z * step);
                    REQUIRE(n.away == all.away);
                    REQUIRE(n.height == all.height);
                    REQUIRE(n.side == all.side);
                    seen[static_cast<size_t>((z - square.z0) * 64 + x - square.x0)] = 1;
                    ++told;
                    narrower += n.away > 0.5 * n.width + n.shoulder;
                });
                // What is passed over, no leg reaches.
                for (int z = square.z0; z < square.z1; ++z)
                    for (int x = square.x0; x < square.x1; ++x)
                        if (!seen[static_cast<size_t>((z - square.z0) * 64 + x - square.x0)]) {
                            const Near all = legs.nearest(tx, tz, x0 + x * step, z0 + z * step);
                            REQUIRE(all.away > 0.5 * all.width + all.shoulder);
                        }
            }
    }
    REQUIRE(told > 1000);
    REQUIRE(narrower > 100);
}

TEST_CASE("the leg that counts is the same whichever square of the map it is looked up in", "[property]") {
    Random random(17);
    int narrow = 0, compared = 0;
    for (int round = 0; round < 40; ++round) {
        const double step = 0.75, size = 64 * step;
        std::vector<LinePoint> line;
        for (int i = 0, posts = wholeBetween(random, 2, 9); i < posts; ++i) {
            LinePoint p;
            p.x = between(random, -20, 130), p.z = between(random, -20, 90);
            // The broadest and the finest side by side, with and without shoulders.
            p.width = round % 5 == 0 ? 6 : wholeBetween(random, 0, 2) * 17.5 + 0.3;
            p.shoulder = round % 5 == 0 ? 4 : wholeBetween(random, 0, 3) * 6;
            p.height = i;
            line.push_back(p);
        }
        for (const double beyond : {-1.0, 0.0, 12.0}) {
            const LegsBy squares(line, 0, 0, size, 3, 2, beyond), whole(line, -1000, -1000, 3000, 1, 1, beyond);
            for (int tz = 0; tz < 2; ++tz)
                for (int tx = 0; tx < 3; ++tx)
                    eachNear(squares, tx, tz, {64 * tx, 64 * tz, 64 * tx + 64, 64 * tz + 64}, 0, 0, step,
                             [&](int x, int z, const Near& n) {
                                 const Near all = whole.nearest(0, 0, x * step, z * step);
                                 const auto reaches = [&](const Near& m) {
                                     return m.away - 0.5 * m.width <= (beyond < 0 ? m.shoulder : beyond);
                                 };
                                 REQUIRE(reaches(n) == reaches(all));
                                 if (!reaches(n)) return;
                                 ++compared;
                                 REQUIRE(n.away == all.away);
                                 REQUIRE(n.height == all.height);
                                 narrow += n.width < 1;
                             });
        }
    }
    REQUIRE(compared > 100'000);
    REQUIRE(narrow > 300);
}

TEST_CASE("courses that cross each other run alike, however many of them are asked for at once") {
    Level level = hillyLevel(161, 121, 17, 4);
    Random random(5);
    for (int i = 0; i < 14; ++i) {
        Course c;
        c.smooth = i % 2;
        c.use = i == 3 ? CourseUse::carve : i == 5 ? CourseUse::bank : CourseUse::grade;
        for (int k = 0; k < 4; ++k) {
            Post p;
            p.x = level.originX + between(random, 0, level.width()),
            p.z = level.originZ + between(random, 0, level.depth());
            if (k % 2) p.height = static_cast<float>(between(random, 0, 20));
            c.posts.push_back(p);
        }
        addCourse(level, "course " + std::to_string(i), c);
    }
    // One that is crossed far below others still tells them its height.
    CourseLines lines(level);
    size_t met = 0;
    for (size_t i = level.strata.size(); i-- > 1;) {
        const std::vector<LinePoint> alone = lineOf(level, i);
        const std::vector<LinePoint>& together = lines.of(i);
        REQUIRE(alone.size() == together.size());
        for (size_t k = 0; k < alone.size(); ++k) CHECK(alone[k].height == together[k].height);
        Level apart = level;
        apart.strata[i].course->meets = false;
        const std::vector<LinePoint> over = lineOf(apart, i);
        for (size_t k = 0; k < alone.size(); ++k) met += alone[k].height != over[k].height;
    }
    CHECK(met > 1000);
}
