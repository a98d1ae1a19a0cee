// What is made and not grown: stones, posts with rails, bales, huts.
#include <algorithm>

#include "grow/recipe.h"
#include "grow/shapes.h"

namespace jam {

using namespace grow;

namespace {

constexpr RecipeNumber kStone[] = {{"width", "Width", "m", 0.05f, 20, 0.9f},
                                   {"height", "Height", "m", 0.05f, 20, 0.55f},
                                   {"rough", "Roughness", "", 0, 1, 0.35f},
                                   {"moss", "Moss", "", 0, 1, 0.3f},
                                   {"light", "Lighter", "", 0, 1, 0.5f}};

Mesh stone(std::span<const float> n, uint32_t seed, float share, Detail detail) {
    Builder b;
    Chance chance(seed);
    const float grown = 0.6f + 0.4f * share, wide = n[0] * grown / 2, tall = n[1] * grown;
    const float v = 0.38f + 0.4f * n[4];
    const Colour grey{v, 0.985f * v, 0.94f * v}, moss{0.33f, 0.38f, 0.2f};
    const Colour top{grey[0] + n[3] * (moss[0] - grey[0]), grey[1] + n[3] * (moss[1] - grey[1]),
                     grey[2] + n[3] * (moss[2] - grey[2])};
    b.boulder({0, 0.35f * tall, 0}, {wide, 0.65f * tall, wide * chance.between(0.7f, 1.1f)},
              detail == Detail::near     ? 7
              : detail == Detail::middle ? 4
                                         : 3,
              n[2], seed, grey, top);
    return std::move(b.mesh);
}

constexpr RecipeNumber kPost[] = {{"height", "Height", "m", 0.2f, 5, 1.15f},
                                  {"width", "Thickness", "m", 0.03f, 1, 0.12f},
                                  {"rails", "Rails", "", 0, 5, 2},
                                  {"span", "Their length", "m", 0, 10, 2.5f},
                                  {"weather", "Weathered", "", 0, 1, 0.5f}};

// The rails run north, as a kind that is turned along a course has them follow it.
Mesh post(std::span<const float> n, uint32_t seed, float, Detail detail) {
    Builder b;
    Chance chance(seed);
    const Colour fresh{0.52f, 0.4f, 0.28f}, old{0.48f, 0.46f, 0.43f};
    Colour wood;
    for (size_t c = 0; c < 3; ++c) wood[c] = fresh[c] + n[4] * (old[c] - fresh[c]);
    wood = shaded(wood, chance.between(0.9f, 1.08f));
    const float half = n[1] / 2;
    if (detail == Detail::far) b.box({-half, -0.3f, -half}, {half, n[0], half}, wood, wood);
    else b.tube({0, -0.3f, 0}, {0, n[0], 0}, n[1], 0.94f * n[1], detail == Detail::near ? 6 : 4, wood);
    const int rails = static_cast<int>(n[2]);
    for (int i = 0; i < rails; ++i) {
        const float y =
            n[0] * (0.88f - 0.62f * static_cast<float>(i) / static_cast<float>(std::max(rails, 2) - 1 + (rails == 1)));
        const float thick = 0.35f * n[1], sag = detail == Detail::near ? chance.between(-0.02f, 0.02f) : 0;
        b.box({half, y - thick, -n[3] / 2}, {half + 0.5f * thick, y + thick + sag, n[3] / 2},
              shaded(wood, chance.between(0.92f, 1.06f)), wood);
    }
    return std::move(b.mesh);
}

constexpr RecipeNumber kBale[] = {{"length", "Length", "m", 0.2f, 4, 1.1f},
                                  {"width", "Width", "m", 0.2f, 3, 0.55f},
                                  {"height", "Height", "m", 0.2f, 3, 0.5f},
                                  {"round", "Rolled", "", 0, 1, 0}};

Mesh bale(std::span<const float> n, uint32_t seed, float, Detail detail) {
    Builder b;
    Chance chance(seed);
    const Colour straw = shaded({0.76f, 0.64f, 0.36f}, chance.between(0.92f, 1.06f));
    if (n[3] >= 0.5f) {
        const float r = n[2] / 2;
        const int sides = detail == Detail::near ? 16 : 8;
        b.tube({0, r, -n[0] / 2}, {0, r, n[0] / 2}, n[2], n[2], sides, straw);
        const uint32_t middle = b.add({0, r, -n[0] / 2}, {0, 0, -1}, shaded(straw, 0.9f));
        for (int i = 0; i <= sides; ++i) {
            const float a = static_cast<float>(kTurn) * static_cast<float>(i) / static_cast<float>(sides);
            const uint32_t rim = b.add({r * std::cos(a), r + r * std::sin(a), -n[0] / 2}, {0, 0, -1}, straw);
            if (i > 0) b.triangle(middle, rim - 1, rim);
        }
        return std::move(b.mesh);
    }
    b.box({-n[1] / 2, 0, -n[0] / 2}, {n[1] / 2, n[2], n[0] / 2}, straw, shaded(straw, 1.06f));
    if (detail == Detail::near)  // the strings
        for (const float z : {-0.25f, 0.25f})
            b.box({-n[1] / 2 - 0.006f, -0.005f, z * n[0] - 0.012f},
                  {n[1] / 2 + 0.006f, n[2] + 0.006f, z * n[0] + 0.012f}, {0.45f, 0.36f, 0.22f}, {0.45f, 0.36f, 0.22f});
    return std::move(b.mesh);
}

constexpr RecipeNumber kHut[] = {{"width", "Width", "m", 1, 40, 4},    {"length", "Length", "m", 1, 40, 5},
                                 {"wall", "Wall", "m", 1, 20, 2.4f},   {"roof", "Roof's rise", "m", 0, 15, 1.6f},
                                 {"eaves", "Eaves", "m", 0, 3, 0.35f}, {"stone", "Stone walls", "", 0, 1, 0},
                                 {"door", "Door", "m", 0, 5, 1}};

// The door looks south.
Mesh hut(std::span<const float> n, uint32_t, float, Detail detail) {
    Builder b;
    const float w = n[0] / 2, l = n[1] / 2, wall = n[2], ridge = wall + n[3], e = n[4];
    const Colour boards{0.47f, 0.36f, 0.27f}, rubble{0.62f, 0.59f, 0.53f}, tiles{0.5f, 0.29f, 0.24f},
        dark{0.2f, 0.15f, 0.13f};
    const Colour walls = n[5] >= 0.5f ? rubble : boards;
    b.box({-w, -0.6f, -l}, {w, wall, l}, walls, dark);
    for (const float z : {-l, l}) {  // the gables
        const Vec out{0, 0, z < 0 ? -1.f : 1.f};
        const uint32_t a = b.add({-w, wall, z}, out, walls);
        b.add({w, wall, z}, out, walls), b.add({0, ridge, z}, out, walls);
        b.triangle(a, a + 1, a + 2);
    }
    const float low = wall - e * n[3] / w;
    b.quad({-w - e, low, l + e}, {-w - e, low, -l - e}, {0, ridge + 0.04f, -l - e}, {0, ridge + 0.04f, l + e}, tiles);
    b.quad({0, ridge + 0.04f, l + e}, {0, ridge + 0.04f, -l - e}, {w + e, low, -l - e}, {w + e, low, l + e}, tiles);
    if (detail != Detail::near) return std::move(b.mesh);
    if (n[6] > 0) {
        const float half = std::min(n[6] / 2, 0.45f * n[0]), high = std::min(0.82f * wall, 2.1f);
        b.box({-half, 0, l}, {half, high, l + 0.04f}, dark, dark);
        for (const float x : {-0.62f, 0.62f})
            b.box({x * w - 0.3f, 0.45f * wall, l}, {x * w + 0.3f, 0.75f * wall, l + 0.03f}, {0.55f, 0.62f, 0.66f},
                  dark);
    }
    if (n[5] < 0.5f)  // battens over the boards' joints
        for (int i = 1; i < static_cast<int>(n[1] / 0.5f); ++i)
            for (const float x : {-w - 0.015f, w})
                b.box({x, 0, -l + 0.5f * static_cast<float>(i) - 0.02f},
                      {x + 0.015f, wall, -l + 0.5f * static_cast<float>(i) + 0.02f}, shaded(boards, 0.85f), boards);
    return std::move(b.mesh);
}

}  // namespace

extern const Recipe stoneRecipe, postRecipe, baleRecipe, hutRecipe;
const Recipe stoneRecipe = {"stone", "Stone", kStone, stone};
const Recipe postRecipe = {"post", "Post and rails", kPost, post};
const Recipe baleRecipe = {"bale", "Bale", kBale, bale};
const Recipe hutRecipe = {"hut", "Hut", kHut, hut};

}  // namespace jam
