// What ships with the program.
#include <catch2/catch.hpp>

#include <cmath>

#include "cover/weights.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/png.h"
#include "survey/check.h"
#include "survey/slope.h"
#include "walk/reach.h"

using namespace jam;

namespace {

const std::filesystem::path kShare = JAMHILL_SHARE_FOLDER;

// Mean step from one column to the next (or from the last to the first), and the same for rows.
double step(const Pixels& p, int from, int to, bool columns) {
    double sum = 0;
    const int n = columns ? p.height : p.width;
    for (int i = 0; i < n; ++i)
        for (int c = 0; c < p.channels; ++c)
            sum += std::abs(columns ? int(p.at(from, i, c)) - int(p.at(to, i, c))
                                    : int(p.at(i, from, c)) - int(p.at(i, to, c)));
    return sum / (n * p.channels);
}

}  // namespace

TEST_CASE("the sample layers are whole, large enough and seamless in every map") {
    const Result<std::vector<Layer>> layers = readLayerSet(kShare / "layers");
    REQUIRE(layers);
    CHECK(layers.value().size() >= 6);
    for (const Layer& l : layers.value()) {
        INFO(l.name);
        for (const Picture& picture : {l.colour, l.normal, l.roughness, l.height}) {
            REQUIRE(picture);
            const Pixels p = decodePng(picture->bytes, picture->name, 4096).take();
            CHECK(p.width >= 512);
            CHECK(p.height >= 512);
            for (const bool columns : {true, false}) {
                // The step over the edge is no greater than the greatest inside.
                double most = 0;
                const int side = columns ? p.width : p.height;
                for (int i = 0; i + 1 < side; ++i) most = std::max(most, step(p, i, i + 1, columns));
                CHECK(step(p, side - 1, 0, columns) <= most * 1.02 + 0.01);
            }
        }
    }
}

TEST_CASE("no corner of a sample layer is much brighter than another, so that its repeat does not show from afar") {
    const std::vector<Layer> layers = readLayerSet(kShare / "layers").take();
    for (const Layer& l : layers) {
        const Pixels p = decodePng(l.colour->bytes, "c", 4096).take();
        double means[16] = {}, all = 0;
        for (int y = 0; y < p.height; ++y)
            for (int x = 0; x < p.width; ++x)
                for (int c = 0; c < 3; ++c) means[(y * 4 / p.height) * 4 + x * 4 / p.width] += p.at(x, y, c);
        for (double& m : means) all += (m /= p.width * p.height / 16.0 * 3) / 16;
        INFO(l.name);
        for (const double m : means) CHECK(std::abs(m - all) < 0.07 * all);
    }
}

TEST_CASE("the demo level is sound, about a square kilometre, and uses every layer") {
    const Result<Level> loaded = loadLevel(kShare / "demo" / "damson-down.jamhill");
    REQUIRE(loaded);
    const Level& level = loaded.value();
    CHECK(level.name == "Damson Down");
    CHECK(level.columns == 1025);
    CHECK(level.rows == 1025);
    CHECK(checkLevel(level).empty());
    const auto shares = layerShares(level);
    for (size_t i = 0; i < level.layers.size(); ++i) CHECK(shares[i] > 0.001);
    const GroundFigures r = surveyGround(level);
    CHECK(r.highest - r.lowest > 80);
    CHECK(r.lowest > level.lowest + 10);  // room to dig
}

TEST_CASE("the spots of the demo level reach each other and nobody gets out; the quarry shows what can be wrong") {
    const Level down = loadLevel(kShare / "demo" / "damson-down.jamhill").value();
    REQUIRE(down.spots.size() == 4);
    for (const Body& body : kBodies) {
        const Reach reach = surveyReach(down, body);
        CHECK(reach.nowhere.empty());
        for (const ReachPair& p : reach.pairs) CHECK(p.reached);
        CHECK(reach.waysOut.empty());
    }
    const Level quarry = loadLevel(kShare / "demo" / "sloe-quarry.jamhill").value();
    CHECK(checkLevel(quarry).empty());
    const Reach reach = surveyReach(quarry, bodyOf(quarry));
    CHECK(reach.spotsReached() == std::array{2, 3});
    REQUIRE_FALSE(reach.pockets.empty());
    CHECK(reach.pockets[0].spots == std::vector{quarry.spots[2].id});
    REQUIRE(reach.traps.size() == 1);
    CHECK(reach.traps[0].size > 200);
    REQUIRE(reach.waysOut.size() == 1);
    CHECK(reach.waysOut[0].towards == "east");
}
