// Layers and weights in files: names of maps, seams, weights in and out, looks and rules in level files.
#include <catch2/catch.hpp>

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <cmath>

#include "base/noise.h"
#include "cover/mix.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "files/exr.h"
#include "files/layer_json.h"
#include "files/level_file.h"
#include "files/resized.h"
#include "files/weights_file.h"
#include "folder.h"
#include "handover/handover.h"
#include "levels.h"
#include "pictures/map_names.h"
#include "pictures/material.h"
#include "pictures/seam.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

namespace {

bool sameWeights(const Level& a, const Level& b) {
    const auto p = weightsOf(a), q = weightsOf(b);
    for (size_t i = 0; i < p.size(); ++i)
        for (int z = 0; z < p[i].depth(); ++z)
            for (int x = 0; x < p[i].width(); ++x)
                if (p[i].at(x, z) != q[i].at(x, z)) return false;
    return true;
}

// Like a photograph of gravel with light from one side: detail everywhere, one edge darker than the other.
Pixels photo(int side, double slope) {
    Pixels p{side, side, 3, 8, {}};
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double grain = 0.5 +
                                 0.35 * fractalNoise(static_cast<float>(x) / 5, static_cast<float>(y) / 5, 5, 3, 0.6f);
            const double light = 1 + slope * (static_cast<double>(x) / side - 0.5);
            for (int c = 0; c < 3; ++c)
                p.samples.push_back(static_cast<uint16_t>(std::clamp(grain * light * (150 + 20 * c), 0.0, 255.0)));
        }
    return p;
}

const char* slotOf(const std::string& file) {
    const MapName m = mapNameOf(file);
    return m.slot < 0 ? "?" : kLayerSlots[m.slot].name;
}

}  // namespace

TEST_CASE("maps are told by the endings of their names") {
    const std::pair<const char*, const char*> names[] = {{"gravel_02_diff_2k.png", "colour"},
                                                         {"Gravel-BaseColor.jpg", "colour"},
                                                         {"gravel base color.tga", "colour"},
                                                         {"moss_albedo.png", "colour"},
                                                         {"moss_col.png", "colour"},
                                                         {"moss_nor_gl_4k.exr", "normal"},
                                                         {"Moss Normal-DX.png", "normal"},
                                                         {"mossNormal.png", "normal"},
                                                         {"rock_nrm.tif", "normal"},
                                                         {"rock_n.png", "normal"},
                                                         {"rock_rough.png", "roughness"},
                                                         {"rock_gloss.png", "roughness"},
                                                         {"rock_Roughness_1024.png", "roughness"},
                                                         {"rock_disp.png", "height"},
                                                         {"rock.height.png", "height"},
                                                         {"rock_AO.png", "occlusion"},
                                                         {"rock_ambient_occlusion.png", "occlusion"},
                                                         {"rock_spec.png", "specular"},
                                                         {"rock_metallic.png", "metalness"},
                                                         {"holiday.jpg", "?"},
                                                         {"n.png", "?"},
                                                         {".png", "?"},
                                                         {"", "?"}};
    for (const auto& [file, slot] : names) {
        INFO(file);
        CHECK(std::string(slotOf(file)) == slot);
    }
    CHECK(mapNameOf("Moss Normal-DX.png").flipGreen);
    CHECK(mapNameOf("moss_normaldx.png").flipGreen);
    CHECK_FALSE(mapNameOf("moss_nor_gl_4k.exr").flipGreen);
    CHECK(mapNameOf("rock_gloss.png").gloss);
    CHECK(mapNameOf("gravel_02_diff_2k.png").base == "gravel_02");
    const std::vector<MapSet> sets =
        mapSetsOf({"b_rough.png", "a_diff.png", "b.png", "a_normal_dx.png", "b_nor.png", "lonely.jpg"});
    REQUIRE(sets.size() == 3);
    CHECK(sets[0].files[0] == "a_diff.png");
    CHECK(sets[0].flipGreen);
    CHECK(sets[1].name == "b");
    CHECK(sets[1].files[0] == "b.png");
    CHECK(sets[1].files[2] == "b_rough.png");
    CHECK(sets[2].files[0] == "lonely.jpg");
}

