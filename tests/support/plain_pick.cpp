#include "plain_pick.h"

#include <algorithm>
#include <cmath>
#include <glm/geometric.hpp>

#include "level/ground.h"
#include "level/opening.h"

namespace jam::test {

namespace {

constexpr double kNone = std::numeric_limits<double>::infinity();

// Where a ray meets a triangle's plane, when that lies on the triangle as it is seen from above: those of the ground
// never stand upright.
double meet(const Ray& ray, const glm::dvec3& a, const glm::dvec3& b, const glm::dvec3& c) {
    const glm::dvec3 normal = glm::cross(b - a, c - a);
    const double along = glm::dot(normal, ray.along);
    if (along == 0) return kNone;
    const double s = glm::dot(normal, a - ray.from) / along;
    if (s < 0) return kNone;
    const double x = ray.from.x + s * ray.along.x, z = ray.from.z + s * ray.along.z;
    const auto side = [&](const glm::dvec3& p, const glm::dvec3& q) {
        return (q.x - p.x) * (z - p.z) - (q.z - p.z) * (x - p.x);
    };
    const double whole = (b.x - a.x) * (c.z - a.z) - (b.z - a.z) * (c.x - a.x);
    constexpr double kHair = 1e-9;
    for (const double part : {side(a, b), side(b, c), side(c, a)})
        if (part / whole < -kHair) return kNone;
    return s;
}

double meetCell(const Level& level, const Ray& ray, int c, int r, Meet what) {
    const auto corner = [&](int dc, int dr) { return glm::dvec3(c + dc, groundSample(level, c + dc, r + dr), r + dr); };
    double best = kNone;
    for (const auto& third : {corner(1, 0), corner(0, 1)}) {
        const double s = meet(ray, corner(0, 0), third, corner(1, 1));
        if (s == kNone) continue;
        const double x = std::clamp<double>(ray.from.x + s * ray.along.x, c, c + 1),
                     z = std::clamp<double>(ray.from.z + s * ray.along.z, r, r + 1);
        if (what == Meet::surface || gapBetween(level, x, z) < kGapEdge) best = std::min(best, s);
    }
    return best;
}

}  // namespace

std::optional<glm::dvec3> pickPlainly(const Level& level, const Ray& ray, double reach, Meet what) {
    const Ray r{{level.toColumn(ray.from.x), ray.from.y, level.toRow(ray.from.z)},
                {ray.along.x / level.spacing, ray.along.y, ray.along.z / level.spacing}};
    const double far[] = {level.columns - 1.0, level.rows - 1.0};
    double enter = 0, leave = reach;
    for (const int axis : {0, 1}) {
        const double from = axis ? r.from.z : r.from.x, along = axis ? r.along.z : r.along.x;
        if (along == 0 && (from < 0 || from > far[axis])) return std::nullopt;
        if (along == 0) continue;
        const auto [near, end] = std::minmax({-from / along, (far[axis] - from) / along});
        enter = std::max(enter, near), leave = std::min(leave, end);
    }
    if (enter > leave) return std::nullopt;
    // From cell to cell along the ray, each with those around it.
    double best = kNone;
    const double step = 0.4 / std::max({std::abs(r.along.x), std::abs(r.along.z), 1e-12});
    for (double s = enter;; s += step) {
        const double here = std::min(s, leave);
        const int c = static_cast<int>(std::floor(r.from.x + here * r.along.x)),
                  w = static_cast<int>(std::floor(r.from.z + here * r.along.z));
        for (int dw = -1; dw <= 1; ++dw)
            for (int dc = -1; dc <= 1; ++dc)
                if (c + dc >= 0 && w + dw >= 0 && c + dc < level.columns - 1 && w + dw < level.rows - 1)
                    best = std::min(best, meetCell(level, r, c + dc, w + dw, what));
        if (best <= s || here >= leave) break;
    }
    return best <= reach ? std::optional(ray.from + best * ray.along) : std::nullopt;
}

}  // namespace jam::test
