// What grows: trees, bushes, tufts, reeds and leaves that float.
#include <algorithm>

#include "grow/recipe.h"
#include "grow/shapes.h"

namespace jam {

using namespace grow;

namespace {

// A leaf, or what stands for some of them: a kite in the plane of two directions, seen from `centre` as part of a ball.
void leaf(Builder& b, const Vec& at, const Vec& along, const Vec& across, const Vec& centre, const Colour& colour,
          float open) {
    b.quadRound(at - along * 0.5f, at + across * 0.5f, at + along * 0.5f, at - across * 0.5f, centre, colour, open);
}

// So many leaves in a ball around a place, mostly near its outside.
void foliage(Builder& b, Chance& chance, const Vec& middle, const Vec& half, int count, float size,
             const Colour& colour) {
    for (int i = 0; i < count; ++i) {
        const Vec out = chance.direction();
        const float far = std::pow(chance.next(), 0.4f);
        const Vec at = middle + Vec{out[0] * half[0], out[1] * half[1], out[2] * half[2]} * far;
        // Lying more than standing, as leaves do.
        const Vec along = unit(Vec{out[0], 0.35f * out[1] - 0.3f, out[2]} + chance.direction() * 0.7f);
        const Vec across = unit(cross(along, chance.direction()));
        const float wide = size * chance.between(0.75f, 1.25f);
        // Darker inside and below, and no two alike.
        const float open = std::clamp(0.35f + 0.45f * far + 0.25f * out[1], 0.15f, 1.f);
        leaf(b, at, along * wide, across * (0.7f * wide), middle, shaded(colour, chance.between(0.8f, 1.15f)), open);
    }
}

Colour hued(const Colour& c, float warm) {
    return {std::clamp(c[0] + 0.25f * warm, 0.f, 1.f), c[1], std::clamp(c[2] - 0.08f * warm, 0.f, 1.f)};
}

constexpr RecipeNumber kTree[] = {{"height", "Height", "m", 1, 30, 4.6f},
                                  {"trunk", "Trunk", "m", 0.2f, 10, 1.5f},
                                  {"girth", "Girth", "m", 0.05f, 3, 0.26f},
                                  {"branches", "Branches", "", 0, 24, 7},
                                  {"angle", "Their angle", "°", 5, 85, 48},
                                  {"droop", "Droop", "", 0, 1, 0.25f},
                                  {"crown", "Crown's width", "m", 0.2f, 20, 3.6f},
                                  {"leaves", "Leaves", "", 0, 1, 0.7f},
                                  {"leafSize", "Leaf size", "m", 0.05f, 1, 0.34f},
                                  {"hue", "Warmer leaves", "", 0, 1, 0.15f},
                                  {"fruit", "Fruit", "", 0, 1, 0}};

Mesh tree(std::span<const float> n, uint32_t seed, float share, Detail detail) {
    Builder b;
    Chance chance(seed);
    const float grown = 0.72f + 0.28f * share, height = n[0] * grown, trunk = std::min(n[1] * grown, 0.9f * height),
                girth = n[2] * grown, crown = n[6] * grown / 2;
    const Colour bark{0.36f, 0.31f, 0.26f};
    const int sides = detail == Detail::near ? 7 : detail == Detail::middle ? 4 : 3;
    // The trunk leans a little and bends.
    const Vec bend{chance.between(-0.09f, 0.09f) * trunk, 0, chance.between(-0.09f, 0.09f) * trunk};
    const Vec knee = Vec{0, 0.5f * trunk, 0} + bend * 0.4f, top = Vec{0, trunk, 0} + bend,
              head{1.3f * bend[0], trunk + 0.7f * (height - trunk), 1.3f * bend[2]};
    if (detail == Detail::near)
        b.tube({0, -0.05f * height, 0}, knee, 1.25f * girth, 0.92f * girth, sides, bark),
            b.tube(knee, top, 0.92f * girth, 0.8f * girth, sides, bark);
    else b.tube({0, -0.05f * height, 0}, top, 1.2f * girth, 0.8f * girth, sides, bark);
    b.tube(top, head, 0.75f * girth, 0.12f * girth, sides, shaded(bark, 0.9f));
    const float leaves = n[7];
    const Colour green = hued({0.29f, 0.43f, 0.17f}, n[9]);
    // Some of the leaves on each branch, the rest in the middle; fewer and larger ones farther away.
    const float fewer = detail == Detail::near     ? 1
                        : detail == Detail::middle ? 0.45f
                                                   : 0.12f,
                larger = 1 / std::sqrt(std::max(fewer, 0.01f));
    const int branches = static_cast<int>(n[3]);
    const float rise = std::cos(n[4] * static_cast<float>(kRadians)),
                out = std::sin(n[4] * static_cast<float>(kRadians));
    const auto count = [&](float whole) {
        return leaves <= 0 ? 0 : std::max(static_cast<int>(whole * leaves * fewer), 3);
    };
    for (int i = 0; i < branches; ++i) {
        const float a = static_cast<float>(kTurn) * (static_cast<float>(i) * 0.381966f + chance.between(-0.06f, 0.06f));
        const float up = branches > 1 ? static_cast<float>(i) / static_cast<float>(branches - 1) : 0.5f;
        const Vec from = top + (head - top) * (0.75f * up), way = unit({std::cos(a) * out, rise, std::sin(a) * out});
        const float reach = crown * (1 - 0.45f * up) * chance.between(0.85f, 1.1f);
        const Vec mid = from + way * (0.6f * reach);
        const Vec tip = mid + unit(way + Vec{way[0], -1.6f * n[5], way[2]}) * (0.5f * reach);
        if (detail != Detail::far) {
            const int few = detail == Detail::near ? 5 : 3;
            b.tube(from, mid, 0.42f * girth * (1 - 0.4f * up), 0.24f * girth, few, bark);
            b.tube(mid, tip, 0.24f * girth, 0.05f * girth, few, bark);
        }
        const float ball = std::max(0.42f * reach, 0.15f * crown);
        foliage(b, chance, tip, {ball, 0.8f * ball, ball}, count(46), n[8] * larger, green);
        if (n[10] > 0 && detail == Detail::near)
            for (int k = 0; k < static_cast<int>(5 * n[10] + 0.5f); ++k)
                b.boulder(tip + chance.direction() * (0.95f * ball) - Vec{0, 0.15f * ball, 0}, {0.05f, 0.06f, 0.05f}, 3,
                          0, seed, {0.30f, 0.13f, 0.32f}, {0.42f, 0.22f, 0.42f});
    }
    const Vec middle = top + (head - top) * 0.75f;
    foliage(b, chance, middle, {0.62f * crown, 0.55f * (height - trunk), 0.62f * crown}, count(150), n[8] * larger,
            green);
    return std::move(b.mesh);
}

constexpr RecipeNumber kBush[] = {
    {"height", "Height", "m", 0.2f, 8, 1.3f}, {"width", "Width", "m", 0.2f, 10, 1.7f},
    {"leaves", "Leaves", "", 0.1f, 1, 0.7f},  {"leafSize", "Leaf size", "m", 0.03f, 1, 0.22f},
    {"hue", "Warmer leaves", "", 0, 1, 0.1f}, {"square", "Clipped", "", 0, 1, 0}};

Mesh bush(std::span<const float> n, uint32_t seed, float share, Detail detail) {
    Builder b;
    Chance chance(seed);
    const float grown = 0.75f + 0.25f * share, height = n[0] * grown, half = n[1] * grown / 2;
    const Colour green = hued({0.24f, 0.37f, 0.16f}, n[4]);
    const float fewer = detail == Detail::near     ? 1
                        : detail == Detail::middle ? 0.35f
                                                   : 0.12f,
                larger = 1 / std::sqrt(fewer);
    const int balls = detail == Detail::far ? 2 : 5;
    // A clipped one is the same leaves pressed into a block.
    for (int i = 0; i < balls; ++i) {
        const Vec d = chance.direction();
        const Vec at{d[0] * half * 0.5f, height * (0.42f + 0.2f * d[1]), d[2] * half * 0.5f};
        const size_t first = b.mesh.vertices.size();
        foliage(b, chance, at, {0.7f * half, 0.45f * height, 0.7f * half},
                std::max(static_cast<int>(54 * n[2] * fewer), 5), n[3] * larger, green);
        for (size_t v = first; v < b.mesh.vertices.size(); ++v) {
            auto& p = b.mesh.vertices[v].at;
            for (const size_t c : {size_t{0}, size_t{2}}) p[c] += n[5] * (std::clamp(p[c] * 1.5f, -half, half) - p[c]);
            p[1] = std::max(p[1] + n[5] * (std::clamp(p[1] * 1.15f, 0.f, height) - p[1]), 0.f);
        }
    }
    return std::move(b.mesh);
}

// Blades from a foot: f(where its root is, its way, its length).
void blades(Builder& b, Chance& chance, int count, float foot, float height, float wide, float bend,
            const Colour& colour, Detail detail) {
    const int joints = detail == Detail::near ? 3 : detail == Detail::middle ? 2 : 1;
    for (int i = 0; i < count; ++i) {
        const float a = static_cast<float>(kTurn) * chance.next(), r = foot * std::sqrt(chance.next());
        const Vec root{r * std::cos(a), 0, r * std::sin(a)}, way{std::cos(a), 0, std::sin(a)}, side{-way[2], 0, way[0]};
        const float tall = height * chance.between(0.6f, 1.f), over = bend * tall * chance.between(0.4f, 1.f);
        const Colour own = shaded(colour, chance.between(0.8f, 1.15f));
        Vec before = root;
        float broad = wide;
        const Vec normal = unit(Vec{0.35f * way[0], 1, 0.35f * way[2]});  // lit as the ground below is
        uint32_t l = b.add(root - side * (broad / 2), normal, shaded(own, 0.8f), 0.55f),
                 rr = b.add(root + side * (broad / 2), normal, shaded(own, 0.8f), 0.55f);
        for (int k = 1; k <= joints; ++k) {
            const float t = static_cast<float>(k) / static_cast<float>(joints);
            const Vec at = root + way * (over * t * t) + Vec{0, tall * (t - 0.25f * t * t * bend), 0};
            broad = wide * (1 - t);
            if (k == joints) {
                b.triangle(l, rr, b.add(at, normal, own));
                break;
            }
            const uint32_t nl = b.add(at - side * (broad / 2), normal, own),
                           nr = b.add(at + side * (broad / 2), normal, own);
            b.triangle(l, rr, nr), b.triangle(l, nr, nl);
            l = nl, rr = nr, before = at;
        }
    }
}

constexpr RecipeNumber kTuft[] = {
    {"height", "Height", "m", 0.05f, 3, 0.42f}, {"width", "Width", "m", 0.02f, 3, 0.24f},
    {"blades", "Blades", "", 3, 80, 22},        {"blade", "Blade's width", "m", 0.005f, 0.2f, 0.028f},
    {"bend", "Bend", "", 0, 1, 0.55f},          {"hue", "Drier", "", 0, 1, 0.25f},
    {"flowers", "Flowers", "", 0, 1, 0}};

Mesh tuft(std::span<const float> n, uint32_t seed, float share, Detail detail) {
    Builder b;
    Chance chance(seed);
    const float grown = 0.7f + 0.3f * share;
    const float fewer = detail == Detail::near ? 1 : detail == Detail::middle ? 0.5f : 0.25f;
    const Colour green = hued({0.34f, 0.45f, 0.18f}, n[5]);
    blades(b, chance, std::max(static_cast<int>(n[2] * fewer), 3), n[1] * grown / 2, n[0] * grown,
           n[3] / std::sqrt(fewer), n[4], green, detail);
    for (int i = 0; i < static_cast<int>(6 * n[6] + 0.5f) && detail != Detail::far; ++i) {
        const float a = static_cast<float>(kTurn) * chance.next(), r = n[1] * chance.next(),
                    tall = n[0] * grown * chance.between(0.8f, 1.2f);
        const Vec at{r * std::cos(a), tall, r * std::sin(a)};
        leaf(b, at, {0.07f, 0.01f, 0}, {0, 0.01f, 0.07f}, at - Vec{0, 0.2f, 0}, {0.93f, 0.89f, 0.78f}, 1);
    }
    return std::move(b.mesh);
}

constexpr RecipeNumber kReed[] = {{"height", "Height", "m", 0.2f, 6, 1.7f},
                                  {"width", "Width", "m", 0.05f, 4, 0.5f},
                                  {"stems", "Stems", "", 2, 60, 14},
                                  {"heads", "Heads", "", 0, 1, 0.5f},
                                  {"hue", "Drier", "", 0, 1, 0.4f}};

Mesh reed(std::span<const float> n, uint32_t seed, float share, Detail detail) {
    Builder b;
    Chance chance(seed);
    const float grown = 0.7f + 0.3f * share, fewer = detail == Detail::near     ? 1
                                                     : detail == Detail::middle ? 0.5f
                                                                                : 0.3f;
    const Colour green = hued({0.38f, 0.45f, 0.2f}, n[4]);
    const int stems = std::max(static_cast<int>(n[2] * fewer), 3);
    blades(b, chance, stems, n[1] * grown / 2, n[0] * grown, 0.035f / fewer, 0.22f, green, detail);
    for (int i = 0; i < static_cast<int>(static_cast<float>(stems) * n[3] * 0.6f) && detail != Detail::far; ++i) {
        const float a = static_cast<float>(kTurn) * chance.next(), r = n[1] / 2 * std::sqrt(chance.next()),
                    tall = n[0] * grown * chance.between(0.75f, 1.f);
        const Vec foot{r * std::cos(a), 0, r * std::sin(a)};
        b.tube(foot, foot + Vec{0, tall, 0}, 0.012f, 0.008f, 3, green);
        b.tube(foot + Vec{0, 0.86f * tall, 0}, foot + Vec{0, tall, 0}, 0.035f, 0.03f, detail == Detail::near ? 5 : 3,
               {0.33f, 0.22f, 0.13f});
    }
    return std::move(b.mesh);
}

constexpr RecipeNumber kPads[] = {{"width", "Width", "m", 0.1f, 6, 1.1f},
                                  {"leaves", "Leaves", "", 1, 40, 9},
                                  {"leafSize", "Leaf size", "m", 0.05f, 1, 0.3f},
                                  {"stalk", "Stalks", "m", 0, 3, 0.5f},
                                  {"flowers", "Flowers", "", 0, 1, 0.2f}};

// Leaves on stalks, for the bottom of a pond: they float where the stalks are as long as the water is deep.
Mesh pads(std::span<const float> n, uint32_t seed, float share, Detail detail) {
    Builder b;
    Chance chance(seed);
    const float grown = 0.7f + 0.3f * share;
    const int round = detail == Detail::near ? 7 : 4;
    for (int i = 0; i < static_cast<int>(n[1]); ++i) {
        const float a = static_cast<float>(kTurn) * chance.next(), r = n[0] * grown / 2 * std::sqrt(chance.next()),
                    size = n[2] * chance.between(0.6f, 1.1f) / 2;
        const Vec at{r * std::cos(a), n[3] + 0.01f * chance.next(), r * std::sin(a)};
        const Colour green = shaded({0.24f, 0.42f, 0.2f}, chance.between(0.85f, 1.15f));
        const uint32_t middle = b.add(at, {0, 1, 0}, green);
        for (int k = 0; k <= round; ++k) {
            const float t =
                static_cast<float>(kTurn) * (0.04f + 0.92f * static_cast<float>(k) / static_cast<float>(round)) + a;
            const uint32_t rim = b.add(at + Vec{size * std::cos(t), 0, size * std::sin(t)}, {0, 1, 0},
                                       shaded(green, 0.9f));
            if (k > 0) b.triangle(middle, rim - 1, rim);
        }
        if (n[3] > 0 && detail == Detail::near)
            b.tube({0.4f * at[0], 0, 0.4f * at[2]}, at, 0.012f, 0.01f, 3, {0.3f, 0.4f, 0.2f});
        if (chance.next() < n[4] && detail == Detail::near)
            leaf(b, at + Vec{0, 0.06f, 0}, {0.12f, 0.02f, 0}, {0, 0.02f, 0.12f}, at - Vec{0, 0.2f, 0},
                 {0.95f, 0.9f, 0.92f}, 1);
    }
    return std::move(b.mesh);
}

}  // namespace

extern const Recipe treeRecipe, bushRecipe, tuftRecipe, reedRecipe, padsRecipe;
const Recipe treeRecipe = {"tree", "Tree", kTree, tree};
const Recipe bushRecipe = {"bush", "Bush or hedge", kBush, bush};
const Recipe tuftRecipe = {"tuft", "Tuft", kTuft, tuft};
const Recipe reedRecipe = {"reed", "Reed", kReed, reed};
const Recipe padsRecipe = {"pads", "Water plant", kPads, pads};

}  // namespace jam
