#include "sample_layers.h"

#include <cmath>

#include "base/noise.h"
#include "texture.h"

namespace jam::samples {

namespace {

constexpr float kSize = Texture::kSize;

float tileNoise(float u, float v, int period, int octaves, uint32_t seed) {
    return fractalNoise(u * static_cast<float>(period), v * static_cast<float>(period), seed, octaves, 0.55f, period);
}

struct Turf {
    Colour ground, dark, light, dry;
    float dryShare;
    int blades;
    float length;
};

constexpr Turf kMeadow{
    {0.14f, 0.13f, 0.08f}, {0.17f, 0.24f, 0.10f}, {0.37f, 0.44f, 0.21f}, {0.60f, 0.56f, 0.35f}, 0.14f, 15000, 21};
constexpr Turf kStraw{
    {0.30f, 0.24f, 0.15f}, {0.42f, 0.37f, 0.20f}, {0.69f, 0.60f, 0.37f}, {0.78f, 0.70f, 0.47f}, 0.45f, 13000, 25};

Texture turf(const Turf& t, uint32_t seed) {
    Texture tex;
    tex.eachSample([&](float u, float v, Colour& c, float& h, float& r) {
        c = scaled(t.ground, 1 + 0.5f * tileNoise(u, v, 24, 4, seed));
        h = 0.06f * tileNoise(u, v, 16, 3, seed + 1);
        r = 0.95f;
    });
    Dice dice(seed);
    for (int i = 0; i < t.blades; ++i) {
        const float share = static_cast<float>(i) / static_cast<float>(t.blades);
        Texture::Blade b;
        b.x = dice.unit() * kSize;
        b.y = dice.unit() * kSize;
        b.turn = dice.between(0, 6.2832f);
        b.bend = dice.between(-1.4f, 1.4f);
        b.length = t.length * dice.between(0.5f, 1.2f);
        b.width = dice.between(1.6f, 3.0f);
        b.foot = 0.02f + 0.5f * share * dice.between(0.7f, 1.f);
        b.rise = dice.between(0.15f, 0.45f);
        const float clump = 0.5f + 0.9f * tileNoise(b.x / kSize, b.y / kSize, 7, 2, seed + 5);
        Colour green = mix(t.dark, t.light, 0.65f * dice.unit() + 0.35f * clump);
        if (dice.unit() < t.dryShare) green = mix(green, t.dry, dice.between(0.5f, 1.f));
        b.root = scaled(green, 0.45f + 0.3f * share);
        b.tip = scaled(green, 0.85f + 0.35f * share);
        tex.draw(b);
    }
    tex.shadeHollows(0.9f, 5);
    tex.evenLight(0.8f, 40);
    return tex;
}

Texture gravel() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float n = tileNoise(u, v, 48, 4, 31);
        c = scaled({0.46f, 0.40f, 0.33f}, 1 + 0.35f * n);
        h = 0.05f * n;
        r = 0.95f;
    });
    Dice dice(41);
    const Colour tones[] = {{0.63f, 0.57f, 0.49f},
                            {0.55f, 0.51f, 0.46f},
                            {0.70f, 0.64f, 0.55f},
                            {0.49f, 0.46f, 0.44f},
                            {0.66f, 0.56f, 0.43f}};
    for (int i = 0; i < 5200; ++i) {
        const float share = static_cast<float>(i) / 5200;
        const float big = std::pow(dice.unit(), 3.f);
        Texture::Stone s;
        s.x = dice.unit() * kSize;
        s.y = dice.unit() * kSize;
        s.radius = 3 + 9.5f * big;
        s.stretch = dice.between(1, 1.6f);
        s.turn = dice.between(0, 3.14f);
        s.foot = 0.02f + 0.28f * share;
        s.rise = 0.012f * s.radius + 0.06f;
        s.colour = scaled(tones[static_cast<int>(dice.unit() * 5)], dice.between(0.8f, 1.12f));
        s.rough = dice.between(0.75f, 0.95f);
        s.uneven = 0.5f;
        tex.draw(s);
    }
    tex.shadeHollows(1.6f, 4);
    tex.evenLight(0.9f, 36);
    return tex;
}

