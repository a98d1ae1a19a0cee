// What stands on the ground as it is drawn: near, from far away, turned, taken in with pictures, and as it changes.
#include <cmath>

#include "base/maths.h"
#include "dress/kinds.h"
#include "grow/recipe.h"
#include "picture.h"
#include "render/far_pictures.h"

using namespace jam;
using namespace jam::test;

namespace {

constexpr std::array<std::array<uint8_t, 3>, 4> kSides{{{220, 40, 40}, {40, 190, 40}, {40, 60, 220}, {220, 200, 40}}};

// A tower with a colour to each side: south, west, north, east; in many triangles, however far away.
Taken tower(bool painted = false) {
    Mesh m;
    constexpr int kParts = 6;
    for (size_t side = 0; side < 4; ++side) {
        // Outwards, and to the right as seen from there.
        const double a = kTurn * static_cast<double>(side) / 4, ox = -std::sin(a), oz = std::cos(a), rx = oz, rz = -ox;
        const auto base = static_cast<uint32_t>(m.vertices.size());
        for (int k = 0; k <= kParts; ++k)
            for (int i = 0; i <= kParts; ++i) {
                const double u = 2.0 * i / kParts - 1, y = 4.0 * k / kParts;
                m.vertices.push_back(
                    {{static_cast<float>(ox + u * rx), static_cast<float>(y), static_cast<float>(oz + u * rz)},
                     {static_cast<float>(ox), 0, static_cast<float>(oz)},
                     kSides[side],
                     255});
                m.painted.push_back({(static_cast<float>(side) + 0.5f) / 4, 0.5f, painted ? 0 : -1});
            }
        for (uint32_t k = 0; k < kParts; ++k)
            for (uint32_t i = 0; i < kParts; ++i) {
                const uint32_t c = base + k * (kParts + 1) + i, up = c + kParts + 1;
                for (const uint32_t v : {c, c + 1, up + 1, c, up + 1, up}) m.corners.push_back(v);
            }
    }
    auto meshes = std::make_shared<KindMeshes>();
    if (painted) {
        ShapePicture p{4, 1, {}};
        for (const auto& c : kSides) p.rgba.insert(p.rgba.end(), {c[0], c[1], c[2], 255});
        meshes->pictures.push_back(p);
        for (MeshVertex& v : m.vertices) v.colour = {9, 9, 9};
    } else {
        m.painted.clear();
    }
    meshes->add({m, m, m});
    auto shape = std::make_shared<TakenShape>();
    shape->from = "tower";
    shape->meshes = meshes;
    return {shape};
}

Level towered(const Taken& taken, float turn, uint32_t* kind = nullptr) {
    Level l = flatLevel(260, 190, 1);
    l.originX = 400, l.originZ = -70;
    Kind k;
    k.name = "tower";
    k.taken = taken;
    k.sink = 0;
    const uint32_t id = addKind(l, k).value();
    Single s;
    s.kind = id, s.x = l.originX + 130, s.z = l.originZ + 95, s.turn = turn;
    REQUIRE(putSingle(l, s));
    if (kind) *kind = id;
    return l;
}

// From a side, clockwise from the south, so many metres away and a little above.
Camera from(const Level& l, double side, double away) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    const double a = side * kRadians;
    c.at = {l.originX + 130 - away * std::sin(a), 2 + 0.15 * away, l.originZ + 95 + away * std::cos(a)};
    c.yaw = side;
    c.pitch = -std::atan(0.15) * kDegrees;
    return c;
}

Shot draw(const Level& l, const Camera& c) {
    const HeightPyramid pyramid(l);
    PixelRenderer& r = renderer();
    r.scene().sync(l, pyramid);
    r.scene().setShade({});
    return take(r, c, Finish::full);
}

// Which of the sides a colour belongs to, by how it compares with itself; -1 for none.
int sideOf(const glm::ivec3& c) {
    const bool red = c.r > 1.35 * c.b, green = c.g > 1.35 * c.b, blue = c.b > 1.25 * c.r;
    if (blue) return 2;
    if (red && green && c.r < 1.4 * c.g) return 3;
    if (red && c.r > 1.6 * c.g) return 0;
    return green && c.g > 1.3 * c.r ? 1 : -1;
}

}  // namespace

