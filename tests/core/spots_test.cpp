// Spots, pads, bodies, recorded walks, and what mends a way.
#include <catch2/catch.hpp>

#include "walk_levels.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("a pad evens the ground under its spot, moves with it, and gives the ground back") {
    Level l = hillyLevel(120, 90, 4);
    const uint32_t id = put(l, "hut", 40, 50);
    const Level before = l;
    Level next = l;
    REQUIRE(setPad(next, id, Pad{8, 5, std::nullopt}));
    next = commitWork(before, next).value().level;
    const double at = altitudeAt(before, l.spot(id)->x, l.spot(id)->z);
    for (const auto& [dx, dz] : {std::pair{0, 0}, {7, 0}, {0, -7}, {-5, 5}})
        CHECK(altitudeAt(next, l.spot(id)->x + dx, l.spot(id)->z + dz) == Approx(at).margin(1e-4));
    CHECK(altitudeAt(next, l.spot(id)->x + 13.5, l.spot(id)->z) ==
          altitudeAt(before, l.spot(id)->x + 13.5, l.spot(id)->z));
    CHECK(padOf(next, *next.spot(id)) == Pad{8, 5, std::nullopt});
    CHECK(checkLevel(next).empty());
    Level moved = next;
    REQUIRE(moveSpot(moved, id, l.spot(id)->x + 40, l.spot(id)->z - 20));
    moved = commitWork(next, moved).value().level;
    CHECK(changesBetween(moved, next).spots);
    CHECK_FALSE(changesBetween(next, next).spots);
    CHECK(altitudeAt(moved, l.spot(id)->x, l.spot(id)->z) == at);
    CHECK(altitudeAt(moved, l.spot(id)->x + 5, l.spot(id)->z) == altitudeAt(before, l.spot(id)->x + 5, l.spot(id)->z));
    const double there = altitudeAt(before, l.spot(id)->x + 40, l.spot(id)->z - 20);
    CHECK(altitudeAt(moved, l.spot(id)->x + 45, l.spot(id)->z - 22) == Approx(there).margin(1e-4));
    Level gone = moved;
    REQUIRE(setPad(gone, id, std::nullopt));
    gone = commitWork(moved, gone).value().level;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) REQUIRE(groundSample(gone, c, r) == groundSample(before, c, r));
    Level deleted = moved;
    removeSpot(deleted, id);
    CHECK(deleted.spots.empty());
    CHECK(deleted.strata.size() == before.strata.size());
}