Texture soil() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float n = tileNoise(u, v, 10, 6, 61);
        c = mix({0.24f, 0.16f, 0.11f}, {0.41f, 0.29f, 0.20f}, 0.5f + 0.7f * n);
        h = 0.25f * n;
        r = 0.97f;
    });
    Dice dice(63);
    for (int i = 0; i < 2600; ++i) {
        Texture::Stone s;
        s.x = dice.unit() * kSize;
        s.y = dice.unit() * kSize;
        s.radius = 2.5f + 15 * std::pow(dice.unit(), 4.f);
        s.stretch = dice.between(1, 1.5f);
        s.turn = dice.between(0, 3.14f);
        s.foot = 0.1f * tileNoise(s.x / kSize, s.y / kSize, 10, 4, 61);
        s.rise = 0.05f + 0.011f * s.radius;
        s.colour = mix({0.30f, 0.20f, 0.14f}, {0.46f, 0.34f, 0.24f}, dice.unit());
        s.rough = 0.97f;
        s.uneven = 1;
        tex.draw(s);
    }
    for (int i = 0; i < 260; ++i) {  // straws and roots
        const Colour straw = mix({0.55f, 0.45f, 0.28f}, {0.38f, 0.29f, 0.19f}, dice.unit());
        tex.draw(Texture::Blade{dice.unit() * kSize, dice.unit() * kSize, dice.between(0, 6.28f),
                                dice.between(-0.8f, 0.8f), dice.between(8, 26), 1.8f, 0.34f, 0.04f, scaled(straw, 0.8f),
                                straw});
    }
    tex.shadeHollows(1.5f, 6);
    tex.evenLight(0.9f, 36);
    return tex;
}

Texture chalk() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float wu = u + 0.02f * tileNoise(u, v, 6, 3, 71), wv = v + 0.02f * tileNoise(u, v, 6, 3, 72);
        const Cell big = cellAt(wu, wv, 5, 73), small = cellAt(wu, wv, 15, 74);
        const float crack = std::min((big.second - big.nearest) * 6, 1.f),
                    chip = std::min((small.second - small.nearest) * 4, 1.f);
        const float n = tileNoise(u, v, 20, 5, 75);
        h = 0.5f * crack + 0.22f * chip + 0.18f * big.random + 0.12f * small.random + 0.2f * n;
        const float stain = 0.5f + 0.8f * tileNoise(u, v, 4, 4, 76);
        c = mix({0.90f, 0.88f, 0.83f}, {0.79f, 0.74f, 0.64f}, stain);
        c = scaled(c, (0.82f + 0.12f * crack + 0.06f * chip) * (1 + 0.10f * n) * (0.95f + 0.08f * small.random));
        r = 0.96f;
    });
    Dice dice(77);
    for (int i = 0; i < 46; ++i) {  // flints
        const float radius = dice.between(2.5f, 7);
        tex.draw(Texture::Stone{dice.unit() * kSize, dice.unit() * kSize, radius, dice.between(1, 1.8f),
                                dice.between(0, 3.14f), 0.85f, 0.02f * radius,
                                mix({0.27f, 0.27f, 0.29f}, {0.45f, 0.42f, 0.38f}, dice.unit()), 0.55f, 0.8f});
    }
    tex.shadeHollows(0.5f, 6);
    tex.evenLight(0.8f, 40);
    return tex;
}

