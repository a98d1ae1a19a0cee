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

constexpr Turf kMeadow{{0.14f, 0.13f, 0.08f}, {0.17f, 0.24f, 0.10f}, {0.37f, 0.44f, 0.21f}, {0.60f, 0.56f, 0.35f}, 0.14f, 15000, 21};
constexpr Turf kStraw{{0.30f, 0.24f, 0.15f}, {0.42f, 0.37f, 0.20f}, {0.69f, 0.60f, 0.37f}, {0.78f, 0.70f, 0.47f}, 0.45f, 13000, 25};

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
    const Colour tones[] = {{0.63f, 0.57f, 0.49f}, {0.55f, 0.51f, 0.46f}, {0.70f, 0.64f, 0.55f}, {0.49f, 0.46f, 0.44f}, {0.66f, 0.56f, 0.43f}};
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
        tex.draw(Texture::Blade{dice.unit() * kSize, dice.unit() * kSize, dice.between(0, 6.28f), dice.between(-0.8f, 0.8f),
                                dice.between(8, 26), 1.8f, 0.34f, 0.04f, scaled(straw, 0.8f), straw});
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
        const float crack = std::min((big.second - big.nearest) * 6, 1.f), chip = std::min((small.second - small.nearest) * 4, 1.f);
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
        tex.draw(Texture::Stone{dice.unit() * kSize, dice.unit() * kSize, radius, dice.between(1, 1.8f), dice.between(0, 3.14f), 0.85f, 0.02f * radius,
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
        tex.draw(Texture::Stone{dice.unit() * kSize, dice.unit() * kSize, radius, dice.between(1, 1.5f), dice.between(0, 3.14f), 0.05f, 0.03f * radius,
                                mix({0.34f, 0.31f, 0.28f}, {0.66f, 0.60f, 0.50f}, dice.unit()), 0.7f, 0.4f});
    }
    tex.shadeHollows(0.8f, 5);
    tex.evenLight(0.9f, 36);
    return tex;
}

}  // namespace

Status makeSampleLayers(const std::filesystem::path& folder) {
    struct Sample {
        const char *folder, *name;
        double tileSize, blend;
        float relief;
        Texture (*make)();
    };
    const Sample samples[] = {
        {"1-meadow-grass", "Meadow grass", 3.0, 0.55, 0.035f, [] { return turf(kMeadow, 11); }},
        {"2-dry-grass", "Dry grass", 3.4, 0.5, 0.035f, [] { return turf(kStraw, 19); }},
        {"3-orchard-soil", "Orchard soil", 3.2, 0.65, 0.05f, soil},
        {"4-worn-gravel", "Worn gravel", 2.4, 0.75, 0.035f, gravel},
        {"5-limestone", "Limestone", 7.0, 0.7, 0.05f, rock},
        {"6-chalk", "Chalk", 6.0, 0.7, 0.04f, chalk},
        {"7-pond-silt", "Pond silt", 4.0, 0.45, 0.02f, silt},
    };
    Status outcome;
    for (const Sample& s : samples)
        if (outcome = s.make().save(folder / s.folder, s.name, s.tileSize, s.blend, s.relief); !outcome) return outcome;
    return outcome;
}

}  // namespace jam::samples
