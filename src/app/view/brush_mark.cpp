#include "view/brush_mark.h"

#include <cmath>

#include "base/maths.h"
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
            const double a = i * kTurn / kSteps;
            down = go(path, at.x + radius * std::cos(a), at.z + radius * std::sin(a), down);
        }
        return path;
    }
    // The rounded outline of a square tip.
    QPainterPath square(const glm::dvec3& at, double radius, double turn) const {
        QPainterPath path;
        bool down = false;
        const double t = turn * kRadians;
        constexpr int kSteps = 96;
        for (int i = 0; i <= kSteps; ++i) {
            const double a = i * kTurn / kSteps;
            const double r = radius / squareShare(static_cast<float>(std::cos(a)), static_cast<float>(std::sin(a)));
            down = go(path, at.x + r * std::cos(a + t), at.z + r * std::sin(a + t), down);
        }
        return path;
    }
    bool go(QPainterPath& path, double x, double z, bool down) const {
        const auto p = pixel(x, z);
        if (!p || std::abs(p->x) > 20000 || std::abs(p->y) > 20000) return false;
        if (down) path.lineTo(p->x, p->y);
        else path.moveTo(p->x, p->y);
        return true;
    }

private:
    const Level& level_;
    const Camera& camera_;
};

}  // namespace

BrushMark markOf(const Level& level, const Camera& camera, const glm::dvec3& at, const StrokeSettings& s) {
    const Tracer trace(level, camera);
    BrushMark mark;
    const bool square = s.tip.shape == TipShape::square;
    const auto outline = [&](const glm::dvec3& centre, double radius, double turn) {
        return square ? trace.square(centre, radius, turn) : trace.ring(centre, radius);
    };
    mark.edge = outline(at, s.radius, s.tip.turn);
    mark.half = outline(at, s.radius * std::max(halfShare(s.falloff), 0.02), s.tip.turn);
    for (const MirrorImage& r : mirrorImages(level, s.mirror)) {
        if (r.image.identity() && r.turn == 0) continue;
        double x = at.x, z = at.z;
        r.move(level, x, z);
        const bool flips = r.image.xx * r.image.zz - r.image.xz * r.image.zx < 0;
        mark.images.addPath(outline({x, 0, z}, s.radius, (flips ? -s.tip.turn : s.tip.turn) + r.turn));
    }
    // Ticks point downhill where the edge crosses the fall line, longer where it is steeper.
    const Gradient g = gradientAt(level, at.x, at.z);
    const double steep = std::hypot(g.east, g.south);
    if (steep > 0.02) {
        const double dx = -g.east / steep, dz = -g.south / steep;
        for (const double from : {-1.0, -0.5, 0.0, 0.5, 1.0}) {
            const double length = s.radius * std::min(0.08 + 0.16 * steep, 0.3);
            const double x = at.x + dx * s.radius * from, z = at.z + dz * s.radius * from;
            if (trace.go(mark.ticks, x - dx * length / 2, z - dz * length / 2, false))
                trace.go(mark.ticks, x + dx * length / 2, z + dz * length / 2, true);
        }
    }
    // A picture shows which way is up in it.
    if (s.tip.shape == TipShape::picture) {
        const double a = s.tip.turn * kRadians, x = std::sin(a), z = -std::cos(a);
        if (trace.go(mark.ticks, at.x + 0.75 * s.radius * x, at.z + 0.75 * s.radius * z, false))
            trace.go(mark.ticks, at.x + s.radius * x, at.z + s.radius * z, true);
    }
    return mark;
}

QPainterPath mirrorLines(const Level& level, const Camera& camera, const Mirror& mirror) {
    const Tracer trace(level, camera);
    QPainterPath path;
    if (mirror.kind == MirrorKind::none) return path;
    const MirrorImage own = mirrorImages(level, mirror).front();
    const double reach = std::hypot(level.width(), level.depth());
    const auto line = [&](double degrees, bool half) {
        const double a = degrees * kRadians, dx = std::cos(a), dz = std::sin(a);
        bool down = false;
        const int steps = 400;
        for (int i = half ? 0 : -steps; i <= steps; ++i)
            down = trace.go(path, own.x + dx * reach * i / steps, own.z + dz * reach * i / steps, down);
    };
    switch (mirror.kind) {
        case MirrorKind::none: break;
        case MirrorKind::acrossX: line(90, false); break;
        case MirrorKind::acrossZ: line(0, false); break;
        case MirrorKind::acrossBoth: line(90, false), line(0, false); break;
        case MirrorKind::diagonal: line(45, false); break;
        case MirrorKind::turn2: line(0, false); break;
        case MirrorKind::turn3: line(-90, true), line(30, true), line(150, true); break;
        case MirrorKind::turn4: line(0, false), line(90, false); break;
    }
    return path;
}

}  // namespace jam