Texture rock() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float bend = 0.05f * tileNoise(u, v, 4, 4, 81);
        const float wu = u + bend, wv = v + 0.05f * tileNoise(u, v, 4, 4, 82);
        const Cell block = cellAt(wu, wv, 4, 83), chip = cellAt(wu * 1.f, wv, 11, 84);
        const float crack = std::min((block.second - block.nearest) * 5, 1.f);
        const float edge = std::min((chip.second - chip.nearest) * 3, 1.f);
        const float bedding = tileNoise(u * 0.5f + 0.25f, v * 3 + bend * 4, 8, 3, 85);
        const float n = tileNoise(u, v, 24, 5, 86);
        h = 0.45f * std::sqrt(crack) + 0.25f * block.random + 0.2f * edge * chip.random + 0.12f * n + 0.05f * bedding;
        c = mix({0.40f, 0.385f, 0.36f}, {0.56f, 0.53f, 0.48f}, 0.5f + 0.5f * n + 0.5f * (block.random - 0.5f));
        c = mix(c, {0.50f, 0.43f, 0.33f}, 0.45f * std::max(0.f, tileNoise(u, v, 5, 3, 87)) * 2);
        c = scaled(c, 0.62f + 0.38f * std::sqrt(crack) + 0.04f * (edge - 0.5f));
        const float lichen = tileNoise(u, v, 14, 4, 88);
        if (lichen > 0.22f) c = mix(c, {0.62f, 0.63f, 0.50f}, std::min((lichen - 0.22f) * 4, 0.55f));
        r = 0.88f;
    });
    tex.shadeHollows(0.7f, 7);
    tex.evenLight(0.8f, 40);
    return tex;
}

Texture silt() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float warp = 0.35f * tileNoise(u, v, 4, 3, 91);
        const float ripple = std::sin((v * 22 + warp * 5 + 0.6f * std::sin(u * 6.28318f)) * 6.28318f);
        const float n = tileNoise(u, v, 40, 4, 92), soft = tileNoise(u, v, 5, 3, 93);
        h = 0.10f * ripple * (0.6f + 0.6f * soft) + 0.10f * n + 0.1f * soft;
        const float wet = 0.5f + 0.9f * soft;
        c = mix({0.56f, 0.48f, 0.36f}, {0.40f, 0.35f, 0.27f}, wet);
        c = scaled(c, 1 + 0.07f * ripple + 0.16f * n);
        r = 0.85f - 0.35f * std::min(std::max(wet, 0.f), 1.f);
    });
    Dice dice(94);
    for (int i = 0; i < 190; ++i) {
        const float radius = 1.6f + 5 * std::pow(dice.unit(), 3.f);
        tex.draw(Texture::Stone{dice.unit() * kSize, dice.unit() * kSize, radius, dice.between(1, 1.5f),
                                dice.between(0, 3.14f), 0.05f, 0.03f * radius,
                                mix({0.34f, 0.31f, 0.28f}, {0.66f, 0.60f, 0.50f}, dice.unit()), 0.7f, 0.4f});
    }
    tex.shadeHollows(0.8f, 5);
    tex.evenLight(0.9f, 36);
    return tex;
}

// Fallen leaves of several ages over dark earth.
Texture leafLitter() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float n = tileNoise(u, v, 20, 5, 101);
        c = scaled({0.17f, 0.12f, 0.08f}, 1 + 0.5f * n);
        h = 0.06f * n;
        r = 0.95f;
    });
    Dice dice(103);
    const Colour tones[] = {{0.40f, 0.27f, 0.15f}, {0.50f, 0.36f, 0.19f}, {0.32f, 0.22f, 0.14f},
                            {0.58f, 0.46f, 0.26f}, {0.42f, 0.24f, 0.14f}, {0.36f, 0.33f, 0.18f}};
    for (int i = 0; i < 3400; ++i) {
        const float share = static_cast<float>(i) / 3400;
        const Colour tone = scaled(tones[static_cast<int>(dice.unit() * 6)],
                                   dice.between(0.65f, 1.1f) * (0.6f + 0.4f * share));
        Texture::Stone leaf;
        leaf.x = dice.unit() * kSize;
        leaf.y = dice.unit() * kSize;
        leaf.radius = dice.between(4.5f, 8);
        leaf.stretch = dice.between(1.5f, 2.3f);
        leaf.turn = dice.between(0, 3.14f);
        leaf.foot = 0.03f + 0.5f * share;
        leaf.rise = 0.035f;
        leaf.colour = tone;
        leaf.rough = dice.between(0.6f, 0.9f);
        leaf.uneven = 0.5f;
        tex.draw(leaf);
        // Its midrib.
        const float c = std::cos(leaf.turn), n = std::sin(leaf.turn), half = leaf.radius * leaf.stretch * 0.85f;
        tex.draw(Texture::Blade{leaf.x - c * half, leaf.y - n * half, leaf.turn, 0.1f, 2 * half, 1.4f,
                                leaf.foot + 0.04f, 0.01f, scaled(tone, 0.62f), scaled(tone, 0.75f)});
    }
    for (int i = 0; i < 120; ++i) {  // twigs
        const Colour twig = mix({0.25f, 0.18f, 0.12f}, {0.42f, 0.34f, 0.25f}, dice.unit());
        tex.draw(Texture::Blade{dice.unit() * kSize, dice.unit() * kSize, dice.between(0, 6.28f),
                                dice.between(-0.5f, 0.5f), dice.between(14, 60), dice.between(1.8f, 3.2f), 0.55f, 0.03f,
                                scaled(twig, 0.8f), twig});
    }
    tex.shadeHollows(1.3f, 5);
    tex.evenLight(0.9f, 36);
    return tex;
}

