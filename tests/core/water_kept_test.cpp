// Water in files, clips, rules, layers and hand over, and what it refuses.
#include <catch2/catch.hpp>

#include "water_levels.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("pools and streams that cannot be are refused in words") {
    uint32_t stream = 0, pond = 0;
    Level l = brook(false, stream, pond);
    const Level before = l;
    const auto refuses = [&](const Result<uint32_t>& r, const char* words) {
        INFO(words);
        REQUIRE_FALSE(r);
        CHECK(r.error().sentence().find(words) != std::string::npos);
    };
    refuses(addPool(l, poolOver(l, 5, 5, 3, "mill pond")), "another pool or stream is called");
    refuses(addPool(l, poolOver(l, 5, 5, 3, "mill stream")), "another pool or stream is called");
    refuses(addPool(l, poolOver(l, 5, 5, 3, "")), "empty");
    refuses(addPool(l, poolOver(l, 5, 5, l.highest + 1)), "beyond the level's range");
    refuses(addPool(l, poolOver(l, 5, 5, std::nanf(""))), "height");
    refuses(addPool(l, poolOver(l, -5, 5, 3)), "outside of the level");
    Pool murky = poolOver(l, 5, 5, 3);
    murky.look.clearness = 0;
    refuses(addPool(l, murky), "clearness");
    Stream s;
    s.name = "other";
    s.course = l.strata[1].id;
    refuses(addStream(l, s), "runs there");
    s.course = l.strata[0].id;
    refuses(addStream(l, s), "no such course");
    CHECK(l == before);
    Level other = l;
    Course road = *l.strata[1].course;
    road.use = CourseUse::grade;
    s.course = addCourse(other, "road", road);
    refuses(addStream(other, s), "does not carve");
    road.use = CourseUse::carve;
    std::reverse(road.posts.begin(), road.posts.end());
    s.course = addCourse(other, "backwards", road);
    refuses(addStream(other, s), "uphill");
    Level plain = l;  // by the ground it rises too
    for (Post& p : road.posts) p.height.reset();
    s.course = addCourse(plain, "backwards on the ground", road);
    refuses(addStream(plain, s), "uphill");
    s.depth = 0;
    s.course = addCourse(other, "forwards", *l.strata[1].course);
    refuses(addStream(other, s), "depth");
    Level many = l;
    for (int i = 0; many.pools.size() + many.streams.size() < kMaxWaters; ++i)
        REQUIRE(addPool(many, poolOver(many, 5, 5, 3, "p" + std::to_string(i))));
    refuses(addPool(many, poolOver(many, 5, 5, 3, "one more")), "64");
}

TEST_CASE("water goes through the level file, and through undo, without being stored") {
    const Folder folder;
    uint32_t stream = 0, pond = 0;
    Level l = brook(true, stream, pond);
    l.pools[0].look = {{0.2f, 0.4f, 0.1f}, 5, 0.2f, 7, 0.4f, 1};
    l.streams[0].manning = 0.07f;
    refillWater(l);
    REQUIRE(saveLevel(l, folder.path / "water.jamhill"));
    const Result<Level> back = loadLevel(folder.path / "water.jamhill");
    REQUIRE(back);
    CHECK(back.value().pools == l.pools);
    CHECK(back.value().streams == l.streams);
    CHECK(back.value().water == l.water);
    CHECK(back.value() == l);
    // A course that no longer carves leaves the stream dry, and the level opens all the same.
    Level dry = l;
    dry.strata[1].course->use = CourseUse::grade;
    dry = commitWork(l, dry).value().level;
    CHECK_FALSE(dry.water.at(30, 30).wet());
    REQUIRE(saveLevel(dry, folder.path / "dry.jamhill"));
    const Result<Level> opened = loadLevel(folder.path / "dry.jamhill");
    REQUIRE(opened);
    CHECK(opened.value() == dry);
}

