// The program as a script would run it.
#include <catch2/catch.hpp>

#include <sys/wait.h>
#include <unistd.h>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "cover/mix.h"
#include "cover/resolution.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/stroke_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/resize.h"
#include "levels.h"
#include "sequences.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"
#include "walk/spots.h"
#include "water/figures.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

namespace {

struct Desk {
    Folder folder;
    const fs::path& path = folder.path;

    struct Outcome {
        int code;
        std::string text;
    };
    Outcome run(const std::string& words) const {
        const std::string command = "cd " + path.string() +
                                    " && JAMHILL_SHARE=" JAMHILL_SHARE_FOLDER " " JAMHILL_CLI " " + words + " 2>&1";
        FILE* pipe = ::popen(command.c_str(), "r");
        std::string text;
        char part[512];
        while (std::fgets(part, sizeof part, pipe)) text += part;
        const int status = ::pclose(pipe);
        return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, text};
    }
    void write(const std::string& name, const std::string& text) const { std::ofstream(path / name) << text; }
    Level load(const std::string& name) const { return loadLevel(path / name).take(); }
};

const char* const kHill = R"({"format":"jamhill-strokes","version":1,"strokes":[
    {"tool":"raise","radius":30,"strength":10,"points":[[0,0,1,0],[0,0,1,2]]},
    {"tool":"paint","layer":"Chalk","radius":12,"strength":0.5,"points":[[-20,0],[20,5]]}]})";

}  // namespace

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

TEST_CASE("strata, fences and courses are made, told of and kept to without a window") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 129 --rows 129 --highest 400").code == 0);
    REQUIRE(desk.run("reshape a.jamhill raise --metres 6 --stratum Plinth").code == 0);
    REQUIRE(desk.run("fence a.jamhill --rectangle -20 -20 20 20 --keep yard").code == 0);
    REQUIRE(desk.run("reshape a.jamhill raise --metres 4").code == 0);
    desk.write("s.json", kHill);
    REQUIRE(desk.run("stroke a.jamhill s.json --stratum Ground").code == 0);
    Level level = desk.load("a.jamhill");
    REQUIRE(level.strata.size() == 2);
    CHECK(level.strata[1].heights.at(64, 64) == 10);
    CHECK(level.strata[1].heights.at(10, 10) == 6);
    CHECK(level.strata[0].heights.at(64, 64) > 1);
    CHECK(level.strata[0].heights.at(88, 64) == 0);  // under the hill, outside of the fence
    CHECK(level.fences.at(0).name == "yard");
    CHECK(desk.run("fence a.jamhill --altitude 300 350").code == 2);
    CHECK(desk.run("fence a.jamhill --join by-chance --edge 4").text.find("take-away") != std::string::npos);
    CHECK(desk.run("fence a.jamhill --kept orchard").text.find("yard") != std::string::npos);
    CHECK(desk.run("stroke a.jamhill s.json --stratum Cellar").text.find("Plinth") != std::string::npos);
    REQUIRE(desk.run("fence a.jamhill --kept yard --invert --drop").code == 0);
    CHECK_FALSE(desk.load("a.jamhill").fenced);

    desk.write("c.json",
               R"({"use": "grade", "posts": [{"x": -50, "z": 0, "height": 5}, {"x": 50, "z": 0, "height": 25}]})");
    REQUIRE(desk.run("course a.jamhill --add ramp --from c.json --track Chalk").code == 0);
    const auto told = desk.run("course a.jamhill --json");
    const auto list = nlohmann::json::parse(told.text);
    REQUIRE(list.size() == 1);
    CHECK(list[0]["length"].get<double>() == Approx(100));
    CHECK(list[0]["climb"].get<double>() == Approx(20).margin(0.01));
    CHECK(list[0]["fill"].get<double>() > 100);
    CHECK(desk.run("check a.jamhill").code == 0);
    const auto info = nlohmann::json::parse(desk.run("info a.jamhill --json").text);
    CHECK(info["strata"].size() == 3);
    CHECK(info["strata"][2]["course"]["posts"].size() == 2);
    desk.write("bad.json", R"({"posts": [{"x": -50, "z": 0}]})");
    CHECK(desk.run("course a.jamhill --add bad --from bad.json").text.find("only one") != std::string::npos);
    desk.write("far.json", R"({"posts": [{"x": -50, "z": 0}, {"x": 5000, "z": 0}]})");
    CHECK(desk.run("course a.jamhill --add far --from far.json").text.find("outside") != std::string::npos);
    CHECK(desk.run("course a.jamhill --remove lane").text.find("ramp") != std::string::npos);
    REQUIRE(desk.run("course a.jamhill --remove ramp").code == 0);
    CHECK(desk.load("a.jamhill").strata == level.strata);
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

