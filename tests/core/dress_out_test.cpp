// What is told of all that stands, the shade that it casts, and how it is handed over.
#include <catch2/catch.hpp>

#include <cstring>
#include <fstream>
#include <nlohmann/json.hpp>

#include "base/maths.h"
#include "checks/check.h"
#include "commit/commit.h"
#include "cover/rules.h"
#include "dress/cast.h"
#include "dress/figures.h"
#include "dress/kinds.h"
#include "dress/shipped_kinds.h"
#include "files/glb.h"
#include "folder.h"
#include "grow/recipe.h"
#include "handover/handover.h"
#include "level/ground.h"
#include "levels.h"
#include "survey/level_survey.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

const Kind& shipped(const char* name) {
    for (const Kind& k : shippedKinds())
        if (k.name == name) return k;
    FAIL("no kind " << name);
    return shippedKinds().front();
}

uint32_t put(Level& level, uint32_t kind, double x, double z, float above = 0) {
    Single s;
    s.kind = kind, s.x = x, s.z = z, s.above = above;
    return putSingle(level, s).value();
}

std::string text(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

}  // namespace

TEST_CASE("the kinds that come with the program can be added, each under a name of its own") {
    Level level = flatLevel(40, 40, 2);
    CHECK(shippedKinds().size() >= 14);
    for (const Kind& k : shippedKinds()) {
        INFO(k.name);
        CHECK(checkKind(level, k));
        CHECK(addKind(level, k));
    }
}

TEST_CASE("what floats and what is drowned is told by place, settled and kept off, and the check says so") {
    Level level = flatLevel(90, 60, 2);
    for (int r = 0; r < 60; ++r)
        for (int c = 40; c < 90; ++c) level.strata[0].heights.set(c, r, -6);
    Pool pond;
    pond.name = "pond", pond.x = 20, pond.z = 0, pond.height = -1;
    for (int r = 0; r < 60; ++r)
        for (int c = 0; c < 90; ++c)
            if (std::min({r, c, 59 - r, 89 - c}) == 0) level.strata[0].heights.set(c, r, 4);
    REQUIRE(addPool(level, pond));
    refillWater(level);
    const uint32_t bale = addKind(level, shipped("Straw bale")).value(), ash = addKind(level, shipped("Ash")).value();
    const uint32_t up = put(level, bale, -20, 5, 1.5f);
    put(level, bale, -25, -8);
    put(level, bale, 20, 5);  // five metres under water
    put(level, ash, 25, 5);   // looks out of it
    DressFigures f;
    REQUIRE(f.follow(level, nullptr));
    CHECK(f.of(bale).standing == 3);
    CHECK(f.of(bale).floats.count == 1);
    REQUIRE(f.of(bale).floats.at);
    CHECK((*f.of(bale).floats.at)[0] == -20);
    CHECK(f.of(bale).drowned.count == 1);
    CHECK((*f.of(bale).drowned.at)[0] == 20);
    CHECK(f.of(ash).drowned.count == 0);
    LevelSurvey survey;
    REQUIRE(survey.follow(level, nullptr));
    const std::vector<Finding> floating = checkNamed("floating")->find({level, survey});
    REQUIRE(floating.size() == 1);
    CHECK(floating[0].sentence == "1 of “Straw bale” floats over the ground");
    Level mended = level;
    REQUIRE(floating[0].mends[0].change(mended, {}));
    CHECK(gapBelow(mended, *mended.kind(bale), standing(mended, *mended.kind(bale), *mended.single(up))) <= 0.02);
    const Change change = changesBetween(mended, level);
    REQUIRE(f.follow(mended, &change));
    CHECK(f.of(bale).floats.count == 0);
    CHECK_FALSE(floating[0].mends[0].change(mended, {}));
    // Planted into the water, a kind is kept off it.
    for (int z = 0; z < level.coverRows(); ++z)
        for (int x = 0; x < level.coverColumns(); ++x) level.kind(bale)->coverage.set(x, z, 64 * 5);
    level.singles.clear();
    survey = {};
    survey.follow(level, nullptr);
    const std::vector<Finding> drowned = checkNamed("drowned")->find({level, survey});
    REQUIRE(drowned.size() == 1);
    REQUIRE(drowned[0].mends[0].change(level, {}));
    survey = {};
    survey.follow(level, nullptr);
    CHECK(checkNamed("drowned")->find({level, survey}).empty());
    CHECK(survey.dress.of(bale).standing > 20);
}

