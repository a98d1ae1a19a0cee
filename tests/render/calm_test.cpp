// Meshes of fewer triangles for moving pictures: they fit, and lie close to the ground.
#include <catch2/catch.hpp>

#include <cmath>
#include <glm/geometric.hpp>
#include <map>
#include <tuple>

#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/frustum.h"
#include "render/patch_mesh.h"
#include "render/software/calm_ground.h"

using namespace jam;
using namespace jam::test;

namespace {

constexpr int kAcross = Patch::kQuads + 1;
int columnOf(int v) { return v % kAcross; }
int rowOf(int v) { return v / kAcross; }

// Height of the mesh of a patch at a vertex, by the first triangle that holds it.
double meshAt(const std::vector<uint16_t>& mesh, int vertex, const std::function<double(int)>& height) {
    for (size_t t = 0; t < mesh.size(); t += 3) {
        const double ax = columnOf(mesh[t]), az = rowOf(mesh[t]);
        const double ux = columnOf(mesh[t + 1]) - ax, uz = rowOf(mesh[t + 1]) - az;
        const double vx = columnOf(mesh[t + 2]) - ax, vz = rowOf(mesh[t + 2]) - az;
        const double px = columnOf(vertex) - ax, pz = rowOf(vertex) - az, whole = ux * vz - uz * vx;
        const double u = (px * vz - pz * vx) / whole, v = (ux * pz - uz * px) / whole;
        if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
        return (1 - u - v) * height(mesh[t]) + u * height(mesh[t + 1]) + v * height(mesh[t + 2]);
    }
    FAIL("vertex " << vertex << " is on no triangle");
    return 0;
}

double heightOf(const Level& l, const Patch& p, int vertex) {
    return groundSample(l, std::min(p.column + columnOf(vertex) * p.step, l.columns - 1),
                        std::min(p.row + rowOf(vertex) * p.step, l.rows - 1));
}

glm::dvec3 vertexOf(const Level& l, const Patch& p, int vertex) {
    return {l.originX + std::min(p.column + columnOf(vertex) * p.step, l.columns - 1) * l.spacing,
            heightOf(l, p, vertex), l.originZ + std::min(p.row + rowOf(vertex) * p.step, l.rows - 1) * l.spacing};
}

double strayOf(const Level& l, const Patch& p, int joined, const Rims& rims = kWholeRims) {
    const std::vector<uint16_t> mesh = PatchMesh::trianglesOf(joined, rims);
    double most = 0;
    for (int v = 0; v < kAcross * kAcross; ++v)
        most = std::max(most, std::abs(heightOf(l, p, v) - meshAt(mesh, v, [&](int w) { return heightOf(l, p, w); })));
    return most;
}

// Every way in which the sides of a patch may go without vertices.
std::vector<Rims> allRims(int joined) {
    std::vector<Rims> out;
    constexpr uint8_t each[] = {1, 2, 4};
    for (const uint8_t n : each)
        for (const uint8_t e : each)
            for (const uint8_t s : each)
                for (const uint8_t w : each)
                    if (std::max({n, e, s, w}) <= joined) out.push_back({n, e, s, w});
    return out;
}

// Gentle hills in one stratum, rubble and walls in another; neither square nor in the middle.
Level calmAndRough(uint32_t seed) {
    Level l = flatLevel(201, 137, 0);
    Random random(seed);
    const double phase = between(random, 0, 6);
    for (int z = 0; z < l.rows; ++z)
        for (int x = 0; x < l.columns; ++x) {
            const double rubble = x > 120 && z > 60 ? between(random, -1, 1) : 0;
            // A furrow here and there along the border between patches.
            const double furrow = x < 80 && z % 24 == 8 ? between(random, 0, 0.4) : 0;
            l.strata[0].heights.set(
                x, z, static_cast<float>(6 * std::sin(x / 17. + phase) * std::cos(z / 23.) + rubble + furrow));
        }
    Stratum over;
    over.id = 7, over.name = "walls";
    over.heights = TiledGrid<float>(l.columns, l.rows, 0);
    for (int z = 20; z < 110; ++z) over.heights.set(90, z, 3);
    for (int x = 30; x < 50; ++x) over.heights.set(x, 61, -2);
    l.strata.push_back(over);
    return l;
}

}  // namespace