TEST_CASE("killing a save at any moment leaves a file that opens", "[kill]") {
    const Desk desk;
    REQUIRE(saveLevel(hillyLevel(401, 401, 4, 2), desk.path / "a.jamhill"));
    desk.write("s.json", R"({"format": "jamhill-strokes", "version": 1, "strokes": [
        {"tool": "raise", "radius": 30, "strength": 10, "points": [[0, 0, 1, 0], [0, 0, 1, 2]]}]})");
    const Level before = desk.load("a.jamhill");
    REQUIRE(desk.run("stroke a.jamhill s.json --out done.jamhill").code == 0);
    const Level after = desk.load("done.jamhill");
    Random random(6);
    fs::copy_file(desk.path / "a.jamhill", desk.path / "fresh");
    // How long it takes here, so that kills fall into all of it, most of them into the save at its end.
    const auto began = std::chrono::steady_clock::now();
    REQUIRE(desk.run("stroke a.jamhill s.json").code == 0);
    const auto whole =
        std::chrono::duration_cast<std::chrono::microseconds>(std::chrono::steady_clock::now() - began).count();
    int killed = 0, beside = 0, finished = 0;
    double slower = 1;  // the machine may have more or less to do than when it was timed
    for (int i = 0; i < 200; ++i) {
        fs::copy_file(desk.path / "fresh", desk.path / "a.jamhill", fs::copy_options::overwrite_existing);
        const int pid = ::fork();
        if (pid == 0) {
            ::setenv("JAMHILL_SHARE", JAMHILL_SHARE_FOLDER, 1);
            if (::chdir(desk.path.c_str()) != 0) ::_exit(3);
            ::execl(JAMHILL_CLI, JAMHILL_CLI, "stroke", "a.jamhill", "s.json", nullptr);
            ::_exit(3);
        }
        ::usleep(static_cast<useconds_t>(static_cast<double>(whole) * slower * between(random, i % 4 ? 0.4 : 0, 1.1)));
        ::kill(pid, SIGKILL);
        int status = 0;
        ::waitpid(pid, &status, 0);
        killed += WIFSIGNALED(status);
        // What was being written beside the level when it was killed.
        for (const auto& f : fs::directory_iterator(desk.path)) {
            const std::string name = f.path().filename().string();
            if (name == "a.jamhill" || name == "fresh" || name == "s.json" || name == "done.jamhill") continue;
            ++beside;
            fs::remove(f.path());
        }
        const Result<Level> left = loadLevel(desk.path / "a.jamhill");
        if (!left) FAIL(left.error().sentence());
        REQUIRE((left.value() == before || left.value() == after));
        finished += left.value() == after;
        slower *= left.value() == after ? 0.98 : 1.006;
    }
    CHECK(killed > 50);
    CHECK(beside > 3);  // some fell into the save itself
    CHECK(finished > 5);
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

TEST_CASE("whether a level plays is told without a window") {
    Desk desk;
    Level level = hillyLevel(65, 129, 5, 3);
    for (int r = 20; r < 30; ++r)
        for (int c = 20; c < 30; ++c) level.strata[0].heights.set(c, r, -30);
    for (Layer& l : level.layers) l.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 30000);
    REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
    CHECK(desk.run("check a.jamhill --play").code == 0);
    Spot s;
    s.name = "Gate", s.kind = "start", s.x = level.originX + 50, s.z = level.originZ + 90;
    REQUIRE(addSpot(level, s));
    REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
    const auto told = desk.run("check a.jamhill --play");
    CHECK(told.code == 1);
    CHECK(told.text.find("a.jamhill is sound.") != std::string::npos);
    CHECK(told.text.find("ways-out: Way out in the ") != std::string::npos);
    CHECK(desk.run("check a.jamhill").code == 0);
}

