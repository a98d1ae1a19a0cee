// Shapes that are taken in from files: what is read is what was written, whatever is wrong is said, nothing breaks.
#include <catch2/catch.hpp>

#include <cmath>
#include <fstream>

#include "dress/kinds.h"
#include "dress/shipped_kinds.h"
#include "files/disk.h"
#include "files/glb.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/shape_file.h"
#include "folder.h"
#include "grow/recipe.h"
#include "handover/handover.h"
#include "levels.h"
#include "walk/solids.h"

using namespace jam;
using namespace jam::test;

namespace {

void write(const std::filesystem::path& path, const std::string& text) {
    std::ofstream(path, std::ios::binary) << text;
}
void write(const std::filesystem::path& path, const Bytes& bytes) { put(path, bytes); }

// A tall wedge, wider to the east than to the west: no side is like another.
const char* const kWedge =
    "mtllib wedge.mtl\nv 0 0 0\nv 2 0 0\nv 2 0 1\nv 0 0 1\nv 0 5 0\n"
    "vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl painted\nf 1/1 2/2 3/3 4/4\nusemtl plain\nf 1 5 2\nf 2 5 3\nf 3 5 4\nf 4 5 "
    "1\n";
const char* const kMaterials = "newmtl painted\nmap_Kd board.png\nnewmtl plain\nKd 0.5 0.25 0\n";

// Four colours, the upper left one red.
ShapePicture board() {
    ShapePicture p{2, 2, {255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 200, 200, 0, 255}};
    return p;
}
Bytes boardPng() {
    const ShapePicture p = board();
    return encodePng({2, 2, 4, 8, {p.rgba.begin(), p.rgba.end()}});
}

// A square with a picture and one without, as our own file.
Bytes paintedGlb() {
    Mesh m;
    for (const float y : {0.f, 1.f})
        for (const auto& [x, u, v] : {std::array{0.f, 0.f, 1.f}, {1.f, 1.f, 1.f}, {1.f, 1.f, 0.f}, {0.f, 0.f, 0.f}}) {
            m.vertices.push_back({{x, y, v}, {0, 1, 0}, {120, 90, 60}, 255});
            m.painted.push_back({u, v, y > 0 ? 0 : -1});
        }
    for (const uint32_t base : {0u, 4u})
        for (const uint32_t c : {0u, 1u, 2u, 0u, 2u, 3u}) m.corners.push_back(base + c);
    return encodeGlb({{"both", &m}}, {board()});
}

void checkWhole(const Mesh& m, size_t pictures) {
    REQUIRE(m.corners.size() % 3 == 0);
    for (const uint32_t c : m.corners) REQUIRE(c < m.vertices.size());
    if (!m.painted.empty()) REQUIRE(m.painted.size() == m.vertices.size());
    for (const InPicture& in : m.painted) REQUIRE(in.picture < static_cast<int>(pictures));
    for (const MeshVertex& v : m.vertices)
        for (size_t i = 0; i < 3; ++i) {
            REQUIRE(std::isfinite(v.at[i]));
            REQUIRE(std::isfinite(v.normal[i]));
        }
}

}  // namespace

TEST_CASE("what grows here and is handed over as GLB is taken in again as it was") {
    const Folder folder;
    for (const Kind& k : shippedKinds()) {
        const Mesh& near = meshesOf(k)->variants[0][0];
        write(folder.path / "one.glb", encodeGlb({{k.name, &near}}));
        const Result<ReadShape> read = readShape((folder.path / "one.glb").string());
        REQUIRE(read);
        CAPTURE(k.name);
        CHECK(read.value().mesh.triangles() == near.triangles());
        CHECK(read.value().pictures.empty());
        const auto taken = takeIn(read.value(), {});
        REQUIRE(taken);
        const KindMeshes& m = *taken.value()->meshes;
        REQUIRE(m.variants.size() == 1);
        float low = 1e9f, high = -1e9f;
        for (const uint32_t c : near.corners)
            low = std::min(low, near.vertices[c].at[1]), high = std::max(high, near.vertices[c].at[1]);
        CHECK(m.height == Approx(high - low).margin(1e-4));
        CHECK(m.below == 0);
        // From some way off fewer, and not nothing.
        CHECK(m.variants[0][1].triangles() <= m.variants[0][0].triangles());
        CHECK(m.variants[0][2].triangles() <= m.variants[0][1].triangles());
        CHECK(m.variants[0][2].triangles() > 0);
        if (near.triangles() > 400) CHECK(m.variants[0][2].triangles() < near.triangles() / 8);
        for (const Mesh& d : m.variants[0]) checkWhole(d, 0);
        // What is kept is read again to the bit.
        const auto again = decodeShape(taken.value()->glb, taken.value()->from, "level.jamhill: shapes/1.glb");
        REQUIRE(again);
        CHECK(again.value()->meshes->variants == m.variants);
    }
}