TEST_CASE("a patch of any density is covered once, faces up, and keeps of its rim what it should") {
    int least = 1 << 20;
    for (const int joined : {1, 2, 4}) {
        CHECK(PatchMesh::triangles(joined) < least);
        least = PatchMesh::triangles(joined);
        for (const Rims& rims : allRims(joined)) {
            const int north = rims[0], east = rims[1], south = rims[2], west = rims[3];
            CAPTURE(joined, north, east, south, west);
            const std::vector<uint16_t> mesh = PatchMesh::trianglesOf(joined, rims);
            CHECK(static_cast<int>(mesh.size()) == 3 * PatchMesh::triangles(joined, rims));
            std::map<std::pair<int, int>, int> sides;
            int area = 0, wrong = 0;
            for (size_t t = 0; t < mesh.size(); t += 3) {
                const int a = mesh[t], b = mesh[t + 1], c = mesh[t + 2];
                const int twice = (columnOf(b) - columnOf(a)) * (rowOf(c) - rowOf(a)) -
                                  (rowOf(b) - rowOf(a)) * (columnOf(c) - columnOf(a));
                // South is down the rows: seen from above, against the clock.
                wrong += twice >= 0;
                area -= twice;
                for (const auto& [u, v] : {std::pair{a, b}, {b, c}, {c, a}}) ++sides[{u, v}];
            }
            CHECK(area == 2 * Patch::kQuads * Patch::kQuads);
            for (const auto& [side, count] : sides) {
                wrong += count != 1;
                // The triangle beyond shares all of the side; without one it is a side of what is joined on the rim.
                const auto [u, v] = side;
                if (sides.count({v, u})) continue;
                const auto reaches = [&](int rim, bool on, int from, int to) {
                    return on && std::abs(from - to) == rim && std::min(from, to) % rim == 0;
                };
                const int ux = columnOf(u), uz = rowOf(u), vx = columnOf(v), vz = rowOf(v), n = Patch::kQuads;
                wrong += !reaches(north, uz == 0 && vz == 0, ux, vx) && !reaches(south, uz == n && vz == n, ux, vx) &&
                         !reaches(west, ux == 0 && vx == 0, uz, vz) && !reaches(east, ux == n && vx == n, uz, vz);
            }
            CHECK(wrong == 0);
        }
    }
}

TEST_CASE("joined quads are seen no farther from the ground than allowed", "[property]") {
    Random random(3);
    std::map<int, int> met, metRims;
    for (int round = 0; round < 9; ++round) {
        const Level l = calmAndRough(static_cast<uint32_t>(round));
        const HeightPyramid pyramid(l);
        CalmGround calm;
        calm.follow(l, {});
        Camera c;
        c.at = {between(random, -80, 80), between(random, 5, 90), between(random, -50, 50)};
        c.yaw = between(random, 0, 360), c.pitch = between(random, -89, 0);
        std::vector<Patch> patches;
        choosePatches(l, pyramid, c, finestReach(l, c, 12), patches);
        const double pixels = between(random, 0.2, 4), metres = c.metresPerPixel(1);
        const std::vector<Joined> all = calm.joined(l, patches, pixels, metres);
        REQUIRE(all.size() == patches.size());
        for (size_t i = 0; i < patches.size(); ++i) {
            const Patch& p = patches[i];
            const auto [joined, rims] = all[i];
            ++met[joined];
            for (const int rim : rims) ++metRims[rim];
            const double most = pixels * metres * std::max<double>(p.nearest, 0.5) / std::max(p.upright, 0.05f);
            CAPTURE(p.column, p.row, p.step, joined);
            CHECK(strayOf(l, p, joined, rims) <= most * 1.001 + 1e-4);
            // Nor are they fewer than they could be.
            if (joined < 4) CHECK(strayOf(l, p, 2 * joined) >= most * 0.999 - 1e-4);
            // As angles from the eye, whatever the picture stretches off its middle.
            const std::vector<uint16_t> mesh = PatchMesh::trianglesOf(joined, rims);
            for (int v = 0; v < kAcross * kAcross; ++v) {
                glm::dvec3 at = vertexOf(l, p, v) - c.at, drawn = at;
                drawn.y = meshAt(mesh, v, [&](int w) { return heightOf(l, p, w); }) - c.at.y;
                const double across = glm::length(glm::cross(at, drawn)) / (glm::length(at) * glm::length(drawn));
                if (p.nearest > 1) CHECK(across <= pixels * metres * 1.01 + 1e-6);
            }
        }
    }
    for (const int joined : {1, 2, 4}) {
        CHECK(met[joined] > 20);
        CHECK(metRims[joined] > 20);
    }
}

