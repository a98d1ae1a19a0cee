// How a brush fades from its crown to its edge.
#pragma once

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

// The curve itself: from 1 at t = 0 to 0 at t = 1. Smooth, dome and bell are polynomials in t squared, so that a
// brush that fades from its centre needs no square root; smooth is the quartic kernel of density estimation
// (Silverman 1986). Written without branches, so that the row kernels run it several samples at a time; everybody
// else calls the same code.
constexpr bool needsRoot(Curve curve) { return curve == Curve::straight || curve == Curve::point; }
constexpr float curveOfSquare(Curve curve, float t2) {
    const float q = 1 - t2;
    return curve == Curve::dome ? q : curve == Curve::bell ? q * q * q : q * q;
}
constexpr float curveAt(Curve curve, float t) {
    const float u = 1 - t;
    return curve == Curve::straight ? u : curve == Curve::point ? u * u : curveOfSquare(curve, t * t);
}

}  // namespace jam