TEST_CASE("spots and bodies are kept in the level file, and wrong ones refused in words") {
    Folder folder;
    Level l = lopsidedLevel();
    Spot s;
    s.name = "Start hut", s.x = l.originX + 30, s.z = l.originZ + 21, s.facing = 137.5;
    const uint32_t id = addSpot(l, s).value();
    s.name = "Jam kitchen", s.kind = "tasting table", s.x += 20;
    REQUIRE(addSpot(l, s));
    REQUIRE(setPad(l, id, Pad{3, 2, 4.5f}));
    Body goat{"goat", 1.1f, 0.3f, 0.7f, 55, 3, 7, 1.6f, 0.6f, true};
    REQUIRE(keepBody(l, goat));
    l.body = "goat";
    REQUIRE(saveLevel(l, folder.path / "l.jamhill"));
    const Level back = loadLevel(folder.path / "l.jamhill").value();
    CHECK(back.spots == l.spots);
    CHECK(back.bodies == l.bodies);
    CHECK(back.body == "goat");
    CHECK(bodyOf(back) == goat);
    CHECK(padOf(back, *back.spot(id)) == Pad{3, 2, 4.5f});
    CHECK(changesBetween(back, lopsidedLevel()).spots);
    const Json manifest = manifestOf(l);
    REQUIRE(manifest["spots"].size() == 2);
    CHECK(manifest["spots"][0]["name"] == "Start hut");
    CHECK(manifest["spots"][0]["y"].get<double>() == Approx(altitudeAt(l, l.spots[0].x, l.spots[0].z)));
    CHECK(manifest["body"]["name"] == "goat");
    // Wrong ones.
    s.x = l.originX + 1e5;
    CHECK(addSpot(l, s).error().sentence().find("called \"Jam kitchen\" already") != std::string::npos);
    s.name = "far off";
    CHECK(addSpot(l, s).error().sentence().find("outside of the level") != std::string::npos);
    s.x = l.originX + 50, s.z = l.originZ + 40;
    Level holed = flatLevel(40, 40);
    for (int r = 5; r < 12; ++r)
        for (int c = 5; c < 12; ++c) holed.opening.set(c, r, 255);
    s.x = holed.originX + 8, s.z = holed.originZ + 8;
    CHECK(addSpot(holed, s).error().sentence().find("no ground") != std::string::npos);
    Body flat = goat;
    flat.name = "flat", flat.height = 0;
    CHECK(keepBody(l, flat).error().sentence().find("height") != std::string::npos);
    flat.height = 1, flat.run = 1;
    CHECK(keepBody(l, flat).error().sentence().find("slower than it walks") != std::string::npos);
    goat.name = "walker";
    CHECK_FALSE(keepBody(l, goat));
    // Cut off, it goes with its pad.
    const Level cut = cropLevel(l, {40, 0, l.columns, l.rows}).value();
    CHECK(cut.spot(id) == nullptr);
    CHECK(cut.strata.size() + 1 == l.strata.size());
    CHECK(checkLevel(cut).empty());
}

TEST_CASE("files with wrong spots or bodies are refused in words, whatever is wrong") {
    const Level l = flatLevel(20, 20);
    const auto read = [&](const std::string& text) {
        std::optional<Error> error;
        const Json json = Json::parse(text);
        Fields f(json, "level.json", error);
        Level to = l;
        to.nextId = 9;
        readSpots(f, to);
        return error ? error->sentence() : std::string();
    };
    const std::string start = R"({"id":1,"name":"a","kind":"start","x":0,"z":0})";
    CHECK(read("{}").empty());
    CHECK(read("{\"spots\":[" + start + "]}").empty());
    const std::pair<std::string, std::string> wrong[] = {
        {"{\"spots\":[" + start + "," + start + "]}", "the same"},
        {R"({"spots":[{"id":1,"name":"a","kind":"start","x":0,"z":0},{"id":2,"name":"a","kind":"goal","x":0,"z":0}]})",
         "already"},
        {R"({"spots":[{"id":1,"name":"","kind":"start","x":0,"z":0}]})", "has none"},
        {R"({"spots":[{"id":1,"name":"a","kind":"","x":0,"z":0}]})", "spots[0].kind"},
        {R"({"spots":[{"id":1,"name":"a","kind":"start","x":900,"z":0}]})", "spots[0].x"},
        {R"({"spots":[{"id":99,"name":"a","kind":"start","x":0,"z":0}]})", "spots[0].id"},
        {R"({"bodies":[{"name":"a","height":0}]})", "bodies[0].height"},
        {R"({"bodies":[{"name":"a","pace":9,"run":2}]})", "slower"},
        {R"({"bodies":[{"name":"walker"}]})", "already"},
        {R"({"body":"ghost"})", "no body"}};
    for (const auto& [text, words] : wrong) {
        CAPTURE(text);
        CHECK(read(text).find(words) != std::string::npos);
    }
    std::string many = "{\"spots\":[";
    for (int i = 0; i < 10000; ++i) many += (i ? "," : "") + start;
    CHECK(read(many + "]}").find("spots") != std::string::npos);
}

// --- recorded walks -----------------------------------------------------------------------------------------------