TEST_CASE("an OBJ comes with its materials and its picture, in the right place, upright and as large as wished") {
    const Folder folder;
    write(folder.path / "wedge.obj", kWedge);
    write(folder.path / "wedge.mtl", kMaterials);
    write(folder.path / "board.png", boardPng());
    const Result<ReadShape> read = readShape((folder.path / "wedge.obj").string());
    REQUIRE(read);
    CHECK(read.value().from == "wedge.obj");
    CHECK(read.value().mesh.triangles() == 6);
    REQUIRE(read.value().pictures.size() == 1);
    CHECK(read.value().pictures[0] == board());
    CHECK(read.value().high == std::array<float, 3>{2, 5, 1});
    const auto taken = takeIn(read.value(), {.scale = 0.5});
    REQUIRE(taken);
    const Mesh& m = taken.value()->meshes->variants[0][0];
    checkWhole(m, 1);
    CHECK(taken.value()->meshes->pictures[0] == board());
    CHECK(m.height() == Approx(2.5));
    int tops = 0, brown = 0;
    for (size_t i = 0; i < m.vertices.size(); ++i) {
        const MeshVertex& v = m.vertices[i];
        CHECK(std::abs(v.at[0]) == Approx(0.5));
        CHECK(std::abs(v.at[2]) == Approx(0.25));
        if (v.at[1] > 2) {
            ++tops;
            CHECK(v.at[0] < 0);  // the tip is over the western, northern corner
            CHECK(v.at[2] < 0);
        }
        if (m.painted[i].picture == 0) {
            // The picture's lower left corner lies at the first vertex.
            const bool west = v.at[0] < 0, north = v.at[2] < 0;
            CHECK(m.painted[i].u == (west ? 0 : 1));
            CHECK(m.painted[i].v == (north ? 1 : 0));
        } else {
            ++brown;
            CHECK(v.colour == std::array<uint8_t, 3>{188, 137, 0});  // sRGB of 0.5, 0.25, 0
        }
    }
    CHECK(tops > 0);
    CHECK(brown > 0);
    // Its third axis up: what led south leads up, and its second axis leads north.
    const auto lain = takeIn(read.value(), {.scale = 2, .zUp = true});
    REQUIRE(lain);
    const Mesh& l = lain.value()->meshes->variants[0][0];
    CHECK(l.height() == Approx(2));
    float north = 0;
    for (const MeshVertex& v : l.vertices) north = std::min(north, v.at[2]);
    CHECK(north == Approx(-5));
    // A quarter clockwise: what led east leads south.
    const auto turned = takeIn(read.value(), {.turn = 90});
    REQUIRE(turned);
    float south = 0, east = 0;
    for (const MeshVertex& v : turned.value()->meshes->variants[0][0].vertices) {
        south = std::max(south, v.at[2]), east = std::max(east, v.at[0]);
        if (v.at[1] > 2) {
            CHECK(v.at[2] < 0);
            CHECK(v.at[0] > 0);
        }
    }
    CHECK(south == Approx(1));
    CHECK(east == Approx(0.5));
}

