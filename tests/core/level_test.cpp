#include <catch2/catch.hpp>

#include <numeric>

#include "cover/weights.h"
#include "level/ground.h"
#include "level/history.h"
#include "level/strata.h"
#include "levels.h"
#include "oracles.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("a new level is flat at its start height, with room to dig") {
    NewLevel wish;
    wish.columns = 65;
    wish.rows = 33;
    wish.spacing = 2;
    wish.startHeight = 12;
    Level level = makeLevel(wish).take();
    addLayer(level, plainLayer("grass"));
    CHECK(level.width() == 128);
    CHECK(level.depth() == 64);
    CHECK(altitudeAt(level, 0, 0) == 12);
    CHECK(checkLevel(level).empty());
}

TEST_CASE("a new level out of range is refused by field") {
    const auto fieldOf = [](auto change) {
        NewLevel wish;
        change(wish);
        const Result<Level> r = makeLevel(wish);
        return r ? std::string("accepted") : r.error().field;
    };
    CHECK(fieldOf([](NewLevel& w) { w.columns = 1; }) == "columns");
    CHECK(fieldOf([](NewLevel& w) { w.rows = 9000; }) == "rows");
    CHECK(fieldOf([](NewLevel& w) { w.spacing = std::nan(""); }) == "spacing");
    CHECK(fieldOf([](NewLevel& w) { w.startHeight = 1000; }) == "start height");
    CHECK(fieldOf([](NewLevel& w) {
              w.lowest = 0;
              w.highest = 0;
          }) == "highest");
    CHECK(fieldOf([](NewLevel& w) { w.coverFactor = 3; }) == "cover factor");
    CHECK(fieldOf([](NewLevel& w) {
              w.columns = 8193;
              w.coverFactor = 2;
          }) == "cover factor");
    CHECK(fieldOf([](NewLevel&) {}) == "accepted");
}

TEST_CASE("strata add up by opacity, and hidden ones count for nothing") {
    Level level = flatLevel(80, 80);
    addStratum(level, "mound", 0);
    level.strata[1].opacity = 0.5f;
    level.strata[0].heights.set(70, 3, 10);
    level.strata[1].heights.set(70, 3, 4);
    CHECK(groundSample(level, 70, 3) == 12);
    level.strata[1].visible = false;
    CHECK(groundSample(level, 70, 3) == 10);
    level.strata[1].visible = true;

    Raster<float> row(80, 80);
    readGround(level, level.bounds(), row.view());
    CHECK(row.at(70, 3) == 12);
}

TEST_CASE("writing composed ground puts the difference into the active stratum only") {
    Level level = flatLevel(80, 80);
    level.strata[0].heights.set(5, 5, 10);
    addStratum(level, "mound", 0);
    level.strata[1].opacity = 0.5f;
    level.activeStratum = level.strata[1].id;
    Raster<float> before(3, 3), after(3, 3);
    const Region r{4, 4, 7, 7};
    readGround(level, r, before.view());
    readGround(level, r, after.view());
    after.at(1, 1) += 6;
    writeGround(level, r, before.view(), after.view());
    CHECK(groundSample(level, 5, 5) == 16);
    CHECK(level.strata[0].heights.at(5, 5) == 10);
    CHECK(level.strata[1].heights.at(5, 5) == 12);
}

TEST_CASE("ground beyond the edge repeats the edge") {
    const Level level = drawnLevel(R"(
        123
        456
    )");
    Raster<float> out(7, 6);
    readGroundBeyond(level, {-2, -2, 5, 4}, out.view());
    CHECK(out.at(0, 0) == 1);
    CHECK(out.at(6, 0) == 3);
    CHECK(out.at(0, 5) == 4);
    CHECK(out.at(6, 5) == 6);
    CHECK(out.at(3, 2) == 2);
}

TEST_CASE("altitude follows the two triangles of a cell") {
    const Level level = drawnLevel(R"(
        08
        00
    )");
    const double w = level.originX, n = level.originZ;
    CHECK(altitudeAt(level, w + 1, n) == 8);
    CHECK(altitudeAt(level, w + 0.5, n + 0.5) == Approx(0));  // on the split from north-west to south-east
    CHECK(altitudeAt(level, w + 0.75, n + 0.25) == Approx(4));
    CHECK(altitudeAt(level, w + 0.25, n + 0.75) == Approx(0));
}