TEST_CASE("cropping and resampling keep pools and streams, and their water follows") {
    uint32_t stream = 0, pond = 0;
    const Level l = brook(true, stream, pond);
    const Level piece = commitWork(l, cropLevel(l, {20, 5, 141, 55}).value()).value().level;
    CHECK(piece.pools.size() == 1);
    CHECK(piece.water.at(115 - 20, 30 - 5).body == pond);
    CHECK(piece.water.at(30 - 20, 30 - 5).body == stream);
    CHECK(checkLevel(piece).empty());
    // One whose place is cut off goes.
    const Level west = commitWork(l, cropLevel(l, {0, 0, 80, 61}).value()).value().level;
    CHECK(west.pools.empty());
    CHECK(checkLevel(west).empty());
    const Level fine = commitWork(l, resampleLevel(l, 281, 121, 0.5).value()).value().level;
    CHECK(fine.water.at(230, 60).body == pond);
    CHECK(fine.water.at(60, 60).body == stream);
    CHECK(poolFigures(fine, fine.pools[0]).volume == Approx(poolFigures(l, l.pools[0]).volume).epsilon(0.05));
    CHECK(checkLevel(fine).empty());
}

TEST_CASE("a pool that is cut in two stays in the deeper part, on whichever side that is") {
    for (const bool west : {true, false}) {
        Level l = flatLevel(81, 41, 1, 2);
        l.lowest = -50, l.highest = 50;
        const auto dig = [&](int c0, int c1, int r0, int r1, float to) {
            for (int r = r0; r < r1; ++r)
                for (int c = c0; c < c1; ++c) l.strata[0].heights.set(c, r, to);
        };
        dig(10, 25, 15, 35, west ? -9.f : -4.f);
        dig(55, 70, 15, 35, west ? -4.f : -9.f);
        dig(10, 70, 4, 16, -12);  // what joins the two, and is deepest, is cut off
        const Level dry = l;
        Pool p;
        p.name = "two bays", p.height = -1, p.x = l.originX + 80, p.z = l.originZ + 16;
        REQUIRE(addPool(l, p));
        l = commitWork(dry, l).value().level;
        REQUIRE(l.water.at(17, 25).wet());
        REQUIRE(l.water.at(62, 25).wet());
        const Level cut = commitWork(l, cropLevel(l, {0, 18, 81, 41}).value()).value().level;
        REQUIRE(cut.pools.size() == 1);
        CHECK(cut.water.at(17, 7).wet() == west);
        CHECK(cut.water.at(62, 7).wet() == !west);
    }
}

TEST_CASE("what stands over a place is told by its triangle") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 25, 22, 5));
    refillWater(l);
    Random random(3);
    for (int i = 0; i < 4000; ++i) {
        const double x = between(random, -29, 29), z = between(random, -23, 23);
        const Wet w = waterAt(l, x, z);
        const double ground = altitudeAt(l, x, z);
        if (w.wet()) CHECK(ground < 5);
        CHECK(depthAt(l, x, z) == (w.wet() ? Approx(5 - ground) : Approx(0)));
        // In the bowl everything lower than the surface is wet, on the shore between samples too.
        if (std::hypot(l.toColumn(x) - 25, l.toRow(z) - 22) < 10) CHECK((ground < 5) == (w.body == id.value()));
    }
    CHECK_FALSE(waterAt(l, 1e4, 0).wet());
}

TEST_CASE("in a closed valley a pool leaks over its rim into lower dry ground, until that holds water as high") {
    Level l = flatLevel(50, 30);
    for (int r = 0; r < 30; ++r)
        for (int c = 0; c < 50; ++c) {
            const bool left = c > 4 && c < 20 && r > 5 && r<25, right = c> 23 && c < 44 && r > 5 && r < 25;
            l.strata[0].heights.set(c, r, left ? 5.f : right ? 1.f : r == 12 && c >= 20 && c <= 23 ? 8.f : 20.f);
        }
    const uint32_t upper = addPool(l, poolOver(l, 10, 12, 8, "upper")).value();
    refillWater(l);
    CHECK_FALSE(leakOf(l, *l.pool(upper)));
    CHECK(poolFigures(l, *l.pool(upper)).brim == 8);
    l.pool(upper)->height = 8.5f;
    refillWater(l);
    const auto leak = leakOf(l, *l.pool(upper));
    REQUIRE(leak);
    CHECK(leak->towards == "east");
    CHECK(leak->over == 0.5f);
    CHECK(groundSample(l, static_cast<int>(l.toColumn(leak->way.back()[0])),
                       static_cast<int>(l.toRow(leak->way.back()[1]))) == 1);
    CHECK(l.water.at(10, 12).body == upper);
    CHECK_FALSE(l.water.at(30, 12).wet());
    // A dam closes it, within the level.
    Level dammed = l;
    REQUIRE(raiseRim(dammed, upper, {1, 1, 0.2f}));
    CHECK_FALSE(leakOf(dammed, *dammed.pool(upper)));
    // Water below takes it up only when it stands as high as the upper one's bed.
    const uint32_t lower = addPool(l, poolOver(l, 30, 12, 4, "lower")).value();
    refillWater(l);
    CHECK(leakOf(l, *l.pool(upper)));
    CHECK(l.water.at(30, 12).body == lower);
    l.pool(lower)->height = 5;
    refillWater(l);
    CHECK_FALSE(leakOf(l, *l.pool(upper)));
    CHECK(l.water.at(30, 12).body == upper);
    CHECK(poolFigures(l, *l.pool(upper)).meets == std::vector{lower});
}

