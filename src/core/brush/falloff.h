// How a brush fades from its crown to its edge.
#pragma once

#include <optional>
#include <string_view>

namespace jam {

enum class Curve { smooth, straight, dome, bell, point, bent };
constexpr int kCurves = 6;

// Plain names used on the screen and in files: "smooth", "straight", "dome", "bell", "point", "bent".
std::string_view curveName(Curve curve);
std::optional<Curve> curveFromName(std::string_view name);

// The curve that a designer bends: strength at a third and at two thirds of the way, 1 >= third >= twoThirds >= 0.
// Between (0, 1), these two and (1, 0) runs the monotone cubic of Fritsch and Butland (1984).
struct Bend {
    float third = 0.8f, twoThirds = 0.3f;

    bool operator==(const Bend&) const = default;
};

// The three cubics of a bent curve over thirds of the way: a + s (b + s (c + s d)), s in [0, 1] within each.
struct BentCurve {
    explicit BentCurve(const Bend& bend);
    float a[3], b[3], c[3], d[3];

    // t in [0, 1]; written without branches for the row kernels.
    [[gnu::always_inline]] float at(float t) const {
        const bool second = t >= 1.0f / 3, last = t >= 2.0f / 3;
        const float s = 3 * t - (last ? 2.0f : second ? 1.0f : 0.0f);
        const auto pick = [second, last](const float* v) { return last ? v[2] : second ? v[1] : v[0]; };
        return pick(a) + s * (pick(b) + s * (pick(c) + s * pick(d)));
    }
};

// Full strength inside the shoulder, then the curve down to nothing at the radius.
struct Falloff {
    Curve curve = Curve::smooth;
    float softness = 1;  // share of the radius that fades, [0, 1]; 0 is a hard edge, 1 fades from the centre
    Bend bend = {};      // of Curve::bent

    // Strength in [0, 1] at `share` of the radius (0 centre, 1 edge and beyond gives 0).
    float at(float share) const;

    bool operator==(const Falloff&) const = default;
};

// The curve itself: from 1 at t = 0 to 0 at t = 1. Smooth, dome and bell are polynomials in t squared, so that a
// brush that fades from its centre needs no square root; smooth is the quartic kernel of density estimation
// (Silverman 1986). Written without branches, so that the row kernels run it several samples at a time; everybody
// else calls the same code.
constexpr bool needsRoot(Curve curve) {
    return curve == Curve::straight || curve == Curve::point || curve == Curve::bent;
}
constexpr bool fadesWithoutRoot(const Falloff& f) { return f.softness == 1 && !needsRoot(f.curve); }
constexpr float curveOfRest(Curve curve, float q) {  // q = 1 - t * t
    return curve == Curve::dome ? q : curve == Curve::bell ? q * q * q : q * q;
}
constexpr float curveAt(Curve curve, float t) {
    const float u = 1 - t;
    return curve == Curve::straight ? u : curve == Curve::point ? u * u : curveOfRest(curve, 1 - t * t);
}

}  // namespace jam
