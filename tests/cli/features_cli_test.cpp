// What a level has beside its heights, made and told of without a window.
#include <catch2/catch.hpp>

#include <fstream>
#include <nlohmann/json.hpp>

#include "commit/commit.h"
#include "course/footprint.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "desk.h"
#include "files/archive.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/stroke_file.h"
#include "folder.h"
#include "journal/journal.h"
#include "level/ground.h"
#include "levels.h"
#include "sequences.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "tools/tool.h"
#include "walk/spots.h"

using namespace jam;
using namespace jam::test;

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
        refreshLaid(worked, worked.layers[2].id);
        CHECK(worked.layers[2].coverage == laid);
    }
    CHECK(desk.run("check b.jamhill").code == 0);
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

TEST_CASE("work that was not saved is listed, written out and thrown away without a window") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill").code == 0);
    const Level base = desk.load("a.jamhill");
    Level next = base;
    next.sun.azimuth = 77;
    {
        Journal journal(desk.path / "jamhill", desk.path / "a.jamhill", fileIdentity(desk.path / "a.jamhill").value(),
                        1, base, nullptr);
        journal.record(2, "Turn the sun", next);
    }
    const auto run = [&](const std::string& words) {
        ::setenv("XDG_STATE_HOME", desk.path.c_str(), 1);
        return desk.run(words);
    };
    const auto listed = run("recover --json");
    REQUIRE(listed.code == 0);
    const auto json = nlohmann::json::parse(listed.text);
    REQUIRE(json.size() == 1);
    CHECK(json[0]["steps"] == 1);
    CHECK(json[0]["what"] == "Turn the sun");
    const std::string id = json[0]["id"];
    CHECK(run("recover " + id).code == 2);
    CHECK(run("recover " + id + " --to a.jamhill").code == 2);
    CHECK(run("recover nothing --to b.jamhill").code == 2);
    CHECK(run("recover " + id + " --to b.jamhill").code == 0);
    CHECK(desk.load("b.jamhill") == next);
    CHECK(desk.load("a.jamhill") == base);
    CHECK(run("recover " + id + " --throw-away").code == 0);
    CHECK(run("recover").text.find("Nothing") == 0);
    ::unsetenv("XDG_STATE_HOME");
}

TEST_CASE("a kind brings its ground from the command line") {
    const Desk desk;
    REQUIRE(desk.run("new a.jamhill").code == 0);
    REQUIRE(desk.run("dress a.jamhill --add \"Start hut\"").code == 0);
    REQUIRE(desk.run("dress a.jamhill --kind \"Start hut\" --footprint 1.5 4 --hatch 2 3 1").code == 0);
    REQUIRE(desk.run("dress a.jamhill --put \"Start hut\" 10 20 --turn 40").code == 0);
    const Level level = desk.load("a.jamhill");
    const int at = footprintPlace(level, level.kinds.front().id);
    REQUIRE(at >= 0);
    const Footprint& f = *level.strata[static_cast<size_t>(at)].course->footprint;
    CHECK(f.margin == 1.5f);
    CHECK(f.rim == 4);
    CHECK(f.hatchAhead == 1);
    CHECK(level.hatches.presentTiles() > 0);
    CHECK(desk.run("dress a.jamhill --kind \"Start hut\" --footprint 99 4").code == 2);
    CHECK(desk.run("dress a.jamhill --footprint 1 4").code == 2);
    REQUIRE(desk.run("dress a.jamhill --kind \"Start hut\" --no-footprint").code == 0);
    CHECK(desk.load("a.jamhill").hatches.presentTiles() == 0);
}
