// What recipes build with.
#pragma once

#include <array>
#include <cmath>

#include "base/maths.h"
#include "base/noise.h"
#include "level/mesh.h"

namespace jam::grow {

using Vec = std::array<float, 3>;
using Colour = std::array<float, 3>;  // sRGB, [0, 1]

inline Vec operator+(const Vec& a, const Vec& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2]}; }
inline Vec operator-(const Vec& a, const Vec& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
inline Vec operator*(const Vec& a, float s) { return {a[0] * s, a[1] * s, a[2] * s}; }
inline float dot(const Vec& a, const Vec& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
inline Vec cross(const Vec& a, const Vec& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}
inline Vec unit(const Vec& a) {
    const float l = std::sqrt(dot(a, a));
    return l > 1e-9f ? a * (1 / l) : Vec{0, 1, 0};
}

// Numbers in [0, 1) in an order that a seed gives.
class Chance {
public:
    explicit Chance(uint32_t seed) : seed_(seed) {}
    float next() { return hashUnit(++count_, 5, seed_); }
    float between(float low, float high) { return low + next() * (high - low); }
    // A direction, evenly over the sphere.
    Vec direction() {
        const float y = 2 * next() - 1, a = static_cast<float>(kTurn) * next(), r = std::sqrt(std::max(1 - y * y, 0.f));
        return {r * std::cos(a), y, r * std::sin(a)};
    }

private:
    uint32_t seed_;
    int count_ = 0;
};

class Builder {
public:
    Mesh mesh;

    uint32_t add(const Vec& at, const Vec& normal, const Colour& colour, float open = 1);
    void triangle(uint32_t a, uint32_t b, uint32_t c);
    // Four corners in order, flat, or with normals that point away from `centre` when it is given.
    void quad(const Vec& a, const Vec& b, const Vec& c, const Vec& d, const Colour& colour, float open = 1);
    void quadRound(const Vec& a, const Vec& b, const Vec& c, const Vec& d, const Vec& centre, const Colour& colour,
                   float open);
    // A tube from one place to another, wide at each end; open below, closed above when it ends wider than nothing.
    void tube(const Vec& from, const Vec& to, float wideFrom, float wideTo, int sides, const Colour& colour);
    // A box between two corners, turned about the upright.
    void box(const Vec& low, const Vec& high, const Colour& colour, const Colour& top);
    // A ball of so many rings, squashed and made rough by noise.
    void boulder(const Vec& middle, const Vec& half, int rings, float rough, uint32_t seed, const Colour& colour,
                 const Colour& top);
};

Colour shaded(const Colour& c, float by);

}  // namespace jam::grow
