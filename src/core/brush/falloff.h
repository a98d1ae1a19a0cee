// How a brush fades from its crown to its edge.
#pragma once

#include <cmath>
#include <optional>
#include <string_view>

namespace jam {

enum class Curve { smooth, straight, dome, bell, point };
constexpr int kCurves = 5;

// Plain names used on the screen and in files: "smooth", "straight", "dome", "bell", "point".
std::string_view curveName(Curve curve);
std::optional<Curve> curveFromName(std::string_view name);

// Full strength inside the shoulder, then the curve down to nothing at the radius.
struct Falloff {
    Curve curve = Curve::smooth;
    float softness = 1;  // share of the radius that fades, [0, 1]; 0 is a hard edge, 1 fades from the centre

    // Strength in [0, 1] at `share` of the radius (0 centre, 1 edge and beyond gives 0).
    float at(float share) const;

    bool operator==(const Falloff&) const = default;
};

// The curve itself: from 1 at t = 0 to 0 at t = 1. Written without branches, so that the row kernels can run
// it several samples at a time; everybody else calls the same code.
inline float curveAt(Curve curve, float t) {
    const float u = 1 - t;
    switch (curve) {
        case Curve::smooth: return u * u * (3 - 2 * u);
        case Curve::straight: return u;
        case Curve::dome: return std::sqrt(u * (1 + t));
        case Curve::bell: { const float q = 1 - t * t; return q * q * q; }
        case Curve::point: return u * u;
    }
    return 0;
}

}  // namespace jam