TEST_CASE("a hole dug in a pool's bed is no leak, and its place moves there") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 22, 20, 5));
    refillWater(l);
    Level dug = l;
    for (int r = 24; r < 27; ++r)
        for (int c = 26; c < 29; ++c) dug.strata[0].heights.set(c, r, -3);
    const Level now = commitWork(l, dug).value().level;
    const Pool& p = *now.pool(id.value());
    CHECK_FALSE(leakOf(now, p));
    CHECK(groundSample(now, static_cast<int>(std::lround(now.toColumn(p.x))),
                       static_cast<int>(std::lround(now.toRow(p.z)))) == -3);
    CHECK(now.water.at(22, 20).body == id.value());
}

TEST_CASE("a clip takes its pools along, moved, turned and scaled with its ground") {
    uint32_t stream = 0, pond = 0;
    const Level l = brook(false, stream, pond);
    const Region box{92, 6, 140, 56};
    const Result<Level> clip = liftClip(l, box, "pond");
    REQUIRE(clip);
    CHECK(clip.value().pools.size() == 1);
    CHECK(clip.value().streams.empty());
    CHECK(checkLevel(clip.value()).empty());
    const Result<Level> without = liftClip(l, {0, 0, 60, 40}, "bank");
    REQUIRE(without);
    CHECK(without.value().pools.empty());
    Level ground = flatLevel(200, 160, 3);
    Placement p;
    p.x = 20, p.z = -15, p.turn = 90, p.heightScale = 0.5, p.raise = 3;
    const Result<Level> set = setDown(ground, clip.value(), {p}, {});
    REQUIRE(set);
    const Level now = commitWork(ground, set.value()).value().level;
    REQUIRE(now.pools.size() == 1);
    const double foot = clipFoot(clip.value());
    CHECK(now.pools[0].height == Approx(foot + 0.5 * (5 - foot) + 3));
    CHECK(now.pools[0].name == "mill pond");
    CHECK(poolFigures(now, now.pools[0]).area == Approx(poolFigures(l, l.pools[0]).area).epsilon(0.1));
    // Once more it gets another name; laid over the ground it has no height of its own, and stays away.
    p.x = -40;
    const Result<Level> twice = setDown(now, clip.value(), {p}, {});
    REQUIRE(twice);
    CHECK(twice.value().pools[1].name == "mill pond 2");
    SetDownWish over;
    over.join = ClipJoin::add;
    CHECK(setDown(ground, clip.value(), {p}, over).value().pools.empty());
}

TEST_CASE("water is handed over: outline, height and look, a picture of its depth, and a mask") {
    const Folder folder;
    uint32_t stream = 0, pond = 0;
    const Level l = brook(false, stream, pond);
    HandoverWish wish;
    wish.set("pictures", 0).set("weights", 0);
    const auto names = handOver(l, folder.path / "out", wish);
    REQUIRE(names);
    const Bytes text = bytesOf(folder.path / "out" / "manifest.json");
    const Json j = Json::parse(text.begin(), text.end())["water"];
    CHECK(j["pools"][0]["name"] == "mill pond");
    CHECK(j["pools"][0]["height"] == 5);
    CHECK(j["pools"][0]["outlines"].size() == 1);
    CHECK(j["streams"][0]["line"].size() == streamLine(l, l.streams[0]).size());
    const float white = j["depth"]["white"].get<float>();
    const Result<Pixels> depth = decodePng(bytesOf(folder.path / "out" / "water-depth.png"), "depth", 8193),
                         mask = decodePng(bytesOf(folder.path / "out" / "water.png"), "mask", 8193);
    REQUIRE(depth);
    REQUIRE(mask);
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            const auto i = static_cast<size_t>(r * l.columns + c);
            const Wet w = l.water.at(c, r);
            CHECK(mask.value().samples[i] == (w.wet() ? 255 : 0));
            const float metres = w.wet() ? w.surface - groundSample(l, c, r) : 0;
            CHECK(depth.value().samples[i] / 65535.f * white == Approx(metres).margin(white / 60000));
        }
    // Without water there are no such files.
    Level dry = l;
    dry.pools.clear(), dry.streams.clear();
    refillWater(dry);
    const auto few = handOver(dry, folder.path / "dry", wish);
    REQUIRE(few);
    CHECK(few.value().size() == names.value().size() - 2);
}

