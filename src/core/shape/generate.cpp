#include "shape/generate.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/names.h"
#include "base/noise.h"
#include "base/parallel.h"
#include "base/text.h"
#include "shape/terrace.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kLandscapes> kNames = {"rolling-hills", "ridges",   "island",
                                                              "canyon",        "terraces", "crater-lakes"};

float clamp01(float v) { return std::clamp(v, 0.f, 1.f); }
float smoothStep(float low, float high, float v) {
    const float t = clamp01((v - low) / (high - low));
    return t * t * (3 - 2 * t);
}

// Fractal noise, about [0, 1], with coordinates bent by other noise so that forms wind.
float hills(float x, float z, uint32_t seed, int octaves, float gain, float bend) {
    const float bx = bend * gradientNoise(x * 0.7f + 5.2f, z * 0.7f, seed + 71),
                bz = bend * gradientNoise(x * 0.7f, z * 0.7f + 9.1f, seed + 72);
    return 0.5f + 0.85f * fractalNoise(x + bx, z + bz, seed, octaves, gain);
}

// Ridged fractal (Musgrave, in Ebert et al., "Texturing and Modeling", 2003): detail gathers on the crests. About [0,
// 1].
float ridged(float x, float z, uint32_t seed, int octaves) {
    float sum = 0, strength = 0.5f, weight = 1, total = 0;
    for (int i = 0; i < octaves; ++i) {
        float r = 1 - std::abs(gradientNoise(x, z, seed + static_cast<uint32_t>(i) * 101u)) * 1.4f;
        r = std::max(r, 0.f);
        r *= r;
        sum += strength * r * weight;
        total += strength;
        weight = clamp01(r * 1.6f);
        strength *= 0.5f;
        x *= 2.03f, z *= 2.03f;
    }
    return sum / total;
}

float craters(float x, float z, uint32_t seed) {
    // One crater in most cells of a coarse lattice; bowls below, rims above the ground round them.
    float h = 0;
    const float fx = std::floor(x), fz = std::floor(z);
    for (int dz = -1; dz <= 1; ++dz)
        for (int dx = -1; dx <= 1; ++dx) {
            const int cx = static_cast<int>(fx) + dx, cz = static_cast<int>(fz) + dz;
            if (hashUnit(cx, cz, seed + 3) < 0.25f) continue;
            const float px = static_cast<float>(cx) + 0.25f + 0.5f * hashUnit(cx, cz, seed + 4),
                        pz = static_cast<float>(cz) + 0.25f + 0.5f * hashUnit(cx, cz, seed + 5);
            const float radius = 0.2f + 0.22f * hashUnit(cx, cz, seed + 6);
            const float away = std::hypot(x - px, z - pz) / radius *
                               (1 + 0.12f * gradientNoise(x * 3, z * 3, seed + 7));
            if (away >= 1.9f) continue;
            const float bowl = away < 1 ? -0.55f * (1 - away * away) : 0.f;
            const float rim = 0.32f * std::exp(-12 * (away - 1) * (away - 1));
            h += (bowl + rim) * radius * 2.4f;
        }
    return h;
}

}  // namespace

std::string_view landscapeName(Landscape kind) { return kNames[static_cast<size_t>(kind)]; }

std::optional<Landscape> landscapeFromName(std::string_view name) { return fromName<Landscape>(kNames, name); }

Status checkLandscape(const LandscapeWish& w) {
    const auto within = [](const char* field, float v, float low, float high) -> Status {
        if (std::isfinite(v) && v >= low && v <= high) return {};
        return Error{"", field, "it is " + number(v), "use " + number(low) + " to " + number(high) + " m"};
    };
    for (const Status& s : {within("scale", w.scale, 1, 50000), within("height", w.height, 0.1f, 8000),
                            within("edge", w.edge, 0, 8000), within("edgeWidth", w.edgeWidth, 1, 5000)})
        if (!s) return s;
    return {};
}

