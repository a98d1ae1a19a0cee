// Files in and out, strokes, errors, kills: the program as a script would run it.
#include <catch2/catch.hpp>

#include <sys/wait.h>
#include <unistd.h>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "commit/commit.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "desk.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/stroke_file.h"
#include "folder.h"
#include "level/ground.h"
#include "levels.h"
#include "sequences.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("new, stroke, check, info and export work together") {
    const Desk desk;
    REQUIRE(
        desk.run("new hill.jamhill --width 128 --depth 96 --start 5 --first-layer 'Dry grass' --name Hillock").code ==
        0);
    const Level made = desk.load("hill.jamhill");
    CHECK(made.columns == 129);
    CHECK(made.rows == 97);
    CHECK(made.startHeight == 5);
    CHECK(made.layers[0].name == "Dry grass");
    CHECK(made.layers.size() >= 6);
    desk.write("s.json", kHill);
    REQUIRE(desk.run("stroke hill.jamhill s.json --out out.jamhill").code == 0);
    CHECK(desk.load("hill.jamhill") == made);
    const Level stroked = desk.load("out.jamhill");
    CHECK(altitudeAt(stroked, 0, 0) == Approx(25.5).margin(0.1));
    CHECK(desk.run("check out.jamhill").code == 0);
    const auto told = desk.run("info --json out.jamhill");
    REQUIRE(told.code == 0);
    const auto j = nlohmann::json::parse(told.text);
    CHECK(j["columns"] == 129);
    CHECK(j["ground"]["highest"].get<double>() == Approx(25.5).margin(0.1));
    CHECK(j["name"] == "Hillock");
    REQUIRE(desk.run("export out.jamhill handed").code == 0);
    CHECK(fs::exists(desk.path / "handed" / "weights-2.png"));
    const auto manifest = nlohmann::json::parse(std::ifstream(desk.path / "handed" / "manifest.json"));
    CHECK(manifest["heightmap"]["white"].get<double>() == Approx(25.5).margin(0.1));
    CHECK(desk.run("info out.jamhill").text.find("Chalk") != std::string::npos);
}

TEST_CASE("a stroke from a file and the same points given one by one give the same level") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 129 --rows 129").code == 0);
    desk.write("s.json", kHill);
    REQUIRE(desk.run("stroke a.jamhill s.json --out b.jamhill").code == 0);
    Level live = desk.load("a.jamhill");
    StrokeSettings s;
    s.radius = 30;
    s.strength = 10;
    Stroker stroker(s, live);
    stroker.add(live, {0, 0, 1, 0});
    stroker.add(live, {0, 0, 1, 0.7});
    stroker.add(live, {0, 0, 1, 2});
    CHECK(live.strata == desk.load("b.jamhill").strata);
}

TEST_CASE("a heightmap goes in and out") {
    const Desk desk;
    Pixels p{64, 32, 1, 16, {}};
    for (int i = 0; i < 64 * 32; ++i) p.samples.push_back(static_cast<uint16_t>(i * 30));
    p.samples[0] = 0;
    p.samples.back() = 65535;
    AtomicFile file(desk.path / "map.png");
    REQUIRE(file.write(encodePng(p)));
    REQUIRE(file.commit());
    REQUIRE(desk.run("import map.png level.jamhill --spacing 2 --black -5 --white 45").code == 0);
    REQUIRE(desk.run("export level.jamhill out --no-weight-sets --no-single-weights").code == 0);
    const Pixels back = decodePng(readFile(desk.path / "out" / "heightmap.png", 1 << 20).take(), "h", 100).take();
    CHECK(back.samples == p.samples);
    CHECK(checkLevel(desk.load("level.jamhill")).empty());
}

TEST_CASE("the whole ground is worked on, resampled, and said to have changed") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 97 --rows 81 --highest 300").code == 0);
    REQUIRE(desk.run("reshape a.jamhill generate --landscape ridges --scale 60 --height 40 --seed 3").code == 0);
    const Level hills = desk.load("a.jamhill");
    const auto worked = [&](const std::string& words) {
        const auto r = desk.run("reshape a.jamhill " + words + " --out b.jamhill");
        INFO(words << " -> " << r.text);
        REQUIRE(r.code == 0);
        CHECK(r.text.find("Rises by up to") != std::string::npos);
        const Level b = desk.load("b.jamhill");
        CHECK(checkLevel(b).empty());
        CHECK_FALSE(b == hills);
    };
    for (const char* words :
         {"raise --metres 7", "scale --low 0 --high 80", "smooth --width 3", "noise --scale 9 --height 1",
          "crumble --angle 20 --years 3", "rain-wash --years 5", "soften-steps --step 1", "remove-spikes --spike 0.01",
          "generate --meeting add --edge 30"})
        worked(words);
    CHECK(desk.load("a.jamhill") == hills);
    // The range goes along with everything, and stays when the ground goes alone.
    CHECK(desk.run("reshape a.jamhill raise --metres 1000 --out b.jamhill").text.find("held there") ==
          std::string::npos);
    CHECK(desk.load("b.jamhill").highest == 1300);
    CHECK(desk.run("reshape a.jamhill raise --metres 1000 --ground-alone --out b.jamhill").text.find("held there") !=
          std::string::npos);
    CHECK(desk.load("b.jamhill").highest == 300);
    REQUIRE(desk.run("resample a.jamhill --spacing 2 --out c.jamhill").code == 0);
    CHECK(desk.load("c.jamhill").columns == 49);
    REQUIRE(desk.run("stroke a.jamhill s.json").code == 2);
}