TEST_CASE("seams are found where they are, and closed") {
    // Two edges that do not meet, worst at two thirds of the height.
    Pixels p = photo(128, 0);
    for (int y = 80; y < 90; ++y)
        for (int x = 96; x < 128; ++x)
            for (int c = 0; c < 3; ++c) p.samples[static_cast<size_t>((y * 128 + x) * 3 + c)] = 250;
    const SeamReport faulty = checkSeams(p);
    CHECK_FALSE(faulty.edgesMatch());
    CHECK(faulty.worstRow == Approx(85.0 / 128).margin(0.05));
    CHECK_FALSE(faulty.even());
    CHECK(faulty.spotX == Approx(112.0 / 128).margin(0.1));
    CHECK(faulty.spotY == Approx(85.0 / 128).margin(0.1));
    // Tileable noise is seamless as it is.
    Pixels tileable{128, 128, 1, 8, {}};
    for (int y = 0; y < 128; ++y)
        for (int x = 0; x < 128; ++x)
            tileable.samples.push_back(static_cast<uint16_t>(
                128 + 60 * fractalNoise(static_cast<float>(x) / 8, static_cast<float>(y) / 8, 3, 3, 0.5f, 16)));
    CHECK(checkSeams(tileable).edgesMatch());

    Random random(4);
    for (const double light : {0.0, 0.5}) {
        Pixels colour = photo(160, light + 0.3), height{80, 80, 1, 16, {}};
        for (int i = 0; i < 80 * 80; ++i)
            height.samples.push_back(static_cast<uint16_t>(wholeBetween(random, 0, 65535)));
        const SeamReport before = checkSeams(colour);
        CHECK_FALSE(before.edgesMatch());
        const std::vector<Pixels> closed = makeSeamless({colour, height}).take();
        REQUIRE(closed.size() == 2);
        CHECK(closed[0].width == 120);
        CHECK(closed[1].width == 120);
        CHECK(closed[1].bits == 16);
        const SeamReport after = checkSeams(closed[0]);
        CHECK(after.edgesMatch());
        CHECK(after.leftRight < before.leftRight);
        // What is neither in the overlap nor changed in light is the picture as it was.
        CHECK(std::abs(closed[0].at(100, 100, 1) - colour.at(100, 100, 1)) <= 1);
        const SeamReport lit = checkSeams(evenLight(closed[0], 1, true));
        CHECK(lit.even());
        CHECK(lit.spot <= after.spot + 1e-9);
    }
    CHECK_FALSE(makeSeamless({Pixels{20, 40, 1, 8, std::vector<uint16_t>(800)}}));
}

TEST_CASE("pictures are resized without shifting or brightening them") {
    const Pixels p = photo(96, 0.6);
    for (const int side : {24, 48, 96, 150}) {
        const Pixels q = resized(p, side, side);
        double a = 0, b = 0, left = 0;
        for (const uint16_t v : p.samples) a += v;
        for (const uint16_t v : q.samples) b += v;
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side / 2; ++x) left += q.at(x, y, 0);
        CHECK(b / static_cast<double>(q.samples.size()) ==
              Approx(a / static_cast<double>(p.samples.size())).epsilon(0.01));
        CHECK(left > 0);
    }
    CHECK(resized(p, 96, 96).samples == p.samples);
}