// Cushions of moss with bare stone between them here and there.
Texture moss() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float wu = u + 0.03f * tileNoise(u, v, 6, 3, 111), wv = v + 0.03f * tileNoise(u, v, 6, 3, 112);
        const Cell cushion = cellAt(wu, wv, 9, 113), tuft = cellAt(u, v, 60, 114), leaf = cellAt(u, v, 120, 115);
        const float dome = std::sqrt(std::max(0.f, 1 - cushion.nearest * cushion.nearest * 1.1f));
        const float soft = 0.35f * (1 - std::min(tuft.nearest * 1.2f, 1.f)) +
                           0.2f * (1 - std::min(leaf.nearest * 1.3f, 1.f));
        h = 0.55f * dome + 0.3f * soft + 0.08f * cushion.random;
        const float shade = 0.35f + 0.45f * dome + 0.5f * soft;
        const float grain = tileNoise(u, v, 64, 4, 118);
        h += 0.10f * grain;
        c = mix({0.12f, 0.14f, 0.05f}, {0.40f, 0.43f, 0.17f},
                shade - 0.12f + 0.34f * (cushion.random - 0.5f) + 0.35f * grain);
        c = mix(c, {0.50f, 0.47f, 0.20f}, 0.5f * std::max(0.f, tileNoise(u, v, 7, 3, 116)));
        const float bare = std::min(std::max((cushion.nearest - 0.82f) * 5, 0.f), 1.f);
        c = mix(c, scaled({0.33f, 0.31f, 0.27f}, 1 + 0.3f * tileNoise(u, v, 40, 3, 117)), 0.8f * bare);
        r = 0.97f;
    });
    tex.shadeHollows(0.8f, 5);
    tex.evenLight(0.9f, 36);
    return tex;
}

// Broken stone that slid off a face: angular pieces of all sizes.
Texture scree() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float n = tileNoise(u, v, 40, 4, 121);
        c = scaled({0.34f, 0.31f, 0.27f}, 1 + 0.4f * n);
        h = 0.06f * n;
        r = 0.96f;
    });
    Dice dice(123);
    for (int i = 0; i < 2600; ++i) {
        const float share = static_cast<float>(i) / 2600, big = std::pow(dice.unit(), 2.6f);
        Texture::Stone s;
        s.x = dice.unit() * kSize;
        s.y = dice.unit() * kSize;
        s.radius = 3.5f + 23 * big;
        s.stretch = dice.between(1, 1.9f);
        s.turn = dice.between(0, 3.14f);
        s.foot = 0.02f + 0.3f * share;
        s.rise = 0.08f + 0.009f * s.radius;
        s.colour = scaled(mix({0.53f, 0.51f, 0.47f}, {0.66f, 0.60f, 0.50f}, dice.unit()), dice.between(0.72f, 1.08f));
        s.rough = dice.between(0.82f, 0.95f);
        s.uneven = 1;
        tex.draw(s);
    }
    tex.shadeHollows(1.7f, 6);
    tex.evenLight(0.9f, 36);
    return tex;
}

