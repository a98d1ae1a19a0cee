// Figures and light that follow changes, against those worked out from the start.
#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <map>

#include "level/changes.h"
#include "level/ground.h"
#include "level/opening.h"
#include "levels.h"
#include "survey/openings.h"
#include "survey/sunlight.h"
#include "survey/tallies.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("figures that follow a change are those counted from the start", "[property]") {
    Level level = lopsidedLevel();
    level.spacing *= 0.25;  // so steep that much of it is drawn out
    Random random(61);
    Tallies followed;
    followed.follow(level, nullptr);
    const auto column = [&] { return wholeBetween(random, 0, level.columns - 1); };
    const auto row = [&] { return wholeBetween(random, 0, level.rows - 1); };
    for (int round = 0; round < 120; ++round) {
        const Level before = level;
        // One thing or two at once, often at the border of a tile, whose neighbour counts slopes of it.
        for (int k = 0; k <= round % 2; ++k) switch (wholeBetween(random, 0, 9)) {
                case 0:
                    level.strata[0].heights.set(column(), row(), static_cast<float>(between(random, -20, 20)));
                    break;
                case 1: level.strata[1].heights.set(64, row(), static_cast<float>(between(random, -9, 9))); break;
                case 2: level.strata[0].heights.set(column(), 63, static_cast<float>(between(random, -9, 9))); break;
                default: {
                    // A patch of one layer, which is laid from above or from the sides.
                    TiledGrid<uint16_t>& cover = level.layers[static_cast<size_t>(wholeBetween(random, 1, 9))].coverage;
                    const int c0 = wholeBetween(random, 0, cover.columns() - 20),
                              r0 = wholeBetween(random, 0, cover.rows() - 20);
                    const auto value = static_cast<uint16_t>(wholeBetween(random, 0, 1) * kFullCover);
                    for (int i = 0; i < 400; ++i) cover.set(c0 + i % 20, r0 + i / 20, value);
                    break;
                }
                case 4:
                    level.opening.set(column(), row(), static_cast<uint8_t>(wholeBetween(random, 0, 1) * 255));
                    break;
                case 5: level.layers[static_cast<size_t>(wholeBetween(random, 1, 9))].hidden ^= true; break;
                case 6: level.layers[static_cast<size_t>(wholeBetween(random, 0, 9))].sides ^= true; break;
            }
        const Change change = changesBetween(level, before);
        followed.follow(level, &change);
        Tallies anew;
        anew.follow(level, nullptr);
        INFO("round " << round);
        const GroundFigures a = followed.ground(level), b = anew.ground(level);
        CHECK(a.lowest == b.lowest);
        CHECK(a.highest == b.highest);
        CHECK(a.mean == b.mean);
        CHECK(a.steepest == b.steepest);
        CHECK(a.steepestX == b.steepestX);
        CHECK(a.steepestZ == b.steepestZ);
        CHECK(a.counted == b.counted);
        CHECK(a.slopes == b.slopes);
        CHECK(followed.shares() == anew.shares());
        CHECK(followed.stretched() == anew.stretched());
        CHECK(anew.stretched() > 0.02);
    }
}

TEST_CASE("sunlight that follows a change is that of the whole ground", "[property]") {
    Random random(62);
    for (const float azimuth : {0.f, 40.f, 135.f, 181.f, 250.f, 300.f, 359.f})
        for (const float elevation : {3.f, 25.f, 90.f}) {
            Level level = hillyLevel(310, 210, static_cast<uint32_t>(azimuth), 1);
            level.sun = {azimuth, elevation};
            Raster<uint8_t> light(level.columns, level.rows), whole(level.columns, level.rows);
            SunShade shade;
            REQUIRE(shade.follow(level, nullptr, light.view()));
            for (int round = 0; round < 6; ++round) {
                // Towers that come and go, whose shadows meet, and none at all.
                TileSet changed;
                for (int k = 0; k < round; ++k) {
                    const int c = wholeBetween(random, 0, level.columns - 1),
                              r = wholeBetween(random, 0, level.rows - 1);
                    level.strata[0].heights.set(c, r, static_cast<float>(between(random, -10, 60)));
                    changed.add({c, r, c + 1, r + 1});
                }
                REQUIRE(shade.follow(level, &changed, light.view()));
                readSunlight(level, whole.view());
                int other = 0;
                for (int r = 0; r < level.rows; ++r)
                    for (int c = 0; c < level.columns; ++c) other += light.at(c, r) != whole.at(c, r);
                INFO("sun " << azimuth << ", " << elevation << ", round " << round);
                CHECK(other == 0);
            }
        }
}