TEST_CASE("a recorded walk leads to the same place to the bit, from its file too, and belongs to its level") {
    Folder folder;
    Level l = brokenLevel(60, 50, 8);
    l.name = "Broken";
    Random random(3);
    const double x = l.originX + 20, z = l.originZ + 25;
    Walker w(l, kBodies[1], x, z);
    WalkRecord record = recordAt(l, kBodies[1], x, z);
    WalkInput in;
    for (int i = 0; i < 3000; ++i) {
        if (i % 37 == 0)
            in = towards(between(random, 0, 360), i % 2), in.right = static_cast<int8_t>(wholeBetween(random, -1, 1));
        in.jump = i % 91 == 0;
        w.step(in);
        record.add(in);
    }
    CHECK(record.steps() == 3000);
    CHECK(record.seconds() == 25);
    CHECK(record.runs.size() < 200);
    CHECK(replayWalk(l, record).end == w.state());
    REQUIRE(writeWalk(record, folder.path / "a.walk"));
    const Result<WalkRecord> back = readWalk(folder.path / "a.walk", l);
    REQUIRE(back);
    CHECK(back.value() == record);
    const Replayed again = replayWalk(l, back.value());
    CHECK(again.end == w.state());
    CHECK(again.trace.size() == 251);
    CHECK(again.length > 10);
    // Another level, or another file.
    Level other = l;
    other.name = "Elsewhere";
    CHECK(readWalk(folder.path / "a.walk", other).error().sentence().find("walked in \"Broken\"") != std::string::npos);
    CHECK_FALSE(readWalk(folder.path / "a.walk", flatLevel(60, 51)));
    const std::string text = walkText(record);
    Random bytes(9);
    for (int n = 0; n < 3000; ++n) {
        std::string bad = text.substr(0, 600);
        const Bytes m = mutated(Bytes(bad.begin(), bad.end()), bytes);
        const auto read = parseWalk(std::string(m.begin(), m.end()), "bad.walk", l);
        if (!read) CHECK(read.error().sentence().find("bad.walk") != std::string::npos);
    }
    const auto withRun = [&](const std::string& run) {
        Json j = Json::parse(text);
        j["runs"] = Json::array({Json::parse(run)});
        return parseWalk(j.dump(), "bad.walk", l);
    };
    CHECK(withRun("[5,1,0,300,0,1,0]"));
    for (const char* run :
         {"[0,1,0,3,0,0,0]", "[5,2,0,3,0,0,0]", "[5,1,0,65536,0,0,0]", "[5,1,0,3,0,0]", "[5,1,0,3,0,0,2]",
          "[5,1,0.5,3,0,0,0]", "[99999999999,0,0,0,0,0,0]", "[18446744073709551615,0,0,0,0,0,0]", "7"})
        CHECK(withRun(run).error().sentence().find("runs") != std::string::npos);
}

// --- mending ------------------------------------------------------------------------------------------------------

TEST_CASE("a bank along a way out closes it, on level and on falling ground, for who jumps too", "[property]") {
    for (const double spacing : {0.5, 1.0})
        for (const double fall : {0.0, 0.4, -0.4})
            for (const Body& body : kBodies) {
                // Walls all round but for a gap in the east.
                Level l = shaped(
                    70, 60,
                    [&](int c, int r) {
                        const double rim = std::max({5.0 - c, 5.0 - r, c - 64.0, r - 54.0, 0.0});
                        const bool gap = c >= 60 && r > 22 && r < 34;
                        return fall * std::max(c - 50, 0) * spacing + (gap ? 0.0 : std::min(rim, 1.0) * 9);
                    },
                    spacing);
                put(l, "start", 30, 28);
                const Reach before = surveyReach(l, body);
                CAPTURE(spacing, fall, body.name);
                REQUIRE(before.waysOut.size() == 1);
                CHECK(before.waysOut[0].towards == "east");
                const Result<Mended> done = bankAlong(l, before, before.waysOut[0], {2.5f, 1.5f});
                REQUIRE(done);
                CHECK(done.value().earth > 1);
                const Reach after = surveyReach(done.value().level, body);
                CHECK(after.waysOut.empty());
                CHECK(groundSample(done.value().level, 30, 28) == groundSample(l, 30, 28));
                Walker w(done.value().level, body, l.spots[0].x, l.spots[0].z);
                for (int i = 0; i < 40 * Walker::kStepsASecond; ++i) {
                    WalkInput in = towards(90, true);
                    in.jump = i % 20 == 0;
                    w.step(in);
                }
                CHECK(w.state().gait != Gait::lost);
            }
}