TEST_CASE("cover is made finer, a layer replaced and rules run without a window") {
    const Desk desk;
    Level level = hillyLevel(50, 40, 3, 4);
    Rule rule;
    rule.kind = RuleKind::altitude;
    rule.from = -1000;
    rule.to = 1000;
    level.layers[3].rules = {rule};
    REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
    REQUIRE(desk.run("cover a.jamhill --factor 2 --replace \"layer 1\" --by \"layer 2\"").code == 0);
    const Level finer = desk.load("a.jamhill");
    CHECK(finer.coverFactor == 2);
    CHECK(weightsAt(finer, 20, 20)[1] == 0);
    CHECK(std::abs(weightsAt(finer, 20, 20)[2] - weightsAt(level, 10, 10)[1] - weightsAt(level, 10, 10)[2]) <= 1);
    REQUIRE(desk.run("cover a.jamhill --rules-of \"layer 3\"").code == 0);
    CHECK(weightsAt(desk.load("a.jamhill"), 7, 9)[3] == 255);
    for (const char* bad :
         {"cover a.jamhill --factor 3", "cover a.jamhill --replace none --by \"layer 2\"",
          "cover a.jamhill --replace \"layer 2\" --by \"layer 2\"", "cover a.jamhill --rules-of \"layer 1\""})
        CHECK(desk.run(bad).code == 2);
}

TEST_CASE("work on the command line brings along what follows the ground") {
    const Desk desk;
    Level level = lopsidedLevel();
    REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
    for (const char* words :
         {"reshape a.jamhill scale --low -40 --high 150 --out b.jamhill",
          "resample a.jamhill --spacing 3 --out b.jamhill", "cover a.jamhill --factor 4 --out b.jamhill"}) {
        REQUIRE(desk.run(words).code == 0);
        Level worked = desk.load("b.jamhill");
        INFO(words);
        const TiledGrid<uint16_t> laid = worked.layers[2].coverage;
        CHECK(laid.presentTiles() > 0);
        refreshLayer(worked, worked.layers[2].id);
        CHECK(worked.layers[2].coverage == laid);
    }
    CHECK(desk.run("check b.jamhill").code == 0);
}

TEST_CASE("the list of tools in the documents is what the program says") {
    const Desk desk;
    const Desk::Outcome told = desk.run("tools");
    REQUIRE(told.code == 0);
    const Bytes page = bytesOf(JAMHILL_DOCS "/tools.md");
    // When this fails: jamhill-cli tools > docs/tools.md
    CHECK(told.text == std::string(page.begin(), page.end()));
}

