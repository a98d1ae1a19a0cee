// Repeatable noise: a hash of lattice points, and gradient noise over it (Perlin, "Improving Noise", 2002).
#pragma once

#include <array>
#include <cmath>
#include <cstdint>

#include "base/maths.h"

namespace jam {

// A well-mixed 32-bit hash of a lattice point (finaliser of MurmurHash3, public domain).
inline uint32_t hashPoint(int x, int z, uint32_t seed) {
    uint32_t h = seed * 0x9e3779b9u ^ static_cast<uint32_t>(x) * 0x85ebca6bu ^ static_cast<uint32_t>(z) * 0xc2b2ae35u;
    h ^= h >> 16;
    h *= 0x85ebca6bu;
    h ^= h >> 13;
    h *= 0xc2b2ae35u;
    h ^= h >> 16;
    return h;
}

// The same hash as a number in [0, 1).
inline float hashUnit(int x, int z, uint32_t seed) {
    return static_cast<float>(hashPoint(x, z, seed) >> 8) * (1.0f / 16777216.0f);
}

// 256 unit vectors, evenly round: the directions of gradient noise.
struct NoiseArrow {
    float x, z;
};
inline const std::array<NoiseArrow, 256>& noiseArrows() {
    static const std::array<NoiseArrow, 256> all = [] {
        std::array<NoiseArrow, 256> d{};
        for (int i = 0; i < 256; ++i) {
            const double angle = i * kTurn / 256;
            d[static_cast<size_t>(i)] = {static_cast<float>(std::cos(angle)), static_cast<float>(std::sin(angle))};
        }
        return d;
    }();
    return all;
}

// Gradient noise in about [-1, 1]. With period > 0 it repeats every `period` lattice cells on both axes.
inline float gradientNoise(float x, float z, uint32_t seed, int period = 0) {
    const float fx = std::floor(x), fz = std::floor(z);
    const int ix = static_cast<int>(fx), iz = static_cast<int>(fz);
    const float u = x - fx, v = z - fz;
    auto wrap = [period](int i) { return period > 0 ? ((i % period) + period) % period : i; };
    const auto& all = noiseArrows();
    auto corner = [&](int dx, int dz) {
        const NoiseArrow d = all[hashPoint(wrap(ix + dx), wrap(iz + dz), seed) >> 24];
        return d.x * (u - static_cast<float>(dx)) + d.z * (v - static_cast<float>(dz));
    };
    auto fade = [](float t) { return t * t * t * (t * (t * 6 - 15) + 10); };
    const float a = fade(u), b = fade(v);
    const float top = corner(0, 0) + a * (corner(1, 0) - corner(0, 0));
    const float bottom = corner(0, 1) + a * (corner(1, 1) - corner(0, 1));
    return 1.4142f * (top + b * (bottom - top));
}

// Sum of `octaves` of gradient noise, each twice as fine and `gain` as strong; about [-1, 1].
inline float fractalNoise(float x, float z, uint32_t seed, int octaves, float gain = 0.5f, int period = 0) {
    float sum = 0, strength = 1, total = 0;
    for (int i = 0; i < octaves; ++i) {
        sum += strength * gradientNoise(x, z, seed + static_cast<uint32_t>(i) * 101u, period);
        total += strength;
        strength *= gain;
        x *= 2;
        z *= 2;
        period *= 2;
    }
    return sum / total;
}

// out[i] = fractalNoise(x[i], z, seed, octaves), the same bits, several times as fast. Precondition: x ascends.
void fractalNoiseRow(const float* x, int n, float z, uint32_t seed, int octaves, float* out);

}  // namespace jam