TEST_CASE("pictures come along inside of a GLB, and a level that has such a kind is saved and opened alike") {
    const Folder folder;
    write(folder.path / "both.glb", paintedGlb());
    const Result<ReadShape> read = readShape((folder.path / "both.glb").string());
    REQUIRE(read);
    REQUIRE(read.value().pictures.size() == 1);
    CHECK(read.value().pictures[0] == board());
    const auto shape = takeIn(read.value(), {.scale = 3});
    REQUIRE(shape);
    Level level = flatLevel(40, 30, 2);
    Kind kind;
    kind.name = "Board";
    kind.taken.shape = shape.value();
    kind.blocks = Blocks::hull;
    kind.blockHeight = 3;
    const uint32_t id = addKind(level, kind).value();
    Single s;
    s.kind = id;
    REQUIRE(putSingle(level, s));
    REQUIRE(saveLevel(level, folder.path / "board.jamhill"));
    const Result<Level> opened = loadLevel(folder.path / "board.jamhill");
    REQUIRE(opened);
    const Kind& back = *opened.value().kind(id);
    CHECK(back.taken == level.kind(id)->taken);
    CHECK(back == *level.kind(id));
    CHECK(back.taken.shape->meshes->pictures == shape.value()->meshes->pictures);
    CHECK(back.taken.shape->meshes->variants == shape.value()->meshes->variants);
    // It blocks by its own outline: three metres a side.
    Solids solids(opened.value());
    int count = 0;
    solids.each([&](const Solid& one) {
        ++count;
        CHECK(one.away(1.4, 1.4).metres < 0);
        CHECK(one.away(1.6, 0).metres == Approx(0.1));
    });
    CHECK(count == 1);
    // Another shape is another kind of level.
    Level other = level;
    other.kind(id)->taken = {};
    CHECK_FALSE(*other.kind(id) == *level.kind(id));
}

TEST_CASE("what is wrong with a shape is said, with the file's name and what to do") {
    const Folder folder;
    const auto wrong = [&](const std::string& name, const std::string& text) {
        write(folder.path / name, text);
        const Result<ReadShape> read = readShape((folder.path / name).string());
        REQUIRE_FALSE(read);
        CAPTURE(read.error().sentence());
        CHECK(read.error().sentence().find(name) != std::string::npos);
        CHECK_FALSE(read.error().remedy.empty());
        return read.error().sentence();
    };
    CHECK(wrong("a.txt", "v 0 0 0").find("use .glb, .gltf or .obj") != std::string::npos);
    wrong("b.glb", "");
    wrong("c.glb", "glTF and no more");
    wrong("d.gltf", "{\"asset\": {\"version\": \"2.0\"}");
    CHECK(wrong("e.gltf", "{\"asset\": {\"version\": \"2.0\"}, \"scenes\": [{\"nodes\": []}]}")
              .find("not one triangle") != std::string::npos);
    CHECK(wrong("f.obj", "v 0 0 0\nv 1 0 0\n").find("not one triangle") != std::string::npos);
    CHECK(wrong("g.obj", std::string("v 0 0 0\0\n", 10)).find("no OBJ") != std::string::npos);
    write(folder.path / "h.mtl", "newmtl m\nmap_Kd ../../../../etc/hostname\n");
    CHECK(wrong("h.obj", "mtllib h.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl m\nf 1/1 2/1 3/1\n")
              .find("does not lie in its folder") != std::string::npos);
    write(folder.path / "i.mtl", "newmtl m\nmap_Kd missing.png\n");
    CHECK(wrong("i.obj", "mtllib i.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl m\nf 1/1 2/1 3/1\n")
              .find("not there") != std::string::npos);
    // Nodes that hold each other.
    const std::string loop =
        "{\"asset\": {\"version\": \"2.0\"}, \"scene\": 0, \"scenes\": [{\"nodes\": [0]}], "
        "\"nodes\": [{\"children\": [1]}, {\"children\": [0]}]}";
    CHECK(wrong("j.gltf", loop).find("without end") != std::string::npos);
    // No file at all, and a size that nothing has.
    CHECK_FALSE(readShape((folder.path / "none.glb").string()));
    write(folder.path / "both.glb", paintedGlb());
    const Result<ReadShape> read = readShape((folder.path / "both.glb").string());
    REQUIRE(read);
    CHECK_FALSE(takeIn(read.value(), {.scale = 500}));
    CHECK_FALSE(takeIn(read.value(), {.scale = 2e4}));
    CHECK_FALSE(takeIn(read.value(), {.scale = 0.0001}));
}

