#include "view/brush_mark.h"

#include <cmath>

#include "level/ground.h"
#include "survey/slope.h"

namespace jam {

namespace {

// Share of the radius where the falloff is a half.
double halfShare(const Falloff& f) {
    double low = 0, high = 1;
    for (int i = 0; i < 20; ++i) {
        const double middle = (low + high) / 2;
        (f.at(static_cast<float>(middle)) > 0.5f ? low : high) = middle;
    }
    return low;
}

class Tracer {
public:
    Tracer(const Level& level, const Camera& camera) : level_(level), camera_(camera) {}

    std::optional<glm::dvec2> pixel(double x, double z) const {
        if (!level_.holds(x, z)) return std::nullopt;
        return camera_.pixel({x, altitudeAt(level_, x, z) + 0.02, z});
    }
    QPainterPath ring(const glm::dvec3& at, double radius) const {
        QPainterPath path;
        bool down = false;
        constexpr int kSteps = 72;
        for (int i = 0; i <= kSteps; ++i) {
            const double a = i * 6.283185307179586 / kSteps;
            down = go(path, at.x + radius * std::cos(a), at.z + radius * std::sin(a), down);
        }
        return path;
    }
    bool go(QPainterPath& path, double x, double z, bool down) const {
        const auto p = pixel(x, z);
        if (!p || std::abs(p->x) > 20000 || std::abs(p->y) > 20000) return false;
        if (down) path.lineTo(p->x, p->y); else path.moveTo(p->x, p->y);
        return true;
    }

private:
    const Level& level_;
    const Camera& camera_;
};

}  // namespace

BrushMark markOf(const Level& level, const Camera& camera, const glm::dvec3& at, float radius, const Falloff& falloff) {
    const Tracer trace(level, camera);
    BrushMark mark;
    mark.edge = trace.ring(at, radius);
    mark.half = trace.ring(at, radius * std::max(halfShare(falloff), 0.02));
    // Ticks point downhill where the edge crosses the fall line, longer where it is steeper.
    const Gradient g = gradientAt(level, at.x, at.z);
    const double steep = std::hypot(g.east, g.south);
    if (steep > 0.02) {
        const double dx = -g.east / steep, dz = -g.south / steep;
        for (const double from : {-1.0, -0.5, 0.0, 0.5, 1.0}) {
            const double length = radius * std::min(0.08 + 0.16 * steep, 0.3);
            const double x = at.x + dx * radius * from, z = at.z + dz * radius * from;
            if (trace.go(mark.ticks, x - dx * length / 2, z - dz * length / 2, false)) trace.go(mark.ticks, x + dx * length / 2, z + dz * length / 2, true);
        }
    }
    return mark;
}

}  // namespace jam