TEST_CASE("water that cannot be is refused as reading refuses it, and names the field") {
    const Folder folder;
    uint32_t stream = 0, pond = 0;
    const Level l = brook(false, stream, pond);
    const auto refused = [&](const std::function<void(Level&)>& spoil, const char* words) {
        Level bad = l;
        spoil(bad);
        const Status saved = saveLevel(bad, folder.path / "bad.jamhill");
        REQUIRE_FALSE(saved);
        INFO(saved.error().sentence());
        CHECK(saved.error().sentence().find(words) != std::string::npos);
    };
    refused([](Level& b) { b.pools[0].height = 1e9f; }, "pools[0].height");
    refused([](Level& b) { b.pools[0].x = 1e9; }, "pools[0].x");
    refused([](Level& b) { b.streams[0].name = b.pools[0].name; }, "streams[0].name");
    refused([](Level& b) { b.streams[0].course = 77; }, "streams[0].course");
    refused([](Level& b) { b.streams[0].depth = -1; }, "streams[0].depth");
    refused([](Level& b) { b.pools[0].look.clearness = 0; }, "clearness");
    refused(
        [](Level& b) {
            for (int i = 0; i < 5000; ++i) {
                b.pools.push_back(b.pools[0]);
                b.pools.back().id = b.nextId++;
                b.pools.back().name = "p" + std::to_string(i);
            }
        },
        "pools");
}

TEST_CASE("rules by water measure depth, the way to the shore, and the height above it") {
    Level l = bowl(9);
    REQUIRE(addPool(l, poolOver(l, 25, 22, 5)));
    refillWater(l);
    const auto given = [&](RuleKind kind, float from, float to, int c, int r, float reach = 0) {
        Rule rule;
        rule.kind = kind, rule.from = from, rule.to = to, rule.fade = 0, rule.reach = reach;
        Raster<float> out(1, 1);
        readRules(l, 0, {rule}, {c, r, c + 1, r + 1}, out.view());
        return out.at(0, 0);
    };
    int shore = 25;  // the last wet sample to the west
    while (l.water.at(shore - 1, 22).wet()) --shore;
    const float deep = 5 - groundSample(l, 25, 22);
    CHECK(given(RuleKind::depth, deep - 0.01f, deep + 0.01f, 25, 22) == 1);
    CHECK(given(RuleKind::depth, deep + 0.01f, 99, 25, 22) == 0);
    CHECK(given(RuleKind::depth, 0, 99, shore - 1, 22) == 0);
    // Positive on dry ground, negative under water; the outline lies half a sample from both.
    CHECK(given(RuleKind::shore, 0.4f, 0.6f, shore - 1, 22) == 1);
    CHECK(given(RuleKind::shore, -0.6f, -0.4f, shore, 22) == 1);
    CHECK(given(RuleKind::shore, 2.4f, 2.6f, shore - 3, 22) == 1);
    CHECK(given(RuleKind::shore, -3, 0, shore - 3, 22) == 0);
    const float above = groundSample(l, shore - 2, 22) - 5;
    CHECK(above > 0.1f);
    CHECK(given(RuleKind::above, above - 0.01f, above + 0.01f, shore - 2, 22, 12) == 1);
    CHECK(given(RuleKind::above, above + 0.01f, 99, shore - 2, 22, 12) == 0);
    CHECK(given(RuleKind::above, 0, 99, shore - 14, 22, 4) == 0);
    CHECK(given(RuleKind::above, 0, 99, 25, 22, 4) == 0);
}