TEST_CASE("strokes with tips, mirrors and a reference run from a file") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 129 --rows 129").code == 0);
    desk.write("s.json", R"({"format":"jamhill-strokes","version":1,"strokes":[
        {"tool":"raise","radius":25,"strength":20,"flow":false,"tip":{"shape":"picture","picture":"Crater rim"},
         "mirror":{"kind":"across-both"},"points":[[30,30]]}]})");
    REQUIRE(desk.run("stroke a.jamhill s.json --out b.jamhill").code == 0);
    const Level b = desk.load("b.jamhill");
    CHECK(groundSample(b, 64 + 45, 64 + 30) > 5);
    for (const auto& [c, r] : {std::pair{109, 94}, {100, 80}, {90, 100}})
        CHECK(groundSample(b, c, r) == groundSample(b, 128 - c, 128 - r));
    desk.write("r.json", R"({"format":"jamhill-strokes","version":1,"strokes":[
        {"tool":"restore","restore":"reference","radius":300,"softness":0,"strength":1,"points":[[0,0]]}]})");
    CHECK(desk.run("stroke b.jamhill r.json").code == 2);
    REQUIRE(desk.run("stroke b.jamhill r.json --reference a.jamhill --out c.jamhill").code == 0);
    const Level c = desk.load("c.jamhill");
    CHECK(groundSample(c, 109, 94) == Approx(0).margin(1e-4));
}

TEST_CASE("raw and ASCII heightmaps come in, and what is guessed is said") {
    const Desk desk;
    std::string raw, grid = "ncols 64\nnrows 64\ncellsize 2\n";
    for (int z = 0; z < 64; ++z)
        for (int x = 0; x < 64; ++x) {
            const int v = 9000 + 200 * x + 100 * z;
            raw += static_cast<char>(v >> 8);
            raw += static_cast<char>(v & 255);
            grid += std::to_string(x + z) + (x == 63 ? "\n" : " ");
        }
    desk.write("h.raw", raw);
    desk.write("h.asc", grid);
    const auto r = desk.run("import h.raw a.jamhill --white 65.535");
    CHECK(r.code == 0);
    CHECK(r.text.find("64 x 64, u16, big endian") != std::string::npos);
    const Level a = desk.load("a.jamhill");
    CHECK(groundSample(a, 10, 20) == Approx(13).margin(0.01));
    REQUIRE(desk.run("import h.asc b.jamhill --spacing 2").code == 0);
    CHECK(groundSample(desk.load("b.jamhill"), 10, 20) == Approx(30));
    REQUIRE(desk.run("import h.raw c.jamhill --raw-width 64 --raw-depth 64 --raw-sample u16 --fit stretch --width 100 "
                     "--depth 50 --spacing 0.5 --white 65.535")
                .text.find("static") != std::string::npos);
    CHECK(desk.load("c.jamhill").columns == 201);
    CHECK(desk.run("import h.raw d.jamhill --raw-width 64 --raw-depth 640").code == 2);
}

TEST_CASE("trouble is told in one sentence with exit code 2") {
    const Desk desk;
    const auto refused = [&](const std::string& words, const std::string& part) {
        const auto r = desk.run(words);
        INFO(words << " -> " << r.code << " " << r.text);
        CHECK(r.code == 2);
        CHECK(r.text.find(part) != std::string::npos);
    };
    REQUIRE(desk.run("new a.jamhill --columns 33 --rows 33").code == 0);
    const Level before = desk.load("a.jamhill");
    refused("info none.jamhill", "does not exist");
    refused("info .", "it is a folder");
    desk.write("text.jamhill", "hello");
    refused("check text.jamhill", "not a level file");
    refused("new b.jamhill --columns 9000", "columns: 9000 is outside 2 to 8193");
    refused("new b.jamhill --spacing nan", "spacing");
    refused("new b.jamhill --start 9999", "start height");
    refused("new b.jamhill --first-layer Cheese", "no layer \"Cheese\"");
    refused("new gone/b.jamhill", "folder is gone");
    desk.write(
        "s.json",
        R"({"format":"jamhill-strokes","version":1,"strokes":[{"tool":"raise","radius":-3,"strength":1,"points":[[0,0]]}]})");
    refused("stroke a.jamhill s.json", "strokes[0].radius: it is -3; use 0.5 to 2000");
    desk.write("s.json", "{");
    refused("stroke a.jamhill s.json", "not valid JSON");
    refused("import text.jamhill c.jamhill", "not a PNG");
    refused("export a.jamhill text.jamhill", "text.jamhill");
    refused("frobnicate", "");
    refused("", "");
    CHECK(desk.load("a.jamhill") == before);
    CHECK_FALSE(fs::exists(desk.path / "b.jamhill"));
}