TEST_CASE("clips are lifted, set down and repeated, and borders fitted, by the command line") {
    const Desk desk;
    Level level = lopsidedLevel();
    for (Layer& l : level.layers) l.alive = false, l.base = l.held = {}, l.rules.clear();
    level.fences.push_back({level.nextId++, "corner", Fence(level.columns, level.rows, 0)});
    for (int r = 40; r < 60; ++r)
        for (int c = 100; c < 130; ++c) level.fences.back().mask.set(c, r, kInside);
    REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
    REQUIRE(desk.run("clip a.jamhill --fence corner --to piece.jamhill").code == 0);
    CHECK(desk.load("piece.jamhill").columns == 30);
    // Down again where it was: nothing changes.
    REQUIRE(desk.run("clip a.jamhill --set piece.jamhill --at 482.25 -2.75 --out b.jamhill").code == 0);
    Level same = desk.load("b.jamhill");
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) REQUIRE(groundSample(same, c, r) == groundSample(level, c, r));
    REQUIRE(desk.run("clip a.jamhill --set piece.jamhill --along 350 -20 450 -20 --every 50 --sit --stratum Pieces "
                     "--feather 5 --out b.jamhill")
                .text == "3 times\n");
    CHECK(desk.load("b.jamhill").strata.back().name == "Pieces");
    CHECK(desk.run("check b.jamhill").code == 0);
    CHECK(desk.run("clip a.jamhill").code == 2);
    CHECK(desk.run("clip a.jamhill --lift 0 0 1 1 --to c.jamhill").text.find("nothing of the level") !=
          std::string::npos);
    CHECK(desk.run("clip a.jamhill --set piece.jamhill --at 482 -2 --raise 3000").text.find("level ends at") !=
          std::string::npos);
    CHECK(desk.load("a.jamhill") == level);
    Level beside = flatLevel(149, 20, 2, 1.5);
    beside.layers[1].name = "layer 3";
    for (int c = 0; c < 149; ++c) beside.strata[0].heights.set(c, 19, 0.1f * static_cast<float>(c % 13));
    REQUIRE(saveLevel(beside, desk.path / "north.jamhill"));
    CHECK(desk.run("match a.jamhill north.jamhill --side north --check").code == 1);
    CHECK(desk.run("match a.jamhill north.jamhill --side east").text.find("samples along that side") !=
          std::string::npos);
    CHECK(desk.run("match a.jamhill north.jamhill --side up").code == 2);
    Level open = level;
    open.layers[6].locked = false;
    REQUIRE(saveLevel(open, desk.path / "a.jamhill"));
    REQUIRE(desk.run("match a.jamhill north.jamhill --side north --blend 20").code == 0);
    CHECK(desk.run("match a.jamhill north.jamhill --side north --check").code == 0);
    CHECK(desk.load("a.jamhill").strata.back().border->file == "north.jamhill");
    CHECK(desk.run("check a.jamhill").code == 0);
    // Elevation data as a stratum.
    desk.write("rise.asc", "ncols 3\nnrows 3\ncellsize 12\nnodata_value -1\n1 2 3\n4 -1 6\n7 8 9");
    const Desk::Outcome in = desk.run("import rise.asc a.jamhill --into-stratum Survey --at 420 -10 --sit --join add");
    CHECK(in.code == 0);
    CHECK(in.text.find("1 samples without a height were filled") != std::string::npos);
    CHECK(desk.load("a.jamhill").strata.back().name == "Survey");
    CHECK(desk.run("import rise.asc new.jamhill").code == 0);
    CHECK(desk.load("new.jamhill").spacing == 12);
    const nlohmann::json told = nlohmann::json::parse(desk.run("info a.jamhill --json").text);
    CHECK(told["openings"].size() == 1);
    CHECK(told["land"].get<double>() < 1);
    CHECK(told["strata"].back()["name"] == "Survey");
}

