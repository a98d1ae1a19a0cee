#include "hands/course_width_hand.h"

#include <algorithm>
#include <cmath>

#include "level/ground.h"
#include "view/over_ground.h"

namespace jam {

namespace {

constexpr double kNear = 10;   // pixels
constexpr double kApart = 15;  // pixels that a knob lies from its post, and the shoulder's from the width's, at least

}  // namespace

std::vector<CourseKnob> courseKnobs(const GroundView& view, const GroundView::CourseLine& c, int post) {
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
    for (const GroundView::CourseLine& c : view.courseLines()) {
        if (c.course != stand.course()) continue;
        for (const CourseKnob& k : courseKnobs(view, c, stand.post()))
            if (const auto at = view.pixelOf({k.x, altitudeAt(level, k.x, k.z), k.z}))
                if (const double d = std::hypot(at->x() - pixel.x(), at->y() - pixel.y()); d < near) near = d, best = k;
    }
    return best;
}

CourseWidthHand::CourseWidthHand(GroundView& view, const HandEvent& press, const CourseKnob& knob)
    : CoursePull(view, view.workplace().standpoint.course(),
                 *view.workplace().document.level().stratum(view.workplace().standpoint.course())->course,
                 view.workplace().standpoint.post()),
      before_(course_), shoulder_(knob.shoulder),
      all_(view.workplace().standpoint.postsAlike() != bool(press.modifiers & Qt::ShiftModifier)), now_(press.pixel) {
    const Post& p = before_.posts[static_cast<size_t>(post_)];
    had_ = static_cast<double>(shoulder_ ? p.shoulder : p.width);
    began_ = away(*press.ground);
}

double CourseWidthHand::away(const glm::dvec3& place) const {
    const Post& p = before_.posts[static_cast<size_t>(post_)];
    return std::hypot(place.x - p.x, place.z - p.z);
}

void CourseWidthHand::move(const HandEvent& e) {
    now_ = e.pixel;
    if (!e.ground) return;
    // The width lies on both sides of the post.
    const double pulled = (away(*e.ground) - began_) * (shoulder_ ? 1 : 2);
    const double least = shoulder_ ? 0.0 : static_cast<double>(kMinCourseWidth);
    const double metres = std::clamp<double>(std::round(10 * (had_ + pulled)) / 10, least, kMaxCourseWidth);
    course_ = before_;
    for (size_t i = 0; i < course_.posts.size(); ++i)
        if (static_cast<int>(i) == post_ || all_)
            (shoulder_ ? course_.posts[i].shoulder : course_.posts[i].width) = static_cast<float>(metres);
    changed_ = course_ != before_;
    show();
}

QString CourseWidthHand::what() const {
    return shoulder_ ? GroundView::tr("Shoulders of a course") : GroundView::tr("Width of a course");
}

void CourseWidthHand::paint(QPainter& p) const {
    const Post& now = course_.posts[static_cast<size_t>(post_)];
    paintLabel(p, now_ + QPointF(16, -10),
               shoulder_ ? GroundView::tr("Shoulder %1 m").arg(now.shoulder, 0, 'f', 1)
                         : GroundView::tr("Width %1 m").arg(now.width, 0, 'f', 1));
}

}  // namespace jam
