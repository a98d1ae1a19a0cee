#include "hands/course_hand.h"

#include <cmath>

#include "hands/course_width_hand.h"
#include "level/ground.h"
#include "view/ground_view.h"

namespace jam {

namespace {

constexpr double kNearPost = 13, kNearLine = 8;  // pixels
constexpr double kLeastRamp = 1;                 // metres that a new course has to be long

double toLeg(const QPointF& p, const QPointF& a, const QPointF& b) {
    const QPointF d = b - a;
    const double square = d.x() * d.x() + d.y() * d.y();
    const double t = square > 0 ? std::clamp(((p - a).x() * d.x() + (p - a).y() * d.y()) / square, 0.0, 1.0) : 0;
    const QPointF o = p - a - t * d;
    return std::hypot(o.x(), o.y());
}

}  // namespace

CourseSpot courseUnder(const GroundView& view, const QPointF& pixel) {
    CourseSpot best;
    double post = kNearPost, line = kNearLine;
    const uint32_t chosen = view.workplace().standpoint.course();
    for (const CourseLine& c : view.marks().courseLines()) {
        // What is chosen comes before what lies under it.
        const double own = c.course == chosen ? 1.2 : 1;
        std::optional<QPointF> before;
        int seen = -1;
        for (const LinePoint& p : c.line) {
            const auto at = view.pixelOf({p.x, altitudeAt(view.workplace().document.level(), p.x, p.z), p.z});
            if (at && p.post != seen) {
                const double d = std::hypot(at->x() - pixel.x(), at->y() - pixel.y()) / own;
                if (d < post) post = d, best = {c.course, p.post % c.posts, -1};
            }
            if (at && before && best.post < 0)
                if (const double d = toLeg(pixel, *before, *at) / own; d < line)
                    line = d, best = {c.course, -1, std::min(p.post, c.posts - 1)};
            seen = p.post;
            before = at;
        }
    }
    return best;
}

std::unique_ptr<Hand> courseHand(GroundView& view, const HandEvent& press) {
    Workplace& place = view.workplace();
    if (!press.ground) return nullptr;
    if (const QString no = place.document.whyNoStroke(); !no.isEmpty()) return place.tell(no), nullptr;
    if (const auto knob = courseKnobUnder(view, press.pixel))
        return std::make_unique<CourseWidthHand>(view, press, *knob);
    CourseEdits courses(place);
    const CourseSpot spot = courseUnder(view, press.pixel);
    const auto courseOf = [&](uint32_t id) { return *place.document.level().stratum(id)->course; };
    if (spot.course && spot.post >= 0) {
        place.standpoint.setCourse(spot.course, spot.post);
        return std::make_unique<CourseHand>(view, press, spot.course, courseOf(spot.course), spot.post,
                                            GroundView::tr("Move a post"));
    }
    if (spot.course) {
        const bool insert = press.modifiers & Qt::ControlModifier;
        place.standpoint.setCourse(spot.course, spot.after);
        if (!insert) return nullptr;
        Course c = courseOf(spot.course);
        Post p = c.posts[static_cast<size_t>(spot.after)];
        p.x = press.ground->x, p.z = press.ground->z;
        p.height.reset();
        c.posts.insert(c.posts.begin() + spot.after + 1, p);
        return std::make_unique<CourseHand>(view, press, spot.course, std::move(c), spot.after + 1,
                                            GroundView::tr("Insert a post"));
    }
    const Course* chosen = courses.chosen();
    if (!chosen || chosen->closed)
        return std::make_unique<CourseHand>(view, press, 0, courses.begun(*press.ground, *press.ground), 1,
                                            GroundView::tr("Course"));
    // On from the end that is nearer.
    Course c = *chosen;
    const auto away = [&](const Post& p) { return std::hypot(p.x - press.ground->x, p.z - press.ground->z); };
    const bool atFront = away(c.posts.front()) < away(c.posts.back());
    Post p = atFront ? c.posts.front() : c.posts.back();
    p.x = press.ground->x, p.z = press.ground->z;
    p.height.reset();
    c.posts.insert(atFront ? c.posts.begin() : c.posts.end(), p);
    const int at = atFront ? 0 : static_cast<int>(c.posts.size()) - 1;
    return std::make_unique<CourseHand>(view, press, place.standpoint.course(), std::move(c), at,
                                        GroundView::tr("Lengthen the course"));
}

CourseHand::CourseHand(GroundView& view, const HandEvent& press, uint32_t id, Course course, int post, QString what)
    : CoursePull(view, id, std::move(course), post), what_(std::move(what)), from_(press.pixel),
      lifts_(id != 0 && (press.modifiers & Qt::AltModifier)) {
    const Level& level = view.workplace().document.level();
    const Post& p = course_.posts[static_cast<size_t>(post)];
    height_ = p.height                         ? *p.height
              : course_.use == CourseUse::bank ? 0
                                               : static_cast<float>(altitudeAt(level, p.x, p.z));
    // A post that was put in or added is a change already.
    const Stratum* s = level.stratum(id);
    changed_ = s && s->course && s->course->posts.size() != course_.posts.size();
    if (changed_) move(press);
}

void CourseHand::move(const HandEvent& e) {
    Post& p = course_.posts[static_cast<size_t>(post_)];
    if (lifts_) {
        const auto foot = view_.pixelOf({p.x, height_, p.z}), up = view_.pixelOf({p.x, height_ + 1.0, p.z});
        const double pixels = foot && up ? std::max(foot->y() - up->y(), 0.5) : 10;
        p.height = height_ + static_cast<float>((from_.y() - e.pixel.y()) / pixels);
    } else {
        if (!e.ground) return;
        p.x = e.ground->x, p.z = e.ground->z;
    }
    changed_ = true;
    const Post& first = course_.posts.front();
    if (id_ != 0 || std::hypot(p.x - first.x, p.z - first.z) >= kLeastRamp) show();
}

void CourseHand::finish() {
    if (id_ != 0) return CoursePull::finish();
    done_ = true;
    Workplace& place = view_.workplace();
    place.document.dropPreview();
    const Post &a = course_.posts.front(), &b = course_.posts.back();
    if (std::hypot(b.x - a.x, b.z - a.z) < kLeastRamp)
        return place.tell(GroundView::tr("Press at the foot of the course and pull to its head."));
    CourseEdits(place).add(course_);
}

void CoursePull::show() {
    Workplace& place = view_.workplace();
    const CourseEdits courses(place);
    Result<Level> next = id_ ? courses.tried(id_, [this](Course& c) { c = course_; })
                             : courses.triedNew(course_, nullptr);
    if (next) place.document.showPreview({next.take(), {}});
}

void CoursePull::release(const HandEvent& e) {
    if (e.button == Qt::LeftButton) finish();
}

void CoursePull::finish() {
    done_ = true;
    Workplace& place = view_.workplace();
    place.document.dropPreview();
    if (changed_ && CourseEdits(place).edit(what(), id_, [this](Course& c) { c = course_; }))
        place.standpoint.setCourse(id_, post_);
}

void CoursePull::letGo(bool drop) {
    if (!drop) return finish();
    done_ = true;
    view_.workplace().document.dropPreview();
}

}  // namespace jam