TEST_CASE("weights that are exported and imported come back bit for bit", "[property]") {
    const Folder folder;
    for (const int layers : {1, 4, 7, 16})
        for (const std::string order : {"RGBA", "BGRA", "ABGR"})
            for (const bool sets : {true, false}) {
                const Level level = hillyLevel(61, 47, static_cast<uint32_t>(layers), layers);
                HandoverWish wish;
                wish.set("heightmap", 0).set("pictures", 0).set("weight-sets", sets).set("single-weights", !sets);
                REQUIRE(wish.say("channels", order));
                const fs::path out = folder.path / (std::to_string(layers) + order + (sets ? "s" : "p"));
                REQUIRE(handOver(level, out, wish));
                std::vector<WeightChannel> channels;
                if (sets) {
                    for (int i = 0; i < layers; ++i)
                        channels.push_back(
                            {out / ("weights-" + std::to_string(i / 4 + 1) + ".png"),
                             static_cast<int>(std::string("RGBA").find(order[static_cast<size_t>(i % 4)])),
                             level.layers[static_cast<size_t>(i)].id});
                } else {
                    std::vector<fs::path> files;
                    for (const auto& f : fs::directory_iterator(out))
                        if (f.path().extension() == ".png") files.push_back(f.path());
                    channels = guessWeightChannels(level, files).take();
                    CHECK(channels.size() == static_cast<size_t>(layers));
                }
                // Into a level whose cover is something else altogether.
                Level other = hillyLevel(61, 47, 99, layers);
                for (int i = 0; i < layers; ++i)
                    other.layers[static_cast<size_t>(i)].id = level.layers[static_cast<size_t>(i)].id;
                const Result<Level> back = importWeights(other, channels);
                REQUIRE(back);
                CHECK(sameWeights(back.value(), level));
            }
}

TEST_CASE("weights of 16 bits sum exactly and come back within a step of 8 bits") {
    const Folder folder;
    const Level level = hillyLevel(50, 40, 8, 5);
    HandoverWish wish;
    wish.set("heightmap", 0).set("pictures", 0).set("weight-sets", 0).set("weight-bits", 1);
    REQUIRE(handOver(level, folder.path / "o", wish));
    std::vector<fs::path> files;
    std::vector<Pixels> pictures;
    for (const auto& f : fs::directory_iterator(folder.path / "o"))
        if (f.path().extension() == ".png")
            files.push_back(f.path()), pictures.push_back(decodePng(bytesOf(f.path()), "w", 100).take());
    for (int y = 0; y < 40; ++y)
        for (int x = 0; x < 50; ++x) {
            int sum = 0;
            for (const Pixels& p : pictures) sum += p.at(x, y);
            REQUIRE(sum == 65535);
        }
    const Level back =
        importWeights(flatLevel(50, 40, 5), guessWeightChannels(flatLevel(50, 40, 5), files).take()).take();
    const auto a = weightsOf(level), b = weightsOf(back);
    for (size_t i = 0; i < a.size(); ++i)
        for (int z = 0; z < 40; ++z)
            for (int x = 0; x < 50; ++x) REQUIRE(std::abs(a[i].at(x, z) - b[i].at(x, z)) <= 1);
}

TEST_CASE("weights that make no sense are refused in words, and odd sums are brought to 255") {
    const Folder folder;
    const Level level = flatLevel(8, 8, 3);
    const fs::path file = folder.path / "w.png";
    Pixels p{8, 8, 3, 8, {}};
    for (int i = 0; i < 64; ++i)
        p.samples.insert(p.samples.end(),
                         {static_cast<uint16_t>(i % 2 ? 0 : 10), static_cast<uint16_t>(i % 2 ? 0 : 20), 0});
    put(file, encodePng(p));
    const auto ids = [&](int i) { return level.layers[static_cast<size_t>(i)].id; };
    const Level in = importWeights(level, {{file, 1, ids(0)}, {file, 0, ids(2)}}).take();
    CHECK(weightsAt(in, 0, 0)[0] == 170);
    CHECK(weightsAt(in, 0, 0)[2] == 85);
    CHECK(weightsAt(in, 1, 0)[0] == 255);  // nothing said: the first that is named
    CHECK(importWeights(level, {}).error().sentence().find("channel") != std::string::npos);
    CHECK(importWeights(level, {{file, 0, ids(1)}, {file, 1, ids(1)}}).error().problem.find("two channels") !=
          std::string::npos);
    CHECK(importWeights(level, {{file, 3, ids(1)}}).error().field == "channel");
    CHECK(importWeights(level, {{file, 0, 999}}).error().field == "layer");
    CHECK(importWeights(flatLevel(9, 8, 3), {{file, 0, ids(1)}}).error().sentence().find("8 x 8") != std::string::npos);
    CHECK_FALSE(importWeights(level, {{folder.path / "none.png", 0, ids(0)}}));
    HandoverWish wish;
    CHECK(wish.say("channels", "RGGA").error().field == "channels");
    CHECK(wish.say("weight-bits", "12").error().remedy == "use 8 or 16");
    CHECK(wish.say("weights", "perhaps").error().remedy == "say yes or no");
    CHECK(wish.say("nonsense", "yes").error().field == "nonsense");
}

