#include "hands/course_width_hand.h"

#include <algorithm>
#include <cmath>

#include "level/ground.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

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