TEST_CASE("openings agree with a slow search from cell to cell", "[property]") {
    Random random(63);
    constexpr float kWalks = 30;
    int reached = 0, cutOff = 0;
    for (int round = 0; round < 40; ++round) {
        Level level = hillyLevel(wholeBetween(random, 20, 150), wholeBetween(random, 20, 90),
                                 static_cast<uint32_t>(round), 1);
        level.spacing = 0.6 + 0.05 * round;  // from mostly steep to mostly not
        for (int k = 0; k < 12; ++k) {
            const int c0 = wholeBetween(random, 0, level.columns - 2), r0 = wholeBetween(random, 0, level.rows - 2);
            for (int r = r0; r < std::min(r0 + wholeBetween(random, 2, 9), level.rows); ++r)
                for (int c = c0; c < std::min(c0 + wholeBetween(random, 2, 9), level.columns); ++c)
                    (k % 4 ? level.opening : level.noLand).set(c, r, 255);
        }
        // What each cell is; pieces found by handing the least number on until nothing changes.
        const int w = level.columns - 1, d = level.rows - 1;
        const auto kind = [&](int c, int r) {
            const auto mean = [&](auto of) {
                return (of(c, r) + of(c + 1, r) + of(c, r + 1) + of(c + 1, r + 1)) / 4.0;
            };
            if (mean([&](int x, int z) { return level.noLand.at(x, z); }) >= 127.5) return 'n';
            if (mean([&](int x, int z) { return level.opening.at(x, z); }) >= 127.5) return 'o';
            const auto h = [&](int x, int z) { return static_cast<double>(groundSample(level, x, z)); };
            const auto steep = [&](double east, double south) {
                return std::atan(std::hypot(east, south) / level.spacing) * 180 / 3.14159265358979 > kWalks;
            };
            return steep(h(c + 1, r) - h(c, r), h(c + 1, r + 1) - h(c + 1, r)) ||
                           steep(h(c + 1, r + 1) - h(c, r + 1), h(c, r + 1) - h(c, r))
                       ? 's'
                       : 'w';
        };
        Raster<char> kinds(w, d);
        Raster<int> piece(w, d);
        for (int r = 0; r < d; ++r)
            for (int c = 0; c < w; ++c) kinds.at(c, r) = kind(c, r), piece.at(c, r) = r * w + c;
        const auto beside = [&](int c, int r, auto f) {
            for (const auto& [x, z] : {std::pair(c + 1, r), {c - 1, r}, {c, r + 1}, {c, r - 1}})
                if (x >= 0 && z >= 0 && x < w && z < d) f(x, z);
        };
        for (bool more = true; more;) {
            more = false;
            for (int r = 0; r < d; ++r)
                for (int c = 0; c < w; ++c)
                    beside(c, r, [&](int x, int z) {
                        if (kinds.at(x, z) != kinds.at(c, r) || piece.at(x, z) >= piece.at(c, r)) return;
                        piece.at(c, r) = piece.at(x, z), more = true;
                    });
        }
        std::map<int, int> walks, holes;
        for (int r = 0; r < d; ++r)
            for (int c = 0; c < w; ++c) {
                if (kinds.at(c, r) == 'w') ++walks[piece.at(c, r)];
                if (kinds.at(c, r) == 'o') ++holes[piece.at(c, r)];
            }
        int largest = 0;
        for (const auto& [p, cells] : walks) largest = std::max(largest, cells);
        if (std::count_if(walks.begin(), walks.end(), [&](auto& p) { return p.second == largest; }) > 1) continue;
        std::vector<std::pair<int, bool>> wanted, found;
        for (const auto& [p, cells] : holes) {
            bool rim = false, got = false;
            for (int r = 0; r < d; ++r)
                for (int c = 0; c < w; ++c)
                    if (kinds.at(c, r) == 'o' && piece.at(c, r) == p)
                        beside(c, r, [&](int x, int z) {
                            rim |= kinds.at(x, z) == 'w' || kinds.at(x, z) == 's';
                            got |= kinds.at(x, z) == 'w' && walks[piece.at(x, z)] == largest;
                        });
            if (rim) wanted.emplace_back(cells, got), (got ? reached : cutOff) += 1;
        }
        for (const FoundOpening& o : surveyOpenings(level, kWalks)) {
            found.emplace_back(static_cast<int>(std::lround(o.area / level.spacing / level.spacing)), o.reached);
            CHECK(groundAt(level, o.x, o.z));
        }
        std::sort(wanted.begin(), wanted.end()), std::sort(found.begin(), found.end());
        INFO("round " << round << ", " << w << " x " << d);
        CHECK(found == wanted);
    }
    CHECK(reached > 20);
    CHECK(cutOff > 20);
}
