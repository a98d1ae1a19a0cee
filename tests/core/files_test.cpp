#include <catch2/catch.hpp>

#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>
#include <zlib.h>
#include <cmath>
#include <csignal>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>

#include "cover/weights.h"
#include "files/float_tiff.h"
#include "files/heightmap.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/settings_json.h"
#include "files/stroke_file.h"
#include "folder.h"
#include "handover/handover.h"
#include "level/ground.h"
#include "level/strata.h"
#include "levels.h"
#include "pictures/material.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

TEST_CASE("a level survives saving and loading bit by bit") {
    const Folder folder;
    Level level = hillyLevel(300, 170, 4, 5);
    level.name = "Kerne & Söhne \"quoted\"";
    level.sun = {123.5f, 44.25f};
    level.layers[2].hidden = true;
    level.layers[3].normal = plainPicture(128, 128, 255);
    addStratum(level, "empty", 0);
    level.strata.back().opacity = 0.5f;
    const fs::path path = folder.path / "level.jamhill";
    REQUIRE(saveLevel(level, path));
    const Result<Level> loaded = loadLevel(path);
    if (!loaded) FAIL(loaded.error().sentence());
    CHECK(loaded.value() == level);
    CHECK(folder.files() == 1);
    // The same level gives the same bytes.
    REQUIRE(saveLevel(loaded.value(), folder.path / "again.jamhill"));
    CHECK(bytesOf(path) == bytesOf(folder.path / "again.jamhill"));
}

TEST_CASE("levels of every small size survive", "[property]") {
    const Folder folder;
    for (int w = 2; w < 6; ++w)
        for (int d = 2; d < 6; ++d) {
            const Level level = hillyLevel(w, d, static_cast<uint32_t>(w * 10 + d), 2);
            REQUIRE(saveLevel(level, folder.path / "a"));
            REQUIRE(loadLevel(folder.path / "a").value() == level);
        }
}

TEST_CASE("saving into nowhere keeps the old file and says what to do") {
    const Folder folder;
    const Level level = hillyLevel(65, 65, 1);
    const Status gone = saveLevel(level, folder.path / "missing" / "a.jamhill");
    REQUIRE_FALSE(gone);
    CHECK(gone.error().sentence().find("folder is gone") != std::string::npos);
    const Status full = saveLevel(level, "/dev/full/a.jamhill");
    CHECK_FALSE(full);
    REQUIRE(saveLevel(level, folder.path / "a.jamhill"));
    std::atomic<bool> stop{true};
    Context context;
    context.cancel = &stop;
    const Bytes before = bytesOf(folder.path / "a.jamhill");
    CHECK_FALSE(saveLevel(hillyLevel(65, 65, 2), folder.path / "a.jamhill", context));
    CHECK(bytesOf(folder.path / "a.jamhill") == before);
    CHECK(folder.files() == 1);
    if (::geteuid() != 0) {
        ::chmod(folder.path.c_str(), 0555);
        const Status locked = saveLevel(level, folder.path / "a.jamhill");
        REQUIRE_FALSE(locked);
        CHECK(locked.error().sentence().find("permission") != std::string::npos);
    }
}

TEST_CASE("a level file that is not one is refused in words") {
    const Folder folder;
    const fs::path path = folder.path / "bad.jamhill";
    CHECK(loadLevel(folder.path / "none").error().sentence().find("does not exist") != std::string::npos);
    CHECK(loadLevel(folder.path).error().sentence().find("it is a folder") != std::string::npos);
    put(path, {'h', 'e', 'l', 'l', 'o'});
    CHECK(loadLevel(path).error().sentence().find("not a level file") != std::string::npos);
    put(path, {});
    CHECK_FALSE(loadLevel(path));
}