TEST_CASE("far pictures show the side that one would see, however it is turned, from both slants") {
    const FarPictures far = farPicturesOf(tower().shape->meshes->variants[0][0], {});
    CHECK(far.middle == Approx(2));
    CHECK(far.radius == Approx(std::sqrt(6.0)).epsilon(0.001));
    for (int view = 0; view < kFarViews; ++view) {
        const auto at = [&](int x, int y) {
            return 4 * ((static_cast<size_t>(view) * kFarPixels + static_cast<size_t>(y)) * kFarPixels +
                        static_cast<size_t>(x));
        };
        const size_t middle = at(32, view < kFarSides ? 32 : 26);
        CAPTURE(view);
        const auto& side = kSides[static_cast<size_t>(view % kFarSides)];
        for (size_t i = 0; i < 3; ++i) CHECK(far.colour[middle + i] == side[i]);
        CHECK(far.colour[middle + 3] == 255);
        CHECK(far.colour[at(1, 32) + 3] == 0);
        // The normal leads out of that side: south, west, north, east.
        const double a = kTurn * (view % kFarSides) / kFarSides;
        CHECK(far.facing[middle] == Approx(127.5 - 127.5 * std::sin(a)).margin(1));
        CHECK(far.facing[middle + 2] == Approx(127.5 + 127.5 * std::cos(a)).margin(1));
        // Its foot lies below its top.
        int low = 0, high = 0;
        for (int y = 0; y < 32; ++y)
            for (int x = 0; x < kFarPixels; ++x)
                low += far.colour[at(x, y) + 3] > 0, high += far.colour[at(x, kFarPixels - 1 - y) + 3] > 0;
        CHECK(std::abs(low - high) < 300);
    }
    CHECK(farViewFrom(0, 1, 10, 0) == 0);
    CHECK(farViewFrom(-10, 1, 0, 0) == 1);
    CHECK(farViewFrom(0, 1, -10, 0) == 2);
    CHECK(farViewFrom(10, 1, 0, 0) == 3);
    CHECK(farViewFrom(0, 30, 10, 0) == kFarSides);
    CHECK(farViewFrom(0, 1, 10, 90) == 3);  // its east side has come to the south
    CHECK(farViewFrom(0, 1, 10, 359) == 0);
}

TEST_CASE("a tower is seen from the same side near and far, in about the same light, grown or with a picture") {
    for (const bool painted : {false, true})
        for (const float turn : {0.f, 90.f, 181.f})
            for (const double side : {2.0, 91.0, 178.0, 272.0}) {
                const Level l = towered(tower(painted), turn);
                const Shot near = draw(l, from(l, side, 9)), far = draw(l, from(l, side, 60));
                CAPTURE(painted, turn, side);
                const int expected = static_cast<int>(std::lround((side - static_cast<double>(turn)) / 90) + 8) % 4;
                const auto a = near.at(kWidth / 2, kHeight / 2), b = far.at(kWidth / 2, kHeight / 2);
                CAPTURE(a.r, a.g, a.b, b.r, b.g, b.b);
                CHECK(sideOf(a) == expected);
                CHECK(sideOf(b) == expected);
                for (int i = 0; i < 3; ++i) CHECK(std::abs(a[i] - b[i]) < 30);
            }
}

TEST_CASE("from far away it covers as much of the picture as its mesh would") {
    const Level l = towered(tower(), 20);
    Level bare = l;
    bare.singles.clear();
    const auto covers = [&](double away) {
        const Shot s = draw(l, from(l, 60, away)), without = draw(bare, from(l, 60, away));
        int count = 0;
        for (int y = 0; y < kHeight; ++y)
            for (int x = 0; x < kWidth; ++x) {
                const glm::ivec3 by = glm::abs(s.at(x, y) - without.at(x, y));
                count += by.x + by.y + by.z > 20;
            }
        return count * away * away;
    };
    // A mesh at 16 m, pictures at 40 and 70 m: the same share of what they fill.
    const double mesh = covers(16);
    CHECK(covers(40) == Approx(mesh).epsilon(0.25));
    CHECK(covers(70) == Approx(mesh).epsilon(0.4));
}

TEST_CASE("what is put down, moved, resized and hidden is drawn at once as a fresh renderer draws it") {
    uint32_t kind = 0;
    Level level = towered(tower(true), 0, &kind);
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    const Camera camera = from(level, 0, 30);
    const auto follows = [&](const Level& next) {
        const Change hint = changesBetween(next, level);
        r.scene().sync(next, pyramid, &hint);
        level = next;
        return take(r, camera, Finish::full);
    };
    r.scene().sync(level, pyramid);
    r.scene().setShade({});
    (void)take(r, camera, Finish::full);
    const auto check = [&](const Level& next, const char* what) {
        CAPTURE(what);
        const Shot followed = follows(next);
        Level other = flatLevel(50, 50, 1);
        const HeightPyramid elsewhere(other);
        r.scene().sync(other, elsewhere);
        const Shot fresh = draw(next, camera);
        CHECK(followed == fresh);
        r.scene().sync(next, pyramid);
        return followed;
    };
    const Shot first = take(r, camera, Finish::full);
    Level next = level;
    Single s;
    s.kind = kind, s.x = level.originX + 126, s.z = level.originZ + 90;
    const uint32_t second = putSingle(next, s).value();
    CHECK_FALSE(check(next, "put") == first);
    next.single(second)->x += 9;
    check(next, "moved");
    next.single(second)->size = 2.5f;
    check(next, "sized");
    next.kind(kind)->hidden = true;
    check(next, "hidden");
    next.kind(kind)->hidden = false;
    REQUIRE(removeSingle(next, second));
    CHECK(check(next, "removed") == first);
}