TEST_CASE("looks, rules, pairs, wash and what the hand holds survive saving") {
    const Folder folder;
    Level level = hillyLevel(70, 60, 5, 4);
    Layer& l = level.layers[2];
    l.look = {33, 1.5f, -2, Tiling::broken, 6, 80, 0.3f, {1, 0.5f, 0.25f}, 1.5f, 0.7f, true, 0.4f};
    l.occlusion = plainPicture(9, 9, 9);
    l.metalness = plainPicture(200, 200, 200);
    for (int kind = 0; kind < kRuleKinds; ++kind) {
        Rule r;
        r.kind = static_cast<RuleKind>(kind);
        r.way = static_cast<RuleEffect>(kind % 3);
        r.from = r.kind == RuleKind::noise ? 0.1f : 0.f;
        r.to = r.kind == RuleKind::noise || kind == 2 ? 0.6f : 30.f;
        r.fade = 0.2f;
        if (r.kind == RuleKind::layer || r.kind == RuleKind::course) r.layer = level.layers[1].id;
        if (r.kind == RuleKind::low) r.level = 3;
        l.rules.push_back(r);
    }
    wakeRules(level, l.id, true);
    setBlendBetween(level, level.layers[0].id, level.layers[3].id, 0.9f);
    level.wash.set(5, 7, {1, 2, 65535, 400});
    REQUIRE(saveLevel(level, folder.path / "a.jamhill"));
    const Result<Level> back = loadLevel(folder.path / "a.jamhill");
    REQUIRE(back);
    CHECK(back.value() == level);
    // Memory has pictures of any level once.
    const Result<Level> again = loadLevel(folder.path / "a.jamhill");
    REQUIRE(again);
    for (size_t i = 0; i < level.layers.size(); ++i) {
        CHECK(again.value().layers[i].colour == back.value().layers[i].colour);
        CHECK(back.value().layers[i].colour != level.layers[i].colour);  // that one was never read
    }
    CHECK(back.value().layers[2].occlusion != back.value().layers[2].metalness);
    // A layer's JSON alone, with things that are wrong in it.
    const auto refused = [](const char* text, const char* field) {
        std::optional<Error> error;
        const Json json = Json::parse(text);
        Fields f(json, "layer.json", error);
        Layer layer;
        readLayerFields(f, layer);
        INFO(text);
        REQUIRE(error);
        CHECK(error->sentence().find(field) != std::string::npos);
    };
    refused(R"({"name": "x", "tileSize": 0})", "tileSize");
    refused(R"({"name": "x", "tileSize": 2, "farTimes": 99})", "farTimes");
    refused(R"({"name": "x", "tileSize": 2, "tiling": "wild"})", "plain, broken");
    refused(R"({"name": "x", "tileSize": 2, "tint": [1, 2]})", "tint");
    refused(R"({"name": "x", "tileSize": 2, "rules": [{"kind": "slope", "from": -4}]})", "rules[0].from");
    refused(R"({"name": "x", "tileSize": 2, "rules": [{"kind": "moon"}]})", "slope, altitude");
}