TEST_CASE("tall things shade the ground away from the sun, low ones not, and the sky above them less") {
    Level level = flatLevel(90, 60, 2);
    level.sun = {270, 45};  // from the west
    const uint32_t ash = addKind(level, shipped("Ash")).value(), tuft = addKind(level, shipped("Meadow tuft")).value();
    put(level, ash, -10, 4);
    put(level, tuft, 20, -15);
    Plantings all(level);
    REQUIRE(all.prepare(level.bounds()));
    Raster<uint8_t> sun(90, 60, 255), open(90, 60, 255);
    castShade(all, level.sun, sun.view(), open.view());
    const auto at = [&](const Raster<uint8_t>& of, double x, double z) {
        return of.at(static_cast<int>(std::lround(level.toColumn(x))), static_cast<int>(std::lround(level.toRow(z))));
    };
    const double high = static_cast<double>(heightOf(*level.kind(ash)));
    CHECK(at(sun, -10 + 0.62 * high, 4) < 120);
    CHECK(at(sun, -10 - 0.62 * high, 4) == 255);
    CHECK(at(sun, -10 + 0.62 * high, 4 + high) == 255);
    CHECK(at(open, -10, 4) < 200);
    CHECK(at(open, 10, 20) == 255);
    CHECK(at(sun, 20, -15) == 255);
    // A lower sun draws it out.
    level.sun = {270, 20};
    Plantings lower(level);
    REQUIRE(lower.prepare(level.bounds()));
    Raster<uint8_t> longer(90, 60, 255);
    castShade(lower, level.sun, longer.view(), open.view());
    CHECK(at(longer, -10 + 1.5 * high, 4) < 160);
    CHECK(at(sun, -10 + 1.5 * high, 4) == 255);
}

TEST_CASE("all that stands is handed over, a row each, with meshes that a reader of glTF finds whole", "[property]") {
    const Level level = lopsidedLevel();
    Plantings all(level);
    REQUIRE(all.prepare(level.bounds()));
    size_t standing = 0;
    for (size_t k = 0; k < level.kinds.size(); ++k)
        for (int tz = 0; tz < all.tilesDown(); ++tz)
            for (int tx = 0; tx < all.tilesAcross(); ++tx) standing += all.tile(k, tx, tz).size();
    REQUIRE(standing > 100);
    const Folder folder;
    const auto names = handOver(level, folder.path, HandoverWish{});
    REQUIRE(names);
    const nlohmann::json list = nlohmann::json::parse(text(folder.path / "plantings.json"));
    REQUIRE(list["plantings"].size() == standing);
    for (const auto& p : list["plantings"]) {
        REQUIRE(p.size() == list["columns"].size());
        CHECK(p[0].get<size_t>() < level.kinds.size());
        CHECK(level.holds(p[1].get<double>(), p[3].get<double>()));
        const double q = std::hypot(std::hypot(p[7].get<double>(), p[8].get<double>()),
                                    std::hypot(p[9].get<double>(), p[10].get<double>()));
        CHECK(std::abs(q - 1) < 1e-3);
    }
    const std::string table = text(folder.path / "plantings.csv");
    CHECK(static_cast<size_t>(std::count(table.begin(), table.end(), '\n')) == standing + 1);
    const nlohmann::json manifest = nlohmann::json::parse(text(folder.path / "manifest.json"));
    for (const auto& kind : manifest["plantings"]["kinds"]) {
        const std::string glb = text(folder.path / kind["mesh"]["file"].get<std::string>());
        REQUIRE(glb.substr(0, 4) == "glTF");
        uint32_t whole, length;
        std::memcpy(&whole, glb.data() + 8, 4), std::memcpy(&length, glb.data() + 12, 4);
        CHECK(whole == glb.size());
        const nlohmann::json g = nlohmann::json::parse(glb.substr(20, length));
        uint32_t binary;
        std::memcpy(&binary, glb.data() + 20 + length, 4);
        CHECK(20 + length + 8 + binary == glb.size());
        CHECK(g["nodes"].size() == kind["mesh"]["variants"].get<size_t>());
        for (const auto& view : g["bufferViews"])
            CHECK(view["byteOffset"].get<size_t>() + view["byteLength"].get<size_t>() <=
                  g["buffers"][0]["byteLength"].get<size_t>());
        // Every corner is one that there is.
        for (const auto& mesh : g["meshes"]) {
            const auto& p = mesh["primitives"][0];
            const auto& corners = g["accessors"][p["indices"].get<size_t>()];
            const size_t count = g["accessors"][p["attributes"]["POSITION"].get<size_t>()]["count"];
            const size_t from = 28 + length +
                                g["bufferViews"][corners["bufferView"].get<size_t>()]["byteOffset"].get<size_t>();
            for (size_t i = 0; i < corners["count"].get<size_t>(); ++i) {
                uint32_t c;
                std::memcpy(&c, glb.data() + from + 4 * i, 4);
                REQUIRE(c < count);
            }
        }
    }
    // The quaternion leans and turns as it says.
    Planting p;
    p.turn = 90;
    const auto turned = quaternionOf(p);
    CHECK(turned[1] == Approx(-std::sqrt(0.5)));
    CHECK(turned[3] == Approx(std::sqrt(0.5)));
    p.turn = 0, p.lean = 90, p.leanTo = 90;  // to the east: up becomes east
    const auto q = quaternionOf(p);
    const double x = 2 * (static_cast<double>(q[0]) * static_cast<double>(q[1]) -
                          static_cast<double>(q[3]) * static_cast<double>(q[2]));
    CHECK(x == Approx(1));
}