TEST_CASE("shapes with bytes turned, cut and doubled are refused or read whole", "[property]") {
    const Folder folder;
    write(folder.path / "wedge.mtl", kMaterials);
    write(folder.path / "board.png", boardPng());
    const Bytes glb = paintedGlb();
    const std::string obj = kWedge;
    // The JSON of our own file, with its buffer beside it.
    const auto le = [&](size_t at) {
        return static_cast<size_t>(glb[at]) | static_cast<size_t>(glb[at + 1]) << 8 |
               static_cast<size_t>(glb[at + 2]) << 16;
    };
    const size_t text = le(12);
    std::string json(glb.begin() + 20, glb.begin() + 20 + static_cast<ptrdiff_t>(text));
    json.insert(json.find("\"byteLength\"", json.find("\"buffers\"")), "\"uri\": \"both.bin\", ");
    write(folder.path / "both.bin", Bytes(glb.begin() + 28 + static_cast<ptrdiff_t>(text), glb.end()));
    write(folder.path / "whole.gltf", json);
    REQUIRE(readShape((folder.path / "whole.gltf").string()));
    Random random(8);
    int read = 0, refused = 0;
    for (int k = 0; k < 900; ++k) {
        const int which = k % 3;
        Bytes bytes = which == 0 ? glb : which == 1 ? Bytes(json.begin(), json.end()) : Bytes(obj.begin(), obj.end());
        bytes = mutated(std::move(bytes), random);
        const std::string name = which == 0 ? "m.glb" : which == 1 ? "m.gltf" : "m.obj";
        write(folder.path / name, bytes);
        const Result<ReadShape> shape = readShape((folder.path / name).string());
        CAPTURE(k);
        if (!shape) {
            ++refused;
            REQUIRE_FALSE(shape.error().problem.empty());
            continue;
        }
        ++read;
        checkWhole(shape.value().mesh, shape.value().pictures.size());
        if (const auto taken = takeIn(shape.value(), {}))
            for (const Mesh& d : taken.value()->meshes->variants[0])
                checkWhole(d, taken.value()->meshes->pictures.size());
    }
    CHECK(read > 50);
    CHECK(refused > 200);
}

TEST_CASE(
    "what was taken in with a picture is handed over whole, and every planting of it names the one mesh there is") {
    const Folder folder;
    write(folder.path / "both.glb", paintedGlb());
    Level level = flatLevel(70, 50, 2);
    Kind kind;
    kind.name = "Board";
    kind.taken.shape = takeIn(readShape((folder.path / "both.glb").string()).value(), {}).value();
    const uint32_t id = addKind(level, kind).value();
    for (int z = 0; z < level.coverRows(); ++z)
        for (int x = 0; x < level.coverColumns(); ++x) level.kind(id)->coverage.set(x, z, 640);
    Plantings all(level);
    int count = 0;
    for (int tz = 0; tz < all.tilesDown(); ++tz)
        for (int tx = 0; tx < all.tilesAcross(); ++tx)
            for (const Planting& p : all.tile(0, tx, tz)) {
                ++count;
                CHECK(p.variant == 0);
            }
    CHECK(count > 50);
    const auto done = handOver(level, folder.path, HandoverWish{});
    REQUIRE(done);
    const Result<ReadShape> back = readShape((folder.path / "kinds/01-board.glb").string());
    REQUIRE(back);
    CHECK(back.value().mesh.triangles() == 4);
    REQUIRE(back.value().pictures.size() == 1);
    CHECK(back.value().pictures[0] == board());
}
