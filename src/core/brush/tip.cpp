#include "brush/tip.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/names.h"

namespace jam {

namespace {
constexpr std::array<std::string_view, kTipShapes> kNames = {"round", "square", "picture"};
}

std::string_view tipShapeName(TipShape shape) { return kNames[static_cast<size_t>(shape)]; }

std::optional<TipShape> tipShapeFromName(std::string_view name) { return fromName<TipShape>(kNames, name); }

bool Tip::operator==(const Tip& o) const {
    const bool samePicture = picture == o.picture || (picture && o.picture && *picture == *o.picture);
    return shape == o.shape && samePicture && turn == o.turn && randomTurn == o.randomTurn && follow == o.follow &&
           scatter == o.scatter;
}

float TipPicture::at(float u, float v) const {
    const float x = (u + 1) * 0.5f * static_cast<float>(size - 1), y = (v + 1) * 0.5f * static_cast<float>(size - 1);
    if (!(x >= 0 && y >= 0 && x <= static_cast<float>(size - 1) && y <= static_cast<float>(size - 1))) return 0;
    const int c = std::min(static_cast<int>(x), size - 2), r = std::min(static_cast<int>(y), size - 2);
    const float fx = x - static_cast<float>(c), fy = y - static_cast<float>(r);
    const float* p = values.data() + static_cast<size_t>(r) * static_cast<size_t>(size) + c;
    const float top = p[0] + fx * (p[1] - p[0]), bottom = p[size] + fx * (p[size + 1] - p[size]);
    return top + fy * (bottom - top);
}

float squareShare(float u, float v) {
    // Concentric outlines: each is the unit outline shrunk, so the share is homogeneous in (u, v). The unit outline is
    // flat up to 1 - corner and a circle of radius `corner` beyond it.
    const float a = std::max(std::abs(u), std::abs(v)), b = std::min(std::abs(u), std::abs(v));
    constexpr float k = 1 - kSquareCorner;
    if (b <= a * k) return a;
    // (a/s - k)^2 + (b/s - k)^2 = corner^2, solved for the outer s without cancellation.
    const float qa = 2 * k * k - kSquareCorner * kSquareCorner, qb = -2 * k * (a + b), qc = a * a + b * b;
    return 2 * qc / (-qb + std::sqrt(std::max(qb * qb - 4 * qa * qc, 0.f)));
}

}  // namespace jam