TEST_CASE("weights sum to exactly 255 and follow the coverage", "[property]") {
    Random random(3);
    for (int round = 0; round < 40; ++round) {
        const int layers = wholeBetween(random, 1, 16);
        Level level = flatLevel(70, 9, layers);
        for (Layer& l : level.layers) {
            l.hidden = wholeBetween(random, 0, 5) == 0;
            if (wholeBetween(random, 0, 3) == 0) continue;
            for (int r = 0; r < 9; ++r)
                for (int c = 0; c < 70; ++c) {
                    const int kind = wholeBetween(random, 0, 3);
                    l.coverage.set(c, r,
                                   static_cast<uint16_t>(kind == 0   ? 0
                                                         : kind == 1 ? 65535
                                                                     : wholeBetween(random, 0, 65535)));
                }
        }
        bool sums = true, near = true;
        for (int r = 0; r < 9; ++r)
            for (int c = 0; c < 70; ++c) {
                const auto w = weightsAt(level, c, r);
                sums &= std::accumulate(w.begin(), w.end(), 0) == 255;
                const auto shares = plainShares(level, c, r);
                for (size_t i = 0; i < shares.size(); ++i) near &= std::abs(w[i] - 255 * shares[i]) <= 1.01;
            }
        REQUIRE(sums);
        REQUIRE(near);
    }
}

TEST_CASE("shares of the level add up to one") {
    const Level level = hillyLevel(150, 90, 5, 6);
    const auto shares = layerShares(level);
    CHECK(std::accumulate(shares.begin(), shares.end(), 0.0) == Approx(1));
    CHECK(shares[6] == 0);
}

TEST_CASE("hide and show, and reorder and back, change nothing") {
    Level level = hillyLevel(100, 100, 11, 4);
    const Level before = level;
    level.layers[2].hidden = true;
    CHECK(weightsAt(level, 50, 50)[2] == 0);
    level.layers[2].hidden = false;
    REQUIRE(moveLayer(level, level.layers[3].id, 0));
    REQUIRE(moveLayer(level, level.layers[0].id, 3));
    CHECK(level == before);
}

TEST_CASE("undo and redo of random edits give identical levels", "[property]") {
    Random random(17);
    History history(hillyLevel(130, 130, 2), "start");
    std::vector<Level> expected{history.now()};
    size_t place = 0;
    for (int step = 0; step < 1000; ++step) {
        const int what = wholeBetween(random, 0, 3);
        if (what == 0) {
            history.undo();
            if (place > 0) --place;
        } else if (what == 1) {
            history.redo();
            if (place + 1 < expected.size()) ++place;
        } else {
            Level next = history.now();
            const int c = wholeBetween(random, 0, 129), r = wholeBetween(random, 0, 129);
            if (what == 2) next.strata[0].heights.set(c, r, static_cast<float>(step));
            else next.layers[1].coverage.set(c, r, static_cast<uint16_t>(step));
            expected.resize(place + 1);
            expected.push_back(next);
            ++place;
            history.push(std::move(next), "edit");
        }
        REQUIRE(history.place() == place);
        if (step % 50 == 0) REQUIRE(history.now() == expected[place]);
    }
    for (size_t i = 0; i < expected.size(); ++i) {
        history.stepTo(i);
        REQUIRE(history.now() == expected[i]);
    }
}

TEST_CASE("history stays within its budget but keeps one step back") {
    const size_t tile = sizeof(TiledGrid<float>::Tile);
    History history(flatLevel(300, 300), "start", 4 * tile);
    for (int i = 0; i < 20; ++i) {
        Level next = history.now();
        next.strata[0].heights.set(i * 10, i * 10, 1);
        next.strata[0].heights.set(299 - i, 5, 1);
        history.push(std::move(next), "edit " + std::to_string(i));
        CHECK(history.bytes() <= 4 * tile);
        CHECK(history.canUndo());
    }
    CHECK(history.entries().size() < 6);
    CHECK(history.entries().back().what == "edit 19");
}

TEST_CASE("check finds what is broken and says where") {
    Level level = hillyLevel(70, 70, 4);
    CHECK(checkLevel(level).empty());
    Level high = level;
    high.strata[0].heights.set(33, 44, 5000);
    REQUIRE(checkLevel(high).size() == 1);
    CHECK(checkLevel(high)[0].find("column 33, row 44") != std::string::npos);
    Level twice = level;
    twice.layers[1].id = twice.layers[0].id;
    CHECK_FALSE(checkLevel(twice).empty());
    Level none = level;
    none.layers.clear();
    CHECK_FALSE(checkLevel(none).empty());
}
