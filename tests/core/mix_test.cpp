// Weights written back as coverage, layers replaced, merged and filled, and cover made finer and coarser.
#include <catch2/catch.hpp>

#include <atomic>
#include <cmath>

#include "cover/mix.h"
#include "cover/resolution.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "levels.h"
#include "oracles.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

void write(Level& level, const std::vector<Raster<uint8_t>>& planes) {
    std::vector<View<const uint8_t>> views;
    for (const auto& p : planes) views.push_back(p.view());
    writeWeights(level, level.coverBounds(), views);
}

int greatestDifference(const std::vector<Raster<uint8_t>>& a, const std::vector<Raster<uint8_t>>& b) {
    int most = 0;
    for (size_t i = 0; i < a.size(); ++i)
        for (int z = 0; z < a[i].depth(); ++z)
            for (int x = 0; x < a[i].width(); ++x) most = std::max(most, std::abs(a[i].at(x, z) - b[i].at(x, z)));
    return most;
}

}  // namespace

TEST_CASE("weights that are written are read again bit for bit", "[property]") {
    Random random(12);
    for (int layers : {1, 2, 3, 5, 9, 16}) {
        Level level = flatLevel(83, 71, layers);
        std::vector<Raster<uint8_t>> planes(static_cast<size_t>(layers), Raster<uint8_t>(83, 71));
        for (int z = 0; z < 71; ++z)
            for (int x = 0; x < 83; ++x) {
                // Any split of 255, with many zeros, ones and full weights among them.
                int left = 255;
                for (int i = 0; i + 1 < layers; ++i) {
                    const int kind = wholeBetween(random, 0, 5);
                    const int w = kind == 0   ? left
                                  : kind == 1 ? std::min(left, 1)
                                  : kind == 2 ? 0
                                              : wholeBetween(random, 0, left);
                    planes[static_cast<size_t>((i + x) % layers)].at(x, z) = static_cast<uint8_t>(w);
                    left -= w;
                }
                planes[static_cast<size_t>((layers - 1 + x) % layers)].at(x, z) = static_cast<uint8_t>(left);
            }
        write(level, planes);
        CHECK(greatestDifference(weightsOf(level), planes) == 0);
        CHECK(checkLevel(level).empty());
    }
}

TEST_CASE("a replaced layer hands over exactly what it showed", "[property]") {
    Random random(5);
    for (int round = 0; round < 12; ++round) {
        Level level = hillyLevel(70, 66, static_cast<uint32_t>(round), 5);
        const int from = wholeBetween(random, 0, 4);
        const int to = (from + wholeBetween(random, 1, 4)) % 5;
        const Level before = level;
        REQUIRE(
            replaceLayer(level, level.layers[static_cast<size_t>(from)].id, level.layers[static_cast<size_t>(to)].id));
        for (int k = 0; k < 300; ++k) {
            const int c = wholeBetween(random, 0, 69), r = wholeBetween(random, 0, 65);
            const auto was = plainShares(before, c, r), is = plainShares(level, c, r);
            for (int i = 0; i < 5; ++i) {
                const double wanted = i == from ? 0
                                      : i == to ? was[static_cast<size_t>(from)] + was[static_cast<size_t>(to)]
                                                : was[static_cast<size_t>(i)];
                REQUIRE(is[static_cast<size_t>(i)] == Approx(wanted).margin(1e-4));
            }
        }
        // Under a brush: outside nothing, in the middle with full strength all of it.
        Level brushed = before;
        const Dab dab = dabOn(before, 0, 0, 20, {Curve::smooth, 0.5f}, 1);
        replaceUnder(brushed, dab, 1, before.layers[static_cast<size_t>(from)].id,
                     before.layers[static_cast<size_t>(to)].id);
        CHECK(brushed.layers[static_cast<size_t>(to)].coverage.at(2, 2) ==
              before.layers[static_cast<size_t>(to)].coverage.at(2, 2));
        CHECK(plainShares(brushed, 35, 33)[static_cast<size_t>(from)] == Approx(0).margin(1e-4));
    }
}

TEST_CASE("the finest strength replaces a layer in the end") {
    Level level = flatLevel(20, 20, 2);
    const Dab dab = dabOn(level, 0, 0, 30, {Curve::smooth, 0.f}, 1);
    for (int i = 0; i < 70000 && weightsAt(level, 10, 10)[1] < 255; ++i)
        replaceUnder(level, dab, kMinShare / 10, level.layers[0].id, level.layers[1].id);
    CHECK(weightsAt(level, 10, 10)[1] == 255);
}

TEST_CASE("merging leaves the other layers' mix as it was") {
    Level level = hillyLevel(64, 64, 3, 4);
    const Level before = level;
    REQUIRE(mergeDown(level, level.layers[2].id));
    REQUIRE(level.layers.size() == 3);
    for (int i = 0; i < 64; i += 3) {
        const auto was = plainShares(before, i, 63 - i), is = plainShares(level, i, 63 - i);
        CHECK(is[0] == Approx(was[0]).margin(1e-4));
        CHECK(is[1] == Approx(was[1] + was[2]).margin(1e-4));
        CHECK(is[2] == Approx(was[3]).margin(1e-4));
    }
}

TEST_CASE("filling keeps to its limits, covers all the rest, and can be cancelled") {
    Level level = flatLevel(90, 70, 3);
    for (int r = 0; r < 70; ++r)
        for (int c = 45; c < 90; ++c) level.strata[0].heights.set(c, r, 20);
    PaintWhere where;
    where.altitudeFrom = 10;
    Level filled = level;
    REQUIRE(fillLayer(filled, level.layers[2].id, 1, where));
    CHECK(weightsAt(filled, 80, 30)[2] == 255);
    CHECK(weightsAt(filled, 10, 30)[2] == 0);
    const std::atomic<bool> stop{true};
    Context cancel;
    cancel.cancel = &stop;
    Level same = level;
    CHECK_FALSE(fillLayer(same, level.layers[2].id, 1, {}, cancel));
    CHECK(same == level);
    REQUIRE(fillLayer(same, level.layers[2].id, 0.5f, {}));
    CHECK(weightsAt(same, 3, 3)[2] == Approx(128).margin(1));
}

TEST_CASE("finer cover and back is an identity; coarser cover says what it loses") {
    for (const int finer : {2, 4}) {
        Level level = hillyLevel(50, 41, 7, 4);
        wakeRules(level, level.layers[2].id, true);
        const Level before = level;
        REQUIRE(changeCoverFactor(level, finer));
        CHECK(level.coverColumns() == 49 * finer + 1);
        CHECK(checkLevel(level).empty());
        // Samples that both have are the same, and between two lies their mean.
        CHECK(level.layers[1].coverage.at(3 * finer, 5 * finer) == before.layers[1].coverage.at(3, 5));
        const int left = before.layers[1].coverage.at(3, 5), right = before.layers[1].coverage.at(4, 5);
        CHECK(std::abs(level.layers[1].coverage.at(3 * finer + finer / 2, 5 * finer) - (left + right) / 2) <= 1);
        CHECK(lossAtFactor(level, 1) == 0);
        REQUIRE(changeCoverFactor(level, 1));
        CHECK(level == before);
    }
    Level fine = flatLevel(30, 30, 2, 1, 2);
    fine.layers[1].coverage.set(11, 11, kFullCover);  // between the samples that stay
    CHECK(lossAtFactor(fine, 1) == 255);
    CHECK_FALSE(changeCoverFactor(fine, 3));
    Level large = flatLevel(4097, 3, 1);
    CHECK(changeCoverFactor(large, 4).error().sentence().find("8193") != std::string::npos);
}