TEST_CASE("water is filled, told of, checked and mended without a window") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 129 --rows 97").code == 0);
    // A hollow of 4 m in flat ground.
    desk.write("s.json", R"({"format":"jamhill-strokes","version":1,"strokes":[
        {"tool":"lower","radius":24,"strength":4,"points":[[10,-6,1,0],[10,-6,1,1]]}]})");
    REQUIRE(desk.run("stroke a.jamhill s.json").code == 0);
    CHECK(desk.run("water a.jamhill --fill 60 40").text.find("water") != std::string::npos);
    REQUIRE(desk.run("water a.jamhill --fill 10 -6 --name Tarn").code == 0);
    CHECK(desk.run("water a.jamhill --check").code == 0);
    CHECK(desk.run("water a.jamhill --fill 10 -6 --name Tarn").code == 2);
    REQUIRE(desk.run("water a.jamhill --set Tarn --height 0.5").code == 0);
    const auto leaks = desk.run("water a.jamhill --check");
    CHECK(leaks.code == 1);
    CHECK(leaks.text.find("leaks") != std::string::npos);
    const auto json = nlohmann::json::parse(desk.run("water a.jamhill --json").text);
    CHECK(json["pools"][0]["name"] == "Tarn");
    CHECK(json["pools"][0]["leak"]["over"].get<double>() == Approx(0.5));
    REQUIRE(desk.run("water a.jamhill --mend Tarn --lower --out b.jamhill").code == 0);
    CHECK(desk.run("water b.jamhill --check").code == 0);
    CHECK(desk.load("b.jamhill").pools[0].height == 0);
    CHECK(desk.run("water a.jamhill --set Tarn").text.find("--height") != std::string::npos);
    CHECK(desk.run("water a.jamhill --set Tarn --height 9999").text.find("range") != std::string::npos);
    CHECK(desk.run("water a.jamhill --mend Puddle").text.find("Tarn") != std::string::npos);
    CHECK(desk.run("water a.jamhill --stream Brook").code == 2);
    desk.write("c.json", R"({"use": "carve", "sunk": 1, "posts": [{"x": -50, "z": 0}, {"x": -10, "z": -4}]})");
    REQUIRE(desk.run("course a.jamhill --add bed --from c.json").code == 0);
    REQUIRE(desk.run("water a.jamhill --stream bed --name Rill --depth 0.5").code == 0);
    CHECK(desk.load("a.jamhill").streams[0].depth == 0.5f);
    REQUIRE(desk.run("water a.jamhill --remove Rill").code == 0);
    REQUIRE(desk.run("water a.jamhill --sea 1 --name Bay").code == 0);
    const Level level = desk.load("a.jamhill");
    CHECK(level.streams.empty());
    CHECK(level.pools[1].sea);
    CHECK(level.water.at(0, 0).surface == 1);
    CHECK(desk.run("check a.jamhill").code == 0);
}

TEST_CASE("spots are put down, reach is told and required, ways out are banked up and ramps graded without a window") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 129 --rows 97").code == 0);
    CHECK(desk.run("reach a.jamhill").text.find("nowhere to begin") != std::string::npos);
    REQUIRE(desk.run("spot a.jamhill --add Gate --at -40 10 --facing 90 --pad 4 3").code == 0);
    REQUIRE(desk.run("spot a.jamhill --add Stack --kind lookout --at 30 0").code == 0);
    CHECK(desk.run("spot a.jamhill --add Gate --at 0 0").text.find("already") != std::string::npos);
    CHECK(desk.run("spot a.jamhill --add Far --at 900 0").text.find("outside") != std::string::npos);
    CHECK(desk.run("spot a.jamhill --add Nowhere").text.find("--at") != std::string::npos);
    CHECK(desk.run("spot a.jamhill --move Gates --at 0 0").text.find("Gate, Stack") != std::string::npos);
    // A stack 7 m high that nobody climbs.
    desk.write("s.json", R"({"format":"jamhill-strokes","version":1,"strokes":[
        {"tool":"raise","radius":9,"strength":7,"falloff":{"curve":"smooth","shoulder":0.85},"points":[[30,0,1,0],[30,0,1,1]]}]})");
    REQUIRE(desk.run("stroke a.jamhill s.json").code == 0);
    const auto told = desk.run("reach a.jamhill --require all");
    CHECK(told.code == 1);
    CHECK(told.text.find("Stack is not reached") != std::string::npos);
    CHECK(told.text.find("1 way leads out") != std::string::npos);
    CHECK(desk.run("reach a.jamhill --require Stacks").code == 2);
    CHECK(desk.run("reach a.jamhill --body snail").text.find("walker, runner, cart") != std::string::npos);
    REQUIRE(desk.run("reach a.jamhill --bank 2.5 --width 2").code == 0);
    CHECK(desk.run("reach a.jamhill --bank 2.5").text.find("no way leads out") != std::string::npos);
    CHECK(desk.run("reach a.jamhill --require Gate").code == 0);
    REQUIRE(desk.run("reach a.jamhill --ease Stack").code == 0);
    CHECK(desk.run("reach a.jamhill --require all").code == 0);
    const auto j = nlohmann::json::parse(desk.run("reach a.jamhill --json --way Gate Stack").text);
    CHECK(j["spots"].size() == 2);
    CHECK(j["pairs"][0]["reached"] == true);
    CHECK(j["waysOut"].empty());
    CHECK(j["way"]["length"].get<double>() > 70);
    CHECK(j["way"]["climb"].get<double>() > 5);
    REQUIRE(desk.run("spot a.jamhill --body cart").code == 0);
    CHECK(desk.load("a.jamhill").body == "cart");
    REQUIRE(desk.run("spot a.jamhill --even Gate --no-pad").code == 0);
    REQUIRE(desk.run("spot a.jamhill --remove Stack").code == 0);
    CHECK(desk.load("a.jamhill").spots.size() == 1);
    CHECK(desk.run("check a.jamhill").code == 0);
}