TEST_CASE("a material carries occlusion, shine and a flipped normal map") {
    Layer layer = plainLayer("x", 128, 128, 128);
    layer.normal = plainPicture(128, 200, 255);
    layer.occlusion = plainPicture(51, 51, 51);
    CHECK(makeMaterial(layer, 8).value().reliefRough[1] == 200);
    CHECK(makeMaterial(layer, 8).value().reliefRough[3] == 51);
    CHECK(makeMaterial(layer, 8).value().shine.empty());
    layer.look.flipGreen = true;
    layer.metalness = plainPicture(255, 255, 255);
    const Material m = makeMaterial(layer, 8).take();
    CHECK(m.reliefRough[1] == 55);
    REQUIRE(m.shine.size() == 128);
    CHECK(m.shine[0] == 128);
    CHECK(m.shine[1] == 255);
    CHECK(halved(m).shine.size() == 32);
    CHECK(halved(m).colourHeight[0] == m.colourHeight[0]);
    layer.occlusion = std::make_shared<PictureFile>(PictureFile{"dark.png", {1}});
    CHECK(makeMaterial(layer, 8).error().sentence().find("dark.png") != std::string::npos);
}

TEST_CASE("colour in OpenEXR is read as light, other maps as they are") {
    const Folder folder;
    const fs::path path = folder.path / "c.exr";
    std::vector<float> planes[3];
    for (int i = 0; i < 20 * 10; ++i)
        for (int c = 0; c < 3; ++c) planes[c].push_back(c == 0 ? 0.5f : c == 1 ? 0.0f : 7.0f);
    Imf::Header header(20, 10);
    Imf::FrameBuffer frame;
    for (int c = 0; c < 3; ++c) {
        const std::string name(1, "RGB"[c]);
        header.channels().insert(name, Imf::Channel(Imf::FLOAT));
        frame.insert(
            name, Imf::Slice(Imf::FLOAT, reinterpret_cast<char*>(planes[c].data()), sizeof(float), 20 * sizeof(float)));
    }
    {
        Imf::OutputFile file(path.c_str(), header);
        file.setFrameBuffer(frame);
        file.writePixels(10);
    }
    const Pixels light = decodeExrPicture(bytesOf(path), "c.exr", 100, true).take(),
                 plain = decodeExrPicture(bytesOf(path), "c.exr", 100, false).take();
    CHECK(light.width == 20);
    CHECK(light.at(3, 3, 0) == 188);
    CHECK(plain.at(3, 3, 0) == 128);
    CHECK(plain.at(3, 3, 1) == 0);
    CHECK(plain.at(3, 3, 2) == 255);
    CHECK(decodeExrPicture(bytesOf(path), "c.exr", 15, true).error().field == "size");
    CHECK_FALSE(decodeExrPicture({1, 2, 3}, "c.exr", 100, true));
}

TEST_CASE("mutated layer pictures and texts never crash", "[fuzz]") {
    Random random(9);
    const Bytes png = encodePng(photo(40, 0.3));
    Layer layer = plainLayer("x");
    layer.rules.resize(2);
    const std::string text = layerToJson(layer).dump();
    for (int i = 0; i < 10000; ++i) {
        const Bytes m = mutated(png, random);
        if (const Result<Pixels> p = decodePng(m, "m.png", 200); p && std::min(p.value().width, p.value().height) >= 8)
            (void)checkSeams(p.value());
        const Bytes t = mutated(Bytes(text.begin(), text.end()), random);
        const Result<Json> json = parseJson(std::string(t.begin(), t.end()), "layer.json");
        if (!json) continue;
        std::optional<Error> error;
        Fields f(json.value(), "layer.json", error);
        Layer out;
        readLayerFields(f, out);
        (void)mapNameOf(std::string(t.begin(), t.end()));
    }
    SUCCEED();
}