TEST_CASE("weights go out and come in again bit for bit, in any order of channels") {
    const Desk desk;
    const Level level = hillyLevel(50, 40, 3, 6);
    REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
    REQUIRE(desk.run("export a.jamhill out --channels BGRA --no-pictures --no-single-weights").code == 0);
    Level bare = level;
    for (size_t i = 1; i < bare.layers.size(); ++i) bare.layers[i].coverage = TiledGrid<uint16_t>(50, 40, 0);
    REQUIRE(saveLevel(bare, desk.path / "b.jamhill"));
    const Desk::Outcome in = desk.run("weights b.jamhill out/weights-1.png out/weights-2.png --channels BGRA");
    INFO(in.text);
    REQUIRE(in.code == 0);
    CHECK(in.text.find("weights-1.png, blue: layer 0") != std::string::npos);
    const Level back = desk.load("b.jamhill");
    for (int r = 0; r < 40; ++r)
        for (int c = 0; c < 50; ++c) REQUIRE(weightsAt(back, c, r) == weightsAt(level, c, r));
    CHECK(desk.run("weights b.jamhill out/weights-1.png --channels RRRR").text.find("order of R, G, B and A") !=
          std::string::npos);
    CHECK(desk.run("weights b.jamhill out/heightmap.png --out c.jamhill").code ==
          0);  // one grey picture, the first layer
    REQUIRE(desk.run("new small.jamhill --columns 20 --rows 20").code == 0);
    CHECK(desk.run("weights small.jamhill out/weights-1.png").code == 2);
    CHECK(desk.run("export a.jamhill out2 --weight-bits 9").code == 2);
    REQUIRE(desk.run("export a.jamhill out2 --weight-bits 16").code == 0);
    CHECK(fs::exists(desk.path / "out2/layers/01-layer-0/colour.png"));
}

TEST_CASE("the list of tools in the documents is what the program says") {
    const Desk desk;
    const Desk::Outcome told = desk.run("tools");
    REQUIRE(told.code == 0);
    const Bytes page = bytesOf(JAMHILL_DOCS "/tools.md");
    // When this fails: jamhill-cli tools > docs/tools.md
    CHECK(told.text == std::string(page.begin(), page.end()));
}

TEST_CASE("names that no file could keep end in words, whatever their letters are") {
    const Desk desk;
    const auto refused = desk.run("new a.jamhill --columns 9 --rows 9 --name " + std::string(600, 'n'));
    CHECK(refused.code == 2);
    CHECK(refused.text.find("longer than 500 bytes; choose a shorter one") != std::string::npos);
    CHECK_FALSE(fs::exists(desk.path / "a.jamhill"));
    // Latin-1 on the command line, as old scripts have it.
    CHECK(desk.run("new a.jamhill --columns 9 --rows 9 --name $(printf 'caf\\351')").code == 2);
    CHECK(desk.run("new $(printf 'caf\\351').jamhill --columns 9 --rows 9").code == 0);
    Pixels p{20, 12, 1, 8, std::vector<uint16_t>(240, 7)};
    for (size_t i = 0; i < p.samples.size(); ++i) p.samples[i] = static_cast<uint16_t>(i);
    put(desk.path / "caf\xE9.png", encodePng(p));
    CHECK(desk.run("import $(printf 'caf\\351').png b.jamhill").code == 0);
    CHECK(desk.load("b.jamhill").name == "caf?");
}

TEST_CASE("a flat heightmap and lifting all of a level, as a script does it") {
    const Desk desk;
    std::string grid = "ncols 20\nnrows 12\nxllcorner 0\nyllcorner 0\ncellsize 2\n";
    for (int i = 0; i < 20 * 12; ++i) grid += "5 ";
    desk.write("sea.asc", grid + "\n");
    REQUIRE(desk.run("import sea.asc sea.jamhill").code == 0);
    CHECK(groundSample(desk.load("sea.jamhill"), 3, 3) == 5);
    REQUIRE(desk.run("reshape sea.jamhill raise --metres 4 --out up.jamhill").code == 0);
    CHECK(desk.load("up.jamhill").startHeight == 9);
    CHECK(desk.load("up.jamhill").highest == 59);
    REQUIRE(desk.run("reshape sea.jamhill raise --metres 4 --ground-alone --out alone.jamhill").code == 0);
    CHECK(desk.load("alone.jamhill").startHeight == 5);
    CHECK(groundSample(desk.load("alone.jamhill"), 3, 3) == 9);
}

// --- sequences ------------------------------------------------------------------------------------------------------
