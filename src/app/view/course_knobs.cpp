#include "view/course_knobs.h"

#include <algorithm>
#include <cmath>

#include "level/ground.h"
#include "view/ground_view.h"

namespace jam {

namespace {

constexpr double kNear = 10;   // pixels
constexpr double kApart = 15;  // pixels that a knob lies from its post, and the shoulder's from the width's, at least

}  // namespace

std::vector<CourseKnob> courseKnobs(const GroundView& view, const CourseLine& c, int post) {
    const auto at = std::find_if(c.line.begin(), c.line.end(),
                                 [&](const LinePoint& p) { return p.post % c.posts == post; });
    if (at == c.line.end() || c.line.size() < 2) return {};
    const LinePoint &from = at == c.line.begin() ? *at : *(at - 1), &to = at + 1 == c.line.end() ? *at : *(at + 1);
    const double dx = to.x - from.x, dz = to.z - from.z, length = std::hypot(dx, dz);
    if (length < 1e-9) return {};
    const Level& level = view.workplace().document.level();
    const auto pixel = [&](double x, double z) { return view.pixelOf({x, altitudeAt(level, x, z), z}); };
    const auto apart = [](const std::optional<QPointF>& a, const std::optional<QPointF>& b) {
        return a && b && std::hypot(a->x() - b->x(), a->y() - b->y()) >= kApart;
    };
    const auto middle = pixel(at->x, at->z);
    std::vector<CourseKnob> knobs;
    for (const int side : {-1, 1}) {
        const auto beside = [&](double metres, bool shoulder) {
            return CourseKnob{at->x - side * dz / length * metres, at->z + side * dx / length * metres, shoulder};
        };
        const CourseKnob width = beside(at->width / 2, false), rim = beside(at->width / 2 + at->shoulder, true);
        const auto w = pixel(width.x, width.z), r = pixel(rim.x, rim.z);
        if (apart(middle, w)) knobs.push_back(width);
        if (apart(middle, r) && apart(w, r)) knobs.push_back(rim);
    }
    return knobs;
}

std::optional<CourseKnob> courseKnobUnder(const GroundView& view, const QPointF& pixel) {
    const Standpoint& stand = view.workplace().standpoint;
    const Level& level = view.workplace().document.level();
    std::optional<CourseKnob> best;
    double near = kNear;
    for (const CourseLine& c : view.marks().courseLines()) {
        if (c.course != stand.course()) continue;
        for (const CourseKnob& k : courseKnobs(view, c, stand.post()))
            if (const auto at = view.pixelOf({k.x, altitudeAt(level, k.x, k.z), k.z}))
                if (const double d = std::hypot(at->x() - pixel.x(), at->y() - pixel.y()); d < near) near = d, best = k;
    }
    return best;
}

}  // namespace jam
