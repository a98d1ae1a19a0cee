#include "brush/falloff.h"

#include <algorithm>
#include <array>

#include "base/names.h"

namespace jam {

namespace {
constexpr std::array<std::string_view, kCurves> kNames = {"smooth", "straight", "dome", "bell", "point", "bent"};
}

std::string_view curveName(Curve curve) { return kNames[static_cast<size_t>(curve)]; }

std::optional<Curve> curveFromName(std::string_view name) { return fromName<Curve>(kNames, name); }

BentCurve::BentCurve(const Bend& bend) {
    const float y[4] = {1, bend.third, bend.twoThirds, 0};
    const float step[3] = {y[1] - y[0], y[2] - y[1], y[3] - y[2]};
    // Slopes at the inner knots are harmonic means of their neighbours', so the curve never overshoots; level at both
    // ends.
    float slope[4] = {0, 0, 0, 0};
    for (int i = 1; i < 3; ++i) {
        const float l = step[i - 1], r = step[i];
        slope[i] = l * r > 0 ? 2 * l * r / (l + r) : 0;
    }
    for (int i = 0; i < 3; ++i) {
        a[i] = y[i];
        b[i] = slope[i];
        c[i] = 3 * step[i] - 2 * slope[i] - slope[i + 1];
        d[i] = slope[i] + slope[i + 1] - 2 * step[i];
    }
}

float Falloff::at(float share) const {
    if (share >= 1) return 0;
    const float shoulder = 1 - softness;
    if (share <= shoulder) return 1;
    const float t = (share - shoulder) / softness;
    return curve == Curve::bent ? BentCurve(bend).at(t) : curveAt(curve, t);
}

}  // namespace jam