TEST_CASE("dents of a hand's breadth in a slope hold nothing") {
    Level l = flatLevel(80, 40);
    for (int r = 0; r < 40; ++r)
        for (int c = 0; c < 80; ++c)
            l.strata[0].heights.set(c, r, 20 - 0.1f * static_cast<float>(c) - ((c + 2 * r) % 9 == 0 ? 0.2f : 0.f));
    for (int c = 20; c < 50; c += 3) CHECK(brimsAt(l, l.originX + c, l.originZ + 20, -1e9f, 9).empty());
}

TEST_CASE("layers laid by water follow a pool that rises where no ground changed") {
    Level l = bowl(9);
    const auto id = addPool(l, poolOver(l, 25, 22, 4));
    refillWater(l);
    Rule silt;
    silt.kind = RuleKind::depth, silt.from = 0, silt.to = 99, silt.fade = 0;
    l.layers[1].rules = {silt};
    wakeRules(l, l.layers[1].id, false);
    Level higher = l;
    higher.pool(id.value())->height = 5;
    const Level now = commitWork(l, higher).value().level;
    int more = 0;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            CHECK(now.layers[1].coverage.at(c, r) == (now.water.at(c, r).wet() ? kFullCover : 0));
            more += now.water.at(c, r).wet() && !l.water.at(c, r).wet();
        }
    CHECK(more > 30);
}

TEST_CASE("a pool that leaks follows ground far down its way, in tiles where no water stands") {
    Level l = flatLevel(200, 30);
    for (int r = 0; r < 30; ++r)
        for (int c = 0; c < 200; ++c) {
            float h = 20;
            if (r > 9 && r < 16 && c > 4 && c < 196)
                h = c < 20 ? 5.f : c < 130 ? 8 - 0.025f * static_cast<float>(c - 20) : 1.f;
            l.strata[0].heights.set(c, r, h);
        }
    const uint32_t id = addPool(l, poolOver(l, 10, 12, 8.5f)).value();
    refillWater(l);
    CHECK(l.pools[0].leaks);
    CHECK_FALSE(l.water.at(140, 12).wet());
    Level filled = l;
    for (int r = 10; r < 16; ++r)
        for (int c = 130; c < 196; ++c) filled.strata[0].heights.set(c, r, 6);
    const Level now = commitWork(l, filled).value().level;
    CHECK_FALSE(now.pools[0].leaks);
    CHECK(now.water.at(140, 12).body == id);
    Level anew = now;
    refillWater(anew);
    CHECK(anew.water == now.water);
    // Dug again it is a hole in the bed that the water covers now, and no leak.
    Level dug = now;
    dug.strata = l.strata;
    CHECK_FALSE(commitWork(now, dug).value().level.pools[0].leaks);
}

TEST_CASE("that water is drawn otherwise is told apart from how it stands") {
    const Level level = lopsidedLevel();
    REQUIRE(level.pools.size() == 1);
    const auto changed = [&](auto change) {
        Level other = level;
        change(other);
        return changesBetween(other, level);
    };
    for (const auto& look : std::initializer_list<std::function<void(WaterLook&)>>{
             [](WaterLook& l) { l.colour[1] *= 0.9f; }, [](WaterLook& l) { l.clearness += 1; },
             [](WaterLook& l) { l.waves += 0.1f; }, [](WaterLook& l) { l.foam += 0.1f; }}) {
        const Change c = changed([&](Level& l) { look(l.pools[0].look); });
        CHECK(c.waterLooks);
        CHECK(c.waters);
        CHECK_FALSE(c.looks);
        Change both;
        both.add(c);
        CHECK(both.waterLooks);
    }
    CHECK_FALSE(changed([](Level& l) { l.pools[0].height += 1; }).waterLooks);
    CHECK_FALSE(changed([](Level& l) { l.pools[0].name = "mere"; }).waterLooks);
    CHECK_FALSE(changed([](Level& l) { l.pools.clear(); }).waterLooks);
    CHECK_FALSE(changed([](Level& l) {
                    Pool second = l.pools[0];
                    second.id = l.nextId++, second.name = "second";
                    l.pools.push_back(second);
                }).waterLooks);
    CHECK_FALSE(changed([](Level&) {}).waters);
}