TEST_CASE("a recorded walk is walked again, and one that falls out says so") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill --columns 65 --rows 65").code == 0);
    const std::string head =
        R"({"format":"jamhill-walk","version":1,"level":{"name":"NAME","columns":65,"rows":65,"spacing":1,
        "originX":-32,"originZ":-32},"body":{"name":"walker"},"start":{"x":0,"z":0},"runs":)";
    const auto walk = [&](const std::string& name, const std::string& runs) {
        std::string text = head + runs + "}";
        text.replace(text.find("NAME"), 4, name);
        desk.write("w.json", text);
        return desk.run("walk a.jamhill w.json --json");
    };
    const std::string name = desk.load("a.jamhill").name;
    const auto fine = walk(name, "[[480,1,0,0,0,0,0]]");
    REQUIRE(fine.code == 0);
    const auto j = nlohmann::json::parse(fine.text);
    CHECK(j["end"][2].get<double>() == Approx(-9.8).margin(0.2));  // four seconds north at 2.5 m/s
    CHECK(j["length"].get<double>() == Approx(9.8).margin(0.2));
    const auto lost = walk(name, "[[1800,1,0,16384,1,0,0]]");
    CHECK(lost.code == 1);
    CHECK(lost.text.find("fell off the east edge") != std::string::npos);
    CHECK(walk("Elsewhere", "[]").text.find("walked in") != std::string::npos);
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