// Short turf full of clover, some of it in flower.
Texture clover() {
    Texture tex = turf(
        {{0.14f, 0.14f, 0.07f}, {0.18f, 0.25f, 0.09f}, {0.35f, 0.42f, 0.18f}, {0.5f, 0.5f, 0.3f}, 0.05f, 6000, 15},
        131);
    Dice dice(133);
    for (int i = 0; i < 2300; ++i) {
        const float x = dice.unit() * kSize, y = dice.unit() * kSize, turn = dice.between(0, 6.28f),
                    radius = dice.between(3.4f, 5.4f), foot = dice.between(0.5f, 0.85f);
        const Colour leaf = scaled(mix({0.25f, 0.36f, 0.13f}, {0.41f, 0.50f, 0.22f}, dice.unit()),
                                   0.7f + 0.5f * (foot - 0.5f));
        for (int k = 0; k < 3; ++k) {
            const float a = turn + 2.0944f * static_cast<float>(k);
            tex.draw(Texture::Stone{x + std::cos(a) * radius * 0.9f, y + std::sin(a) * radius * 0.9f, radius, 1.05f, a,
                                    foot, 0.05f, leaf, 0.9f, 0.2f});
        }
    }
    for (int i = 0; i < 150; ++i) {  // flower heads
        const float x = dice.unit() * kSize, y = dice.unit() * kSize;
        const Colour petal = mix({0.83f, 0.80f, 0.74f}, {0.74f, 0.52f, 0.60f}, dice.unit() * dice.unit());
        for (int k = 0; k < 9; ++k)
            tex.draw(Texture::Stone{x + dice.between(-3.2f, 3.2f), y + dice.between(-3.2f, 3.2f), 2.1f, 1.2f,
                                    dice.between(0, 3), 0.95f, 0.08f, scaled(petal, dice.between(0.8f, 1.05f)), 0.9f,
                                    0.3f});
    }
    tex.shadeHollows(0.8f, 5);
    tex.evenLight(0.9f, 36);
    return tex;
}

// River cobbles set close in sand, for yards.
Texture cobbles() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float wu = u + 0.008f * tileNoise(u, v, 10, 2, 141), wv = v + 0.008f * tileNoise(u, v, 10, 2, 142);
        const Cell stone = cellAt(wu, wv, 14, 143);
        const float edge = std::min(std::max((stone.second - stone.nearest) * 3.4f - 0.16f, 0.f), 1.f),
                    dome = std::sqrt(edge);
        const float n = tileNoise(u, v, 48, 4, 144),
                    speck = hashUnit(static_cast<int>(u * kSize), static_cast<int>(v * kSize), 145);
        h = 0.75f * dome + 0.05f * n + 0.1f * stone.random * dome;
        const Colour grey = mix({0.40f, 0.385f, 0.37f}, {0.60f, 0.555f, 0.49f}, stone.random);
        c = mix(scaled({0.37f, 0.32f, 0.25f}, 1 + 0.4f * n),
                scaled(grey, (0.78f + 0.24f * dome) * (1 + 0.10f * n + 0.05f * (speck - 0.5f))),
                std::min(edge * 3, 1.f));
        r = edge > 0.05f ? 0.62f + 0.15f * n : 0.96f;
    });
    tex.shadeHollows(0.7f, 5);
    tex.evenLight(0.8f, 40);
    return tex;
}