TEST_CASE("patches that are drawn together meet in the same vertices", "[property]") {
    Random random(29);
    int fewer = 0, whole = 0;
    for (int round = 0; round < 9; ++round) {
        const Level l = calmAndRough(static_cast<uint32_t>(20 + round));
        const HeightPyramid pyramid(l);
        CalmGround calm;
        calm.follow(l, {});
        Camera c;
        c.at = {between(random, -80, 80), between(random, 8, 60), between(random, -50, 50)};
        c.yaw = between(random, 0, 360), c.pitch = between(random, -89, -20);
        std::vector<Patch> patches;
        choosePatches(l, pyramid, c, finestReach(l, c, 12), patches);
        // As where only part of a picture is drawn.
        if (round % 3 == 0) std::erase_if(patches, [&](const Patch&) { return wholeBetween(random, 0, 3) == 0; });
        const std::vector<Joined> all = calm.joined(l, patches, between(random, 0.5, 3), c.metresPerPixel(1));
        // The vertices that each patch has on the lines through two of its corners.
        constexpr int n = Patch::kQuads;
        using Ends = std::tuple<int, int, int, int>;
        std::map<Ends, std::vector<std::vector<glm::ivec2>>> met;
        for (size_t i = 0; i < patches.size(); ++i) {
            const Patch& p = patches[i];
            std::vector<uint16_t> mesh = PatchMesh::trianglesOf(all[i].quads, all[i].rims);
            std::sort(mesh.begin(), mesh.end());
            mesh.erase(std::unique(mesh.begin(), mesh.end()), mesh.end());
            const auto side = [&](auto on) {
                std::vector<glm::ivec2> along;
                for (const int v : mesh)
                    if (on(v)) along.push_back({p.column + columnOf(v) * p.step, p.row + rowOf(v) * p.step});
                const Ends ends{along.front().x, along.front().y, along.back().x, along.back().y};
                met[ends].push_back(std::move(along));
            };
            side([](int v) { return rowOf(v) == 0; });
            side([](int v) { return rowOf(v) == n; });
            side([](int v) { return columnOf(v) == 0; });
            side([](int v) { return columnOf(v) == n; });
        }
        for (const auto& [ends, sides] : met) {
            CAPTURE(round, std::get<0>(ends), std::get<1>(ends), std::get<2>(ends), std::get<3>(ends));
            // Alone, or beside patches of another size: all of it, as it has always met those.
            if (sides.size() == 1) CHECK(sides[0].size() == n + 1);
            else CHECK(sides[0] == sides[1]);
            ++(sides[0].size() == n + 1 ? whole : fewer);
        }
    }
    CHECK(fewer > 100);
    CHECK(whole > 100);
}

TEST_CASE("seen from above, uneven ground takes fewer triangles than its heights would") {
    const Level l = calmAndRough(5);
    const HeightPyramid pyramid(l);
    CalmGround calm;
    calm.follow(l, {});
    Camera c;
    c.at = {0, 300, 0}, c.pitch = -89;
    std::vector<Patch> patches;
    choosePatches(l, pyramid, c, finestReach(l, c, 12), patches);
    const auto count = [&] {
        int triangles = 0;
        for (const Joined& j : calm.joined(l, patches, 1, c.metresPerPixel(1)))
            triangles += PatchMesh::triangles(j.quads, j.rims);
        return triangles;
    };
    const int fromAbove = count();
    for (Patch& p : patches) p.upright = 1;
    const int byHeights = count();
    CHECK(fromAbove < 0.75 * byHeights);
}

TEST_CASE("what is seen of a box, and how much of its height, is at least what is seen of its places", "[property]") {
    Random random(17);
    int outside = 0;
    double tightest = 0;
    for (int round = 0; round < 400; ++round) {
        Camera c;
        c.width = 300, c.height = 200;
        c.at = {between(random, -50, 50), between(random, -20, 60), between(random, -50, 50)};
        c.yaw = between(random, 0, 360), c.pitch = between(random, -90, 90);
        Box box;
        box.low = {between(random, -80, 60), between(random, -30, 20), between(random, -80, 60)};
        box.high = box.low + glm::dvec3(between(random, 0, 40), between(random, 0, 15), between(random, 0, 40));
        const bool meets = Frustum(c).meets(box);
        const double upright = uprightShare(box, c.at), away = distanceTo(box, c.at);
        outside += !meets;
        // A box of one place is in the picture exactly when its pixel is.
        const glm::dvec3 point{between(random, -90, 90), between(random, -40, 40), between(random, -90, 90)};
        const auto its = c.pixel(point);
        const bool inside = its && its->x >= -0.5 && its->y >= -0.5 && its->x < c.width - 0.5 &&
                            its->y < c.height - 0.5;
        CHECK(Frustum(c).meets({point, point}) == inside);
        for (int k = 0; k < 60; ++k) {
            // Corners often.
            const auto some = [&](double low, double high) {
                return k < 8 ? (wholeBetween(random, 0, 1) ? low : high) : between(random, low, high);
            };
            const glm::dvec3 place{some(box.low.x, box.high.x), some(box.low.y, box.high.y),
                                   some(box.low.z, box.high.z)};
            const auto pixel = c.pixel(place);
            const bool seen = pixel && pixel->x >= 0 && pixel->y >= 0 && pixel->x < c.width && pixel->y < c.height;
            if (seen) CHECK(meets);
            const glm::dvec3 d = place - c.at;
            CHECK(away <= glm::length(d) + 1e-9);
            CHECK(std::hypot(d.x, d.z) <= upright * glm::length(d) + 1e-9);
            if (upright < 0.9) tightest = std::max(tightest, std::hypot(d.x, d.z) / (upright * glm::length(d)));
        }
    }
    CHECK(outside > 100);
    CHECK(outside < 390);
    CHECK(tightest > 0.99);
}

