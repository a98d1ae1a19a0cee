#include "brush/falloff.h"

#include <algorithm>
#include <array>

namespace jam {

namespace {
constexpr std::array<std::string_view, kCurves> kNames = {"smooth", "straight", "dome", "bell", "point"};
}

std::string_view curveName(Curve curve) { return kNames[static_cast<size_t>(curve)]; }

std::optional<Curve> curveFromName(std::string_view name) {
    const auto at = std::find(kNames.begin(), kNames.end(), name);
    if (at == kNames.end()) return std::nullopt;
    return static_cast<Curve>(at - kNames.begin());
}

float Falloff::at(float share) const {
    if (share >= 1) return 0;
    const float shoulder = 1 - softness;
    if (share <= shoulder) return 1;
    return curveAt(curve, (share - shoulder) / softness);
}

}  // namespace jam