// Straw laid between the berry rows.
Texture strawMulch() {
    Texture tex;
    tex.eachSample([](float u, float v, Colour& c, float& h, float& r) {
        const float n = tileNoise(u, v, 16, 5, 151);
        c = scaled({0.27f, 0.19f, 0.12f}, 1 + 0.4f * n);
        h = 0.05f * n;
        r = 0.95f;
    });
    Dice dice(153);
    for (int i = 0; i < 5200; ++i) {
        const float share = static_cast<float>(i) / 5200;
        const Colour straw = scaled(mix({0.62f, 0.50f, 0.27f}, {0.84f, 0.74f, 0.48f}, dice.unit()),
                                    (0.5f + 0.5f * share) * dice.between(0.85f, 1.1f));
        // Mostly along the rows.
        const float turn = dice.unit() < 0.62f ? dice.between(-0.45f, 0.45f) : dice.between(0, 6.28f);
        tex.draw(Texture::Blade{dice.unit() * kSize, dice.unit() * kSize, turn, dice.between(-0.25f, 0.25f),
                                dice.between(26, 70), dice.between(2, 3.2f), 0.02f + 0.6f * share, 0.05f,
                                scaled(straw, 0.86f), straw});
    }
    tex.shadeHollows(1.2f, 5);
    tex.evenLight(0.9f, 36);
    return tex;
}

constexpr float kFarTimes = 5, kFarFrom = 26;

struct Sample {
    const char *folder, *name;
    double tileSize;
    float blend, relief;
    Tiling tiling;
    float variation, wash;  // wash: stone takes less of it than what grows
    Texture (*make)();
};

}  // namespace

Status makeSampleLayers(const std::filesystem::path& folder) {
    const Sample samples[] = {
        {"01-meadow-grass", "Meadow grass", 3.0, 0.55f, 0.035f, Tiling::broken, 0.22f, 1.0f,
         [] { return turf(kMeadow, 11); }},
        {"02-dry-grass", "Dry grass", 3.4, 0.5f, 0.035f, Tiling::broken, 0.18f, 1.0f, [] { return turf(kStraw, 19); }},
        {"03-orchard-soil", "Orchard soil", 3.2, 0.65f, 0.05f, Tiling::broken, 0.12f, 0.6f, soil},
        {"04-worn-gravel", "Worn gravel", 2.4, 0.75f, 0.035f, Tiling::broken, 0.1f, 0.25f, gravel},
        {"05-limestone", "Limestone", 7.0, 0.7f, 0.05f, Tiling::broken, 0.12f, 0.3f, rock},
        {"06-chalk", "Chalk", 6.0, 0.7f, 0.04f, Tiling::broken, 0.06f, 0.12f, chalk},
        {"07-pond-silt", "Pond silt", 4.0, 0.45f, 0.02f, Tiling::plain, 0.1f, 0.4f, silt},
        {"08-clover", "Clover", 2.2, 0.5f, 0.03f, Tiling::broken, 0.15f, 1.0f, clover},
        {"09-leaf-litter", "Leaf litter", 2.0, 0.6f, 0.03f, Tiling::broken, 0.12f, 0.7f, leafLitter},
        {"10-straw-mulch", "Straw mulch", 2.6, 0.65f, 0.03f, Tiling::broken, 0.08f, 0.5f, strawMulch},
        {"11-scree", "Scree", 4.4, 0.8f, 0.05f, Tiling::broken, 0.1f, 0.3f, scree},
        {"12-moss", "Moss", 3.0, 0.6f, 0.04f, Tiling::broken, 0.12f, 0.8f, moss},
        {"13-cobbles", "Cobbles", 2.8, 0.8f, 0.04f, Tiling::plain, 0.06f, 0.15f, cobbles},
    };
    std::filesystem::remove_all(folder);  // layers of an earlier list
    Status outcome;
    for (const Sample& s : samples) {
        Layer layer;
        layer.name = s.name;
        layer.tileSize = s.tileSize;
        layer.blend = s.blend;
        layer.look.tiling = s.tiling;
        layer.look.variation = s.variation;
        // From afar a picture shows its patches, and not a smear of what is too fine to see.
        layer.look.farTimes = kFarTimes;
        layer.look.farFrom = kFarFrom;
        layer.look.wash = s.wash;
        if (outcome = s.make().save(folder / s.folder, layer, s.relief); !outcome) return outcome;
    }
    return outcome;
}

}  // namespace jam::samples