float landscapeAt(const LandscapeWish& w, double worldX, double worldZ, double u, double v, double width,
                  double depth) {
    const auto x = static_cast<float>(worldX / w.scale), z = static_cast<float>(worldZ / w.scale);
    const uint32_t seed = w.seed * 2654435761u;
    float h = 0;
    switch (w.kind) {
        case Landscape::rollingHills: h = hills(x, z, seed, 6, 0.36f, 0.35f); break;
        case Landscape::ridges: {
            const float broad = hills(x * 0.6f, z * 0.6f, seed + 9, 3, 0.5f, 0.3f);
            h = 0.25f * broad + 0.85f * broad * ridged(x, z, seed, 8) + 0.12f * ridged(x, z, seed, 6);
            break;
        }
        case Landscape::island: {
            const auto fromMiddle = static_cast<float>(2 * std::hypot(u - 0.5, v - 0.5));
            const float coast = fromMiddle + 0.22f * fractalNoise(x * 1.3f, z * 1.3f, seed + 2, 4);
            const float land = 1 - smoothStep(0.25f, 0.95f, coast);
            h = land * (0.45f + 0.3f * hills(x, z, seed, 6, 0.45f, 0.4f) +
                        0.35f * land * ridged(x * 1.2f, z * 1.2f, seed + 5, 6)) +
                0.04f * fractalNoise(x * 2, z * 2, seed + 8, 3);
            break;
        }
        case Landscape::canyon: {
            // A table land cut where a winding noise passes through nothing; walls step down in beds of rock.
            const float bx = 0.45f * gradientNoise(x * 0.8f, z * 0.8f, seed + 31),
                        bz = 0.45f * gradientNoise(x * 0.8f + 3, z * 0.8f, seed + 32);
            const float course = std::abs(fractalNoise(x * 0.55f + bx, z * 0.55f + bz, seed, 3, 0.35f));
            const float side = smoothStep(0.03f, 0.3f, course + 0.02f * fractalNoise(x * 6, z * 6, seed + 33, 3));
            const float wall = terraced(side, {0.2f, 0.45f}) * 0.7f + side * 0.3f;
            h = 0.08f + wall * (0.74f + 0.18f * hills(x * 1.5f, z * 1.5f, seed + 34, 5, 0.45f, 0.2f));
            break;
        }
        case Landscape::terraces: {
            const float ground = hills(x, z, seed, 4, 0.3f, 0.5f);
            h = 0.9f * terraced(ground, {0.09f, 0.4f}) + 0.1f * ground;
            break;
        }
        case Landscape::craterLakes:
            h = 0.35f + 0.3f * hills(x * 0.8f, z * 0.8f, seed, 5, 0.4f, 0.3f) + craters(x * 0.9f, z * 0.9f, seed) +
                0.03f * fractalNoise(x * 6, z * 6, seed + 41, 4);
            break;
    }
    h = std::clamp(h, 0.f, 1.15f) * w.height;
    if (w.edge > 0) {
        const double in = std::min(std::min(u, 1 - u) * width, std::min(v, 1 - v) * depth);
        const float wide = w.edgeWidth *
                           (1 + 0.35f * gradientNoise(static_cast<float>(worldX / w.edgeWidth),
                                                      static_cast<float>(worldZ / w.edgeWidth), seed + 51));
        const float rise = 1 - smoothStep(0.1f, 1, static_cast<float>(in) / wide);
        const auto ex = static_cast<float>(worldX / w.edgeWidth), ez = static_cast<float>(worldZ / w.edgeWidth);
        h += w.edge * rise * (0.55f + 0.6f * ridged(ex * 0.8f, ez * 0.8f, seed + 52, 6));
    }
    return h;
}

bool generateLandscape(const LandscapeWish& wish, const Level& level, Raster<float>& out, const Context& context) {
    out.reshape(level.columns, level.rows);
    // Bands, so that progress and cancel are looked at often.
    constexpr int kBand = 64;
    for (int z0 = 0; z0 < level.rows; z0 += kBand) {
        if (context.cancelled()) return false;
        context.report(static_cast<double>(z0) / level.rows);
        parallelFor(std::min(kBand, level.rows - z0), 4, [&](int first, int end) {
            for (int z = z0 + first; z < z0 + end; ++z)
                for (int x = 0; x < level.columns; ++x)
                    out.at(x, z) = landscapeAt(wish, level.originX + x * level.spacing,
                                               level.originZ + z * level.spacing,
                                               static_cast<double>(x) / (level.columns - 1),
                                               static_cast<double>(z) / (level.rows - 1), level.width(), level.depth());
        });
    }
    return true;
}

}  // namespace jam