namespace {

// A step as a script says it, and as the core does it.
struct Both {
    std::string words;
    std::function<Result<Level>(const Level&)> work;
};

std::string named(const std::string& name) { return "'" + name + "'"; }
std::string exact(double v) {
    char text[40];
    std::snprintf(text, sizeof text, "%.17g", v);
    return text;
}

// Random work that the command line knows, on the level as it is. Places are whole metres, so that words hold them.
Both randomWork(const Level& level, Random& random, const Desk& desk) {
    const auto whole = [&](double low, double high) { return std::round(between(random, low, high)); };
    const double x = whole(level.originX + 3, level.originX + level.width() - 3),
                 z = whole(level.originZ + 3, level.originZ + level.depth() - 3);
    const std::string place = exact(x) + " " + exact(z);
    const Layer &a = level.layers[random() % level.layers.size()], &b = level.layers[random() % level.layers.size()];
    switch (random() % 9) {
        case 0: {
            WholeWish w;
            w.kind = WholeKind::raise, w.metres = static_cast<float>(whole(-9, 9)), w.along = random() % 2;
            return {"reshape LEVEL raise --metres " + exact(w.metres) + (w.along ? "" : " --ground-alone"),
                    [w](const Level& l) -> Result<Level> {
                        Result<WholeOutcome> done = reshapeWhole(l, w);
                        if (!done) return done.error();
                        return std::move(done.value().level);
                    }};
        }
        case 1: {
            Stroke s;
            s.settings = usualSettings(static_cast<Tool>(random() % kTools));
            s.settings.layer = a.id, s.settings.from = b.id, s.settings.radius = static_cast<float>(whole(4, 30));
            s.points = {{x, z, 1, 0}, {x + 6, z + 4, 0.5f, 0.4}};
            desk.write("stroke.json", writeStrokes({s}, level));
            return {"stroke LEVEL stroke.json", [s](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Result<Change> done = runStroke(after, s); !done) return done.error();
                        return after;
                    }};
        }
        case 2: {
            const int factor = random() % 2 ? 2 : 1;
            return {"cover LEVEL --factor " + std::to_string(factor), [factor](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Status s = changeCoverFactor(after, factor); !s) return s.error();
                        return after;
                    }};
        }
        case 3:
            return {"cover LEVEL --replace " + named(a.name) + " --by " + named(b.name),
                    [from = a.id, to = b.id](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Status s = replaceLayer(after, from, to); !s) return s.error();
                        return after;
                    }};
        case 4: {
            const double height = whole(-5, 12);
            return {"water LEVEL --fill " + place + " --height " + exact(height),
                    [x, z, height](const Level& l) -> Result<Level> {
                        Level after = l;
                        Result<Pool> pool = poolStanding(l, x, z, static_cast<float>(height));
                        if (!pool) return pool.error();
                        pool.value().name = freeWaterName(l, "Pool");
                        if (const Result<uint32_t> id = addPool(after, pool.take()); !id) return id.error();
                        return after;
                    }};
        }
        case 5: {
            Spot s;
            s.name = "spot " + std::to_string(random() % 5), s.kind = "goal", s.x = x, s.z = z;
            return {"spot LEVEL --add " + named(s.name) + " --kind goal --at " + place,
                    [s](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Result<uint32_t> id = addSpot(after, s); !id) return id.error();
                        return after;
                    }};
        }
        case 6: {
            const double spacing = random() % 2 ? 1.25 : 2;
            return {"resample LEVEL --spacing " + exact(spacing), [spacing](const Level& l) {
                        const auto samples = [&](double metres) {
                            return static_cast<int>(std::round(metres / spacing)) + 1;
                        };
                        return resampleLevel(l, samples(l.width()), samples(l.depth()), spacing);
                    }};
        }
        case 7: {
            // What was lifted before, set down here.
            const std::string clip = "clip.jamhill";
            const Level piece = liftClip(level, samplesBetween(level, x - 20, z - 12, x + 20, z + 12), "clip").take();
            REQUIRE(saveLevel(piece, desk.path / clip));
            Placement p;
            p.x = level.originX + 0.5 * level.width(), p.z = level.originZ + 0.5 * level.depth();
            p.x = std::round(p.x), p.z = std::round(p.z), p.turn = 90.0 * (random() % 4);
            return {"clip LEVEL --set " + clip + " --at " + exact(p.x) + " " + exact(p.z) + " --turn " + exact(p.turn),
                    [p, piece](const Level& l) { return setDown(l, piece, {p}, {}); }};
        }
        default: {
            const std::string name = level.pools.empty() ? "none" : level.pools.front().name;
            return {"water LEVEL --mend " + named(name) + " --lower", [name](const Level& l) -> Result<Level> {
                        Level after = l;
                        for (const Pool& p : l.pools)
                            if (p.name == name) {
                                if (const Status s = lowerToBrim(after, p.id); !s) return s.error();
                                return after;
                            }
                        return Error{"", "--mend", "there is none", ""};
                    }};
        }
    }
}

}  // namespace

TEST_CASE("random sequences give on the command line what they give in the core", "[property]") {
    for (const uint32_t seed : {1u, 2u, 3u, 4u}) {
        const Desk desk;
        Random random(seed);
        Level level = sequenceStart(seed);
        REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
        level = desk.load("a.jamhill");
        int worked = 0;
        std::string told;
        for (int i = 0; i < 14; ++i) {
            Both both = randomWork(level, random, desk);
            std::string words = both.words;
            words.replace(words.find("LEVEL"), 5, "a.jamhill");
            told += words + "\n";
            INFO("seed " << seed << "\n" << told);
            const Level before = level;
            Result<Level> after = both.work(level);
            if (after) {
                Result<Commit> done = commitWork(level, after.take());
                REQUIRE(done);
                level = std::move(done.value().level);
                ++worked;
            }
            const auto said = desk.run(words);
            INFO(said.text);
            REQUIRE((said.code == 0) == static_cast<bool>(after));
            REQUIRE(desk.load("a.jamhill") == level);
        }
        CHECK(worked > 4);
    }
}