TEST_CASE("what is known of the ground's calm follows every change", "[property]") {
    Random random(11);
    Level l = calmAndRough(4);
    CalmGround calm;
    calm.follow(l, {});
    const auto lookEverywhere = [&] {
        int wrong = 0;
        for (int step = 1; step <= 16; step *= 2)
            for (int row = 0; row < l.rows - 1; row += Patch::kQuads * step)
                for (int column = 0; column < l.columns - 1; column += Patch::kQuads * step) {
                    const Patch p{column, row, step, 0, 0, 1};
                    const Strays known = calm.at(l, p), fresh = straysOf(l, p);
                    wrong += !(known == fresh);
                }
        return wrong;
    };
    CHECK(lookEverywhere() == 0);
    for (int k = 0; k < 60; ++k) {
        // Often right on the border between patches.
        const int x = std::min(wholeBetween(random, 0, 25) * 8 + (k % 3 ? 0 : wholeBetween(random, 0, 7)),
                               l.columns - 1),
                  z = std::min(wholeBetween(random, 0, 17) * 8 + (k % 2 ? 0 : wholeBetween(random, 0, 7)), l.rows - 1);
        l.strata[static_cast<size_t>(k % 2)].heights.set(x, z, static_cast<float>(between(random, -9, 9)));
        calm.follow(l, Region{x, z, x + 1, z + 1});
        REQUIRE(lookEverywhere() == 0);
    }
    for (const Level& other : {hillyLevel(201, 170, 2, 0), hillyLevel(90, 170, 3, 0)}) {
        l = other;
        calm.follow(l, {});
        CHECK(lookEverywhere() == 0);
    }
}

TEST_CASE("a moving picture takes fewer triangles and shows the same ground") {
    PixelRenderer& r = renderer();
    Level l = calmAndRough(1);
    l.layers.clear();
    addLayer(l, plainLayer("red", 220, 30, 30));
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = {l.originX + 20, altitudeAt(l, l.originX + 20, l.originZ + 60) + 12, l.originZ + 60};
    c.yaw = 90, c.pitch = -8;
    const Shot still = take(r, c, Finish::full);
    const int all = r.scene().triangles();
    const Shot moving = take(r, c, Finish::quick);
    CHECK(r.scene().triangles() < 0.8 * all);
    CHECK(r.scene().triangles() > 0.1 * all);
    const auto ground = [](const Shot& s, int x, int y) { return s.at(x, y).x > s.at(x, y).z + 20; };
    int edges = 0, moved = 0;
    for (int x = 0; x < kWidth; ++x)
        for (int y = 2; y + 2 < kHeight; ++y) {
            if (ground(still, x, y) == ground(still, x, y - 1)) continue;
            ++edges;
            // The horizon is where it was, or a pixel beside.
            bool near = false;
            for (int k = -1; k <= 1; ++k) near = near || ground(moving, x, y + k) != ground(moving, x, y + k - 1);
            moved += !near;
        }
    CHECK(edges > kWidth / 2);
    CHECK(moved <= 1);
}

TEST_CASE("a wall that was put up a moment ago stands in the moving picture") {
    PixelRenderer& r = renderer();
    Level l = calmAndRough(2);
    l.layers.clear();
    addLayer(l, plainLayer("red", 220, 30, 30));
    HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.at = {l.originX + 20, altitudeAt(l, l.originX + 20, l.originZ + 30) + 14, l.originZ + 30};
    c.yaw = 90, c.pitch = -12;
    take(r, c, Finish::quick);
    const int before = r.scene().triangles();
    const Region wall{61, 10, 62, 51};
    for (int z = wall.z0; z < wall.z1; ++z) l.strata[0].heights.set(61, z, 11);
    pyramid.update(l, wall);
    Change change;
    change.ground.add(wall);
    r.scene().sync(l, pyramid, &change);
    const Shot followed = take(r, c, Finish::quick);
    CHECK(r.scene().triangles() > before);
    // As somebody sees it who never knew the ground without it.
    const Level other = flatLevel(30, 20, 0);
    const HeightPyramid of(other);
    r.scene().sync(other, of);
    r.scene().sync(l, pyramid);
    CHECK(take(r, c, Finish::quick) == followed);
}
