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

// 256 vectors, evenly round: the slopes of gradient noise, so steep that it fills about [-1, 1].
struct NoiseArrow {
    float x, z;
};
inline const std::array<NoiseArrow, 256>& noiseArrows() {
    static const std::array<NoiseArrow, 256> all = [] {
        std::array<NoiseArrow, 256> d{};
        for (int i = 0; i < 256; ++i) {
            const double angle = i * kTurn / 256, steep = std::sqrt(2.0);
            d[static_cast<size_t>(i)] = {static_cast<float>(steep * std::cos(angle)),
                                         static_cast<float>(steep * std::sin(angle))};
        }
        return d;
    }();
    return all;
}

// The way in from the left or right side of a lattice cell: what its two corners there give at v below the upper one,
// with b the share of the lower one. At u to the right of the side that is slope * u + rise.
struct NoiseSide {
    float slope, rise;
};
inline NoiseSide noiseSide(const NoiseArrow& upper, const NoiseArrow& lower, float v, float b) {
    const float above = upper.z * v, below = lower.z * (v - 1);
    return {upper.x + b * (lower.x - upper.x), above + b * (below - above)};
}
// How the corners of a cell take turns across it.
inline float noiseFade(float t) { return t * t * t * (t * (t * 6 - 15) + 10); }

// Gradient noise in about [-1, 1]. With period > 0 it repeats every `period` lattice cells on both axes.
inline float gradientNoise(float x, float z, uint32_t seed, int period = 0) {
    const float fx = std::floor(x), fz = std::floor(z);
    const int ix = static_cast<int>(fx), iz = static_cast<int>(fz);
    const float u = x - fx, v = z - fz, b = noiseFade(v);
    auto wrap = [period](int i) { return period > 0 ? ((i % period) + period) % period : i; };
    const auto& all = noiseArrows();
    auto along = [&](int dx) {
        const auto corner = [&](int dz) { return all[hashPoint(wrap(ix + dx), wrap(iz + dz), seed) >> 24]; };
        const NoiseSide side = noiseSide(corner(0), corner(1), v, b);
        return side.slope * (u - static_cast<float>(dx)) + side.rise;
    };
    const float left = along(0), right = along(1);
    return left + noiseFade(u) * (right - left);
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
    return sum * (1 / total);
}

}  // namespace jam