TEST_CASE("what no file could hold is refused before memory is taken for it") {
    // A header of 30000 x 30000 on a file of some hundred bytes.
    Bytes png = encodePng({8, 8, 4, 8, std::vector<uint16_t>(256, 9)});
    const auto putSide = [&](size_t at, uint32_t v) {
        for (size_t i = 0; i < 4; ++i) png[at + i] = static_cast<uint8_t>(v >> (24 - 8 * i));
    };
    putSide(16, 30000), putSide(20, 30000);
    const auto sum = static_cast<uint32_t>(crc32(0, &png[12], 17));
    putSide(29, sum);
    const Result<Pixels> read = decodePng(png, "large.png", 40000);
    REQUIRE_FALSE(read);
    CHECK(read.error().sentence().find("30000 x 30000, more than the file can hold") != std::string::npos);
    // One colour packs as well as anything does, and is read.
    CHECK(decodePng(encodePng({2000, 2000, 4, 8, std::vector<uint16_t>(16'000'000, 200)}, 9), "plain.png", 2000));

    const Folder folder;
    const fs::path path = folder.path / "a.jamhill";
    REQUIRE(saveLevel(lopsidedLevel(), path));
    const Result<Level> tight = loadLevel(path, {}, 100'000);
    REQUIRE_FALSE(tight);
    CHECK(tight.error().sentence().find("more memory") != std::string::npos);
    CHECK(tight.error().file == path);
    CHECK(loadLevel(path, {}, 100'000'000));

    std::string many = "[0";
    for (size_t i = 0; i < kMostJsonValues; ++i) many += ",0";
    const Result<Json> json = parseJson(many + "]", "many.json");
    REQUIRE_FALSE(json);
    CHECK(json.error().sentence().find("16 million values") != std::string::npos);
}

TEST_CASE("PNG round trips for every channel count and depth") {
    Random random(31);
    for (const int bits : {8, 16})
        for (int channels = 1; channels <= 4; ++channels) {
            Pixels p{17, 9, channels, bits, {}};
            for (int i = 0; i < 17 * 9 * channels; ++i)
                p.samples.push_back(static_cast<uint16_t>(wholeBetween(random, 0, p.most())));
            const Result<Pixels> back = decodePng(encodePng(p), "p", 100);
            REQUIRE(back);
            CHECK(back.value().samples == p.samples);
            CHECK(back.value().bits == bits);
            CHECK(back.value().channels == channels);
        }
    Pixels wide{200, 1, 1, 8, std::vector<uint16_t>(200, 1)};
    CHECK(decodePng(encodePng(wide), "wide.png", 100).error().sentence() ==
          "wide.png: size: it is 200 x 1, more than 100 along a side; choose a smaller picture.");
}

TEST_CASE("heights survive as TIFF, absent tiles stay absent") {
    TiledGrid<float> grid(600, 300, 0);
    grid.set(5, 5, 1.25f);
    grid.set(599, 299, -1e-30f);
    const Result<TiledGrid<float>> back = decodeFloatTiff(encodeFloatTiff(grid).take(), "t", 600, 300);
    REQUIRE(back);
    CHECK(back.value() == grid);
    CHECK(back.value().presentTiles() == 2);
    CHECK(decodeFloatTiff(encodeFloatTiff(grid).take(), "t", 601, 300).error().field == "size");
}

TEST_CASE("heights of so many tiles that they are packed in several goes come back in their places") {
    // 70 tiles of a file in two rows, and something only in some of those that are packed later.
    TiledGrid<float> grid(256 * 35 - 40, 300, 0);
    for (const int x : {3, 256 * 5 + 7, 256 * 33 + 9, 256 * 34 + 90})
        for (const int z : {11, 290}) grid.set(x, z, static_cast<float>(x) + 0.5f * static_cast<float>(z));
    const Result<TiledGrid<float>> back = decodeFloatTiff(encodeFloatTiff(grid).take(), "t", grid.columns(), 300);
    REQUIRE(back);
    CHECK(back.value() == grid);
    CHECK(back.value().presentTiles() == grid.presentTiles());
}

TEST_CASE("strokes survive writing and reading") {
    Level level = hillyLevel(65, 65, 1, 3);
    giveWork(level, Tool::plant);
    const auto tip = std::make_shared<TipPicture>(TipPicture{"Ramp", 3, {0, 0.2f, 0.4f, 0.6f, 0.8f, 1, 0, 0.2f, 1}});
    std::vector<Stroke> strokes;
    for (int t = 0; t < kTools; ++t) {
        Stroke s;
        s.settings.tool = static_cast<Tool>(t);
        s.settings.strength = hasRate(s.settings.tool) ? 3.f : 0.25f;
        s.settings.falloff = {t % 2 ? Curve::bell : Curve::bent, 0.5f, t % 2 ? Bend{} : Bend{0.75f, 0.125f}};
        s.settings.flow = t % 3 == 0;
        s.settings.spacing = 0.5f;
        if (t % 3 == 1) s.settings.tip = {TipShape::square, nullptr, 30, true, false, 0.5f};
        if (t % 3 == 2) s.settings.tip = {TipShape::picture, tip, 0, false, true, 0};
        if (t % 2) s.settings.mirror = {MirrorKind::turn4, 12, -3.5};
        if (t % 4 == 1) s.settings.limits = {-5.f, 20.f};
        if (t % 4 == 2) s.settings.pressure = {false, true, 2};
        s.settings.seed = static_cast<uint32_t>(t + 1);
        if (s.settings.tool == Tool::smooth) s.settings.smoothing = 0.25f;
        if (s.settings.tool == Tool::evenOut) s.settings.remains = 0.5f;
        if (s.settings.tool == Tool::terrace) s.settings.step = 2.5f, s.settings.riser = 0.75f;
        if (s.settings.tool == Tool::slope) s.settings.angle = 20, s.settings.earthwork = Earthwork::fill;
        if (s.settings.tool == Tool::noise)
            s.settings.scale = 32, s.settings.amplitude = 0.5f, s.settings.octaves = 6,
            s.settings.noise = NoiseSign::up;
        if (s.settings.tool == Tool::crumble) s.settings.angle = 28;
        if (s.settings.tool == Tool::restore) s.settings.restore = RestoreTo::reference;
        if (s.settings.tool == Tool::flatten) s.settings.height = 7.5f, s.settings.earthwork = Earthwork::cut;
        if (usesLayer(s.settings.tool)) s.settings.layer = level.layers[2].id;
        if (s.settings.tool == Tool::breakUp)
            s.settings.scale = 3, s.settings.breakBy = BreakBy::height,
            s.settings.where = {10.f, 40.f, -5.f, 12.f, level.layers[1].id, level.layers[0].id};
        if (s.settings.tool == Tool::soften) s.settings.smoothing = 0.3f;
        if (dresses(s.settings.tool)) s.settings.kind = level.kinds[0].id;
        if (s.settings.tool == Tool::plant) s.settings.onHundred = 12.5f;
        if (s.settings.tool == Tool::clearAway) s.settings.everyKind = true;
        if (s.settings.tool == Tool::paint) s.settings.target = 0.75f;
        if (s.settings.tool == Tool::replace) s.settings.from = level.layers[1].id;
        if (s.settings.tool == Tool::wash) s.settings.colour = {0.25f, 0.5f, 1};
        s.points = {{1.5, -2, 1, 0}, {3, 4, 0.5f, 0.25}};
        strokes.push_back(s);
    }
    const Result<std::vector<Stroke>> back = parseStrokes(writeStrokes(strokes, level), "s.json", level);
    if (!back) FAIL(back.error().sentence());
    CHECK(back.value() == strokes);
    // A tip that is not known here came along.
    CHECK(writeStrokes(strokes, level).find("png") != std::string::npos);
}

TEST_CASE("a brush survives being kept and shared, with its picture") {
    Preset p{"Craggy", {}};
    p.settings.tool = Tool::noise;
    p.settings.strength = 0.5f;
    p.settings.tip = {
        TipShape::picture, std::make_shared<TipPicture>(TipPicture{"Stripe", 2, {0, 1, 0, 1}}), 15, false, false, 0};
    const Result<Preset> back = parsePreset(writePreset(p), "craggy.json", {});
    if (!back) FAIL(back.error().sentence());
    CHECK(back.value() == p);
    // Without its picture and unknown here, it is refused by name.
    Json json = Json::parse(writePreset(p));
    json["brush"]["tip"].erase("png");
    CHECK(parsePreset(json.dump(), "craggy.json", {}).error().field == "brush.tip.picture");
    CHECK(parsePreset(json.dump(), "craggy.json", {p.settings.tip.picture}));
    json["brush"]["tip"]["png"] = "####";
    CHECK(parsePreset(json.dump(), "craggy.json", {}).error().field == "brush.tip.png");
    json["brush"]["radius"] = -1;
    CHECK(parsePreset(json.dump(), "craggy.json", {p.settings.tip.picture}).error().field == "brush.radius");
}

TEST_CASE("stroke files that are wrong are refused by field") {
    const Level level = hillyLevel(65, 65, 1, 3);
    const auto refusal = [&](const std::string& strokes) {
        const auto r = parseStrokes("{\"format\":\"jamhill-strokes\",\"version\":1,\"strokes\":[" + strokes + "]}",
                                    "s.json", level);
        return r ? std::string("accepted") : r.error().field;
    };
    const std::string good = R"("tool":"raise","radius":5,"strength":1,"points":[[0,0]])";
    CHECK(refusal("{" + good + "}") == "accepted");
    CHECK(refusal(R"({"tool":"dig","radius":5,"strength":1,"points":[[0,0]]})") == "strokes[0].tool");
    CHECK(refusal(R"({"tool":"raise","radius":-5,"strength":1,"points":[[0,0]]})") == "strokes[0].radius");
    CHECK(refusal("{" + good + "}," + R"({"tool":"raise","radius":5,"strength":"much","points":[]})") ==
          "strokes[1].strength");
    CHECK(refusal(R"({"tool":"raise","radius":5,"strength":1,"points":[]})") == "strokes[0].points");
    CHECK(refusal(R"({"tool":"raise","radius":5,"strength":1,"points":[[0,0],[1]]})") == "strokes[0].points[1]");
    CHECK(refusal(R"({"tool":"raise","radius":5,"strength":1,"points":[[0,1e99]]})") == "strokes[0].points[0].z");
    CHECK(refusal(R"({"tool":"paint","radius":5,"strength":1,"layer":"none","points":[[0,0]]})") == "strokes[0].layer");
    CHECK_FALSE(parseStrokes("[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[", "s.json", level));
    CHECK_FALSE(parseStrokes(std::string(100000, '['), "s.json", level));
    CHECK_FALSE(parseStrokes("", "s.json", level));
}

TEST_CASE("hand over writes weights that sum to 255 and a manifest that names them") {
    const Folder folder;
    const Level level = hillyLevel(70, 50, 6, 6);
    const Result<std::vector<std::string>> files = handOver(level, folder.path / "out", {});
    REQUIRE(files);
    CHECK(files.value().size() == 1 + 2 + 6 + 6 + 1);
    for (const std::string& f : files.value()) CHECK(fs::exists(folder.path / "out" / f));
    const Pixels a = decodePng(bytesOf(folder.path / "out" / "weights-1.png"), "a", 100).take();
    const Pixels b = decodePng(bytesOf(folder.path / "out" / "weights-2.png"), "b", 100).take();
    for (int y = 0; y < 50; ++y)
        for (int x = 0; x < 70; ++x) {
            int sum = 0;
            for (int c = 0; c < 4; ++c) sum += a.at(x, y, c) + b.at(x, y, c);
            REQUIRE(sum == 255);
            REQUIRE(a.at(x, y, 2) == weightsAt(level, x, y)[2]);
        }
    const Bytes manifest = bytesOf(folder.path / "out" / "manifest.json");
    CHECK(std::string(manifest.begin(), manifest.end()).find("weight-03-layer-2.png") != std::string::npos);
}

TEST_CASE("an interlaced PNG reads row by row like any other") {
    // 5 x 3, grey: 50 x + 7 y, in the seven passes of Adam7.
    const Bytes png = {137, 80,  78, 71,  13,  10,  26,  10,  0,   0,   0,   13,  73,  72,  68,  82, 0,   0,
                       0,   5,   0,  0,   0,   3,   8,   0,   0,   0,   1,   9,   90,  170, 178, 0,  0,   0,
                       30,  73,  68, 65,  84,  120, 156, 99,  96,  96,  56,  193, 144, 194, 192, 87, 116, 141,
                       193, 104, 26, 131, 195, 18,  6,   118, 203, 236, 185, 231, 1,   58,  77,  6,  70,  32,
                       94,  83,  91, 0,   0,   0,   0,   73,  69,  78,  68,  174, 66,  96,  130};
    const Pixels p = decodePng(png, "laced", 100).take();
    REQUIRE(p.width == 5);
    REQUIRE(p.height == 3);
    for (int y = 0; y < 3; ++y)
        for (int x = 0; x < 5; ++x) CHECK(p.at(x, y) == 50 * x + 7 * y);
    int rows = 0;
    const auto row = [&](int, const uint16_t*) { ++rows; };
    CHECK(readPngRows(
              png, "laced", 100,
              [](const PngShape&) {
                  return Error{"", "shape", "no", "no"};
              },
              row)
              .error()
              .field == "shape");
    CHECK(rows == 0);
}

TEST_CASE("a hand over that meets trouble half way leaves nothing behind") {
    const Folder folder;
    const Level level = hillyLevel(300, 200, 6, 6);
    std::atomic<bool> cancel{false};
    Context context;
    context.cancel = &cancel;
    for (const double when : {0.1, 0.31, 0.5}) {
        cancel = false;
        context.progress = [&](double share) { cancel = cancel || share >= when; };
        const auto stopped = handOver(level, folder.path / "out", {}, context);
        REQUIRE_FALSE(stopped);
        CHECK(wasCancelled(stopped.error()));
        CHECK(fs::is_empty(folder.path / "out"));
    }
    // Its folder goes away under its hands.
    cancel = false;
    context.progress = [&](double share) {
        if (share > 0.4) fs::remove_all(folder.path / "out");
    };
    const auto lost = handOver(level, folder.path / "out", {}, context);
    REQUIRE_FALSE(lost);
    CHECK(lost.error().problem == "it does not exist, or its folder is gone");
}

TEST_CASE("whatever is chosen to hand over comes back as the level has it", "[property]") {
    const Folder folder;
    const Level level = lopsidedLevel();
    Raster<float> ground(level.columns, level.rows);
    readGround(level, level.bounds(), ground.view());
    Random random(23);
    for (int round = 0; round < 14; ++round) {
        const auto chance = [&] { return wholeBetween(random, 0, 1) == 1; };
        HandoverWish wish;
        for (const Writer* w : writers()) {
            wish.set(w->name, chance());
            for (const WriterOption& o : w->options)
                wish.set(o.name,
                         o.words.empty() ? chance() : wholeBetween(random, 0, static_cast<int>(o.words.size()) - 1));
        }
        if (!wish.is("heightmap") && !wish.is("weights")) wish.set("pictures", 1);
        const fs::path out = folder.path / std::to_string(round);
        const Result<std::vector<std::string>> files = handOver(level, out, wish);
        REQUIRE(files);
        const Bytes text = bytesOf(out / "manifest.json");
        const Json manifest = Json::parse(text.begin(), text.end());
        std::vector<std::string> names = files.value();
        // Every file is there, and named to whoever reads the manifest.
        for (const std::string& f : files.value()) {
            INFO(f);
            CHECK(fs::exists(out / f));
            CHECK((f == "manifest.json" || manifest.dump().find(f) != std::string::npos));
        }
        CHECK(manifest.contains("water") == wish.is("water"));
        CHECK(manifest.contains("ground") == wish.is("ground-mask"));
        std::vector<std::string> named = filesNamed(manifest);
        named.push_back("manifest.json");
        for (auto* list : {&named, &names}) {
            std::sort(list->begin(), list->end());
            list->erase(std::unique(list->begin(), list->end()), list->end());
        }
        CHECK(named == names);
        CHECK(manifest.contains("heightmap") == wish.is("heightmap"));
        if (wish.is("heightmap")) {
            const float black = manifest["heightmap"]["black"], white = manifest["heightmap"]["white"];
            const HeightField field = readHeightField(out / "heightmap.png").take();
            REQUIRE(field.width() == level.columns);
            REQUIRE(field.depth() == level.rows);
            float worst = 0;
            for (int z = 0; z < level.rows; ++z)
                for (int x = 0; x < level.columns; ++x) {
                    const float back = black + (white - black) * field.values.at(x, z) / 65535;
                    worst = std::max(worst, std::abs(back - ground.at(x, z)));
                }
            CHECK(worst <= 0.51f * (white - black) / 65535);
        }
        if (!wish.is("weights") || !wish.is("single-weights")) continue;
        const int full = wish.of("weight-bits") == 0 ? 255 : 65535;
        std::vector<Pixels> planes;
        for (const std::string& f : files.value())
            if (f.starts_with("weight-")) planes.push_back(decodePng(bytesOf(out / f), f, 1000).take());
        REQUIRE(planes.size() == level.layers.size());
        bool whole = true, same = true;
        for (int z = 0; z < level.coverRows(); z += 3)
            for (int x = 0; x < level.coverColumns(); x += 2) {
                const auto weights = weightsAt(level, x, z);
                int sum = 0;
                for (size_t k = 0; k < planes.size(); ++k) {
                    const int w = planes[k].at(x, z, 0);
                    sum += w;
                    same &= std::abs(w * 255.0 / full - weights[k]) <= (full == 255 ? 0 : 1);
                }
                whole &= sum == full;
            }
        CHECK(whole);
        CHECK(same);
    }
}

TEST_CASE("hand over in trouble leaves nothing behind") {
    const Folder folder;
    const Level level = hillyLevel(30, 30, 6);
    put(folder.path / "file", {1});
    CHECK_FALSE(handOver(level, folder.path / "file" / "out", {}));
    std::atomic<bool> stop{true};
    Context context;
    context.cancel = &stop;
    fs::create_directory(folder.path / "out");
    CHECK_FALSE(handOver(level, folder.path / "out", {}, context));
    CHECK(fs::is_empty(folder.path / "out"));
    HandoverWish nothing;
    for (const Writer* w : writers()) nothing.set(w->name, 0);
    CHECK(handOver(level, folder.path / "out", nothing).error().problem == "nothing is chosen to hand over");
}

TEST_CASE("another hand over takes the place of the one before, all of it or nothing") {
    const Folder folder;
    const fs::path out = folder.path / "out";
    const Level first = hillyLevel(60, 40, 6, 6);
    REQUIRE(handOver(first, out, {}));
    put(out / "mine.txt", {1});  // somebody's own
    const auto all = [&] {
        std::map<std::string, Bytes> files;
        for (const auto& f : fs::recursive_directory_iterator(out))
            if (f.is_regular_file()) files[fs::relative(f.path(), out).string()] = bytesOf(f.path());
        return files;
    };
    const auto before = all();
    // Where a file of the next one goes, somebody put a folder.
    Level next = hillyLevel(60, 40, 9, 2);
    next.layers[1].name = "Marsh";
    fs::create_directories(out / "weight-02-marsh.png" / "in the way");
    put(out / "weight-02-marsh.png" / "in the way" / "a.txt", {2});
    CHECK_FALSE(handOver(next, out, {}));
    CHECK(fs::exists(out / "weight-02-marsh.png" / "in the way" / "a.txt"));
    fs::remove_all(out / "weight-02-marsh.png");
    CHECK(all() == before);
    // Nothing of ours is left of the first.
    const Result<std::vector<std::string>> again = handOver(next, out, {});
    REQUIRE(again);
    const auto after = all();
    CHECK(after.size() == again.value().size() + 1);
    CHECK(after.count("mine.txt") == 1);
    CHECK(after.count("weight-06-layer-5.png") == 0);
    CHECK_FALSE(fs::exists(out / "layers" / "06-layer-5"));
    // What is not chosen this time goes too.
    HandoverWish heights;
    heights.set("weights", 0).set("pictures", 0);
    REQUIRE(handOver(next, out, heights));
    CHECK(all().size() == 3);
    CHECK_FALSE(fs::exists(out / "layers"));
    // A manifest that names what is not in the folder takes nothing away elsewhere.
    put(folder.path / "outside.png", {3});
    const std::string text = R"({"format":"jamhill-handover","heightmap":{"file":"../outside.png"}})";
    put(out / "manifest.json", Bytes(text.begin(), text.end()));
    REQUIRE(handOver(next, out, heights));
    CHECK(fs::exists(folder.path / "outside.png"));
}

TEST_CASE("heights go out as a text and come back to the bit, without a value where there is no ground") {
    const Folder folder;
    Level level = hillyLevel(70, 41, 6, 2);
    level.originX = -310.5, level.originZ = 77;
    level.lowest = -300, level.highest = 1200;
    for (int c = 0; c < 70; ++c) level.strata[0].heights.set(c, 3, 1e-5f * static_cast<float>(c) - 70);
    HandoverWish wish;
    for (const Writer* w : writers()) wish.set(w->name, std::string(w->name) == "ascii-grid");
    REQUIRE(handOver(level, folder.path / "out", wish));
    const HeightField back = readHeightField(folder.path / "out" / "heights.asc").take();
    REQUIRE(back.width() == 70);
    REQUIRE(back.depth() == 41);
    Raster<float> ground(70, 41);
    readGround(level, level.bounds(), ground.view());
    bool same = true;
    for (int z = 0; z < 41; ++z)
        for (int x = 0; x < 70; ++x) same &= back.values.at(x, z) == ground.at(x, z);
    CHECK(same);
    const Bytes text = bytesOf(folder.path / "out" / "heights.asc");
    const std::string head(text.begin(), text.begin() + 120);
    CHECK(head.find("xllcenter -310.5\n") != std::string::npos);
    CHECK(head.find("yllcenter -117\n") != std::string::npos);  // its south edge, counted northwards
    for (int z = 10; z < 20; ++z)
        for (int x = 30; x < 50; ++x) level.opening.set(x, z, 255);
    REQUIRE(handOver(level, folder.path / "out", wish));
    const Bytes holed = bytesOf(folder.path / "out" / "heights.asc");
    CHECK(std::string(holed.begin(), holed.end()).find(" -99999 -99999 ") != std::string::npos);
    const HeightField filled = readHeightField(folder.path / "out" / "heights.asc").take();
    CHECK(filled.values.at(40, 15) > -300);  // as the reader fills it from around
    CHECK(filled.values.at(5, 30) == ground.at(5, 30));
}

TEST_CASE("a hand over whose files cannot be exchanged leaves the earlier set whole") {
    const Folder folder;
    const fs::path out = folder.path / "out";
    const Level first = hillyLevel(60, 40, 6, 3), next = hillyLevel(60, 40, 9, 3);
    REQUIRE(handOver(first, out, {}));
    std::map<std::string, Bytes> before;
    for (const auto& f : fs::recursive_directory_iterator(out))
        if (f.is_regular_file()) before[fs::relative(f.path(), out).string()] = bytesOf(f.path());
    // One of the new files goes away before it is exchanged.
    Json manifest = manifestOf(next);
    {
        HandoverFiles files(out, manifest);
        for (const char* name : {"heightmap.png", "weights-1.png", "manifest.json"})
            REQUIRE(files.begin(name).value()->write({1, 2, 3}));
        AtomicFile& lost = *files.begin("weight-01-layer-0.png").value();
        REQUIRE(lost.write({4}));
        REQUIRE(files.begin("new.png").value()->write({5}));
        // Its goal cannot be put aside, for what it would be called lies there and is a folder.
        fs::create_directories(out / "weight-01-layer-0.png.before" / "full");
        CHECK_FALSE(files.exchange({"weights-1.png"}));
    }
    fs::remove_all(out / "weight-01-layer-0.png.before");
    for (const auto& [name, bytes] : before) {
        INFO(name);
        REQUIRE(fs::exists(out / name));
        CHECK(bytesOf(out / name) == bytes);
    }
    size_t count = 0;
    for (const auto& f : fs::recursive_directory_iterator(out)) count += f.is_regular_file();
    CHECK(count == before.size());
}

TEST_CASE("a layer from one picture gets its other maps derived") {
    Layer layer = plainLayer("x", 255, 0, 0);
    const Material m = makeMaterial(layer, 16).take();
    CHECK(m.colourHeight[0] == 255);
    CHECK(m.colourHeight[1] == 0);
    CHECK(m.reliefRough[0] == 128);
    CHECK(m.meanColour[0] == Approx(1));
    layer.colour = std::make_shared<PictureFile>(PictureFile{"broken.png", {1, 2, 3}});
    CHECK(makeMaterial(layer, 16).error().sentence().find("broken.png") != std::string::npos);
}

TEST_CASE("a full disk while saving leaves the old file and says so") {
    const Folder folder;
    const fs::path path = folder.path / "a.jamhill";
    const Level old = hillyLevel(65, 65, 1), next = hillyLevel(300, 300, 2, 5);
    REQUIRE(saveLevel(old, path));
    // In a child that may write only few bytes to any file, as a full disk would allow.
    const pid_t child = ::fork();
    if (child == 0) {
        const rlimit small{20000, 20000};
        ::setrlimit(RLIMIT_FSIZE, &small);
        ::signal(SIGXFSZ, SIG_IGN);
        const Status s = saveLevel(next, path);
        const Result<std::vector<std::string>> h = handOver(next, folder.path / "out", {});
        ::_exit(!s && !h && s.error().sentence().size() > 20 ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    CHECK(WEXITSTATUS(status) == 0);
    CHECK(loadLevel(path).value() == old);
    CHECK(fs::is_empty(folder.path / "out"));
    CHECK(folder.files() == 2);
}