TEST_CASE("a bank that does not help changes nothing and says why") {
    Level l = shaped(40, 40, [](int, int) { return 0; });
    put(l, "start", 20, 20);
    const Reach reach = surveyReach(l, kBodies[1]);
    REQUIRE(reach.waysOut.size() == 1);
    CHECK(bankAlong(l, reach, reach.waysOut[0], {0.5f, 1}).error().sentence().find("still") != std::string::npos);
    CHECK(bankAlong(l, reach, reach.waysOut[0], {-1, 1}).error().sentence().find("height") != std::string::npos);
    l.highest = 1;
    CHECK(bankAlong(l, reach, reach.waysOut[0], {2.5f, 1}).error().sentence().find("range") != std::string::npos);
    l.strata[0].locked = true;
    CHECK(bankAlong(l, reach, reach.waysOut[0], {2.5f, 1}).error().sentence().find("protected") != std::string::npos);
}

TEST_CASE("a ramp leads onto a stack of stone and out of a pit, and the hand gets there by it") {
    for (const double high : {6.0, -5.0}) {
        Level l = shaped(90, 80, [&](int c, int r) { return std::hypot(c - 60, r - 40) < 8 ? high : 0.0; });
        put(l, "start", 20, 40), put(l, "other", 60, 40, "lookout");
        for (const Body& body : kBodies) {
            Reach reach = surveyReach(l, body);
            const double x = l.originX + 60, z = l.originZ + 40;
            CAPTURE(high, body.name);
            REQUIRE(reach.spotsReached() == (high > 0 ? std::array{1, 2} : std::array{2, 2}));
            const Result<Mended> done = rampTo(l, reach, x, z);
            REQUIRE(done);
            const Level& eased = done.value().level;
            CHECK(eased.strata.size() == l.strata.size() + 1);
            CHECK(eased.strata.back().name == "Ramp");
            reach = surveyReach(eased, body);
            CHECK(reach.reaches(l.spots[0].id, l.spots[1].id));
            CHECK(reach.reaches(l.spots[1].id, l.spots[0].id));
            CHECK(reach.classes.at(60, 40) == static_cast<uint8_t>(Reached::both));
            // Up, that is.
            const Spot &foot = l.spots[high > 0 ? 0 : 1], &head = l.spots[high > 0 ? 1 : 0];
            const auto way = wayBetween(eased, *reach.ground, foot.x, foot.z, head.x, head.z);
            REQUIRE(way);
            CHECK(way->leaps + way->drops == 0);
            Walker w(eased, body, foot.x, foot.z);
            WayFollower hand(*way);
            for (int i = 0; i < 200 * Walker::kStepsASecond && !hand.there() && !hand.stuck(); ++i)
                w.step(hand.next(w.state()));
            CHECK(hand.there());
            CHECK(rampTo(eased, reach, x, z).error().sentence().find("already") != std::string::npos);
        }
    }
    // An island in a moat too wide for any ramp that long.
    Level far = shaped(200, 200, [](int c, int r) {
        const double d = std::hypot(c - 100, r - 100);
        return d < 9 ? 190.0 : 0.0;
    });
    put(far, "start", 5, 5), put(far, "top", 100, 100, "goal");
    CHECK(rampTo(far, surveyReach(far, kBodies[0]), far.originX + 100, far.originZ + 100)
              .error()
              .sentence()
              .find("no ramp") != std::string::npos);
}
