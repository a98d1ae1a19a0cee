#include "view/view_marks.h"

#include <algorithm>
#include <QPainter>
#include <utility>

#include "level/ground.h"
#include "looks/theme.h"
#include "view/clip_marks.h"
#include "view/ground_view.h"
#include "view/ink.h"
#include "view/over_ground.h"

namespace jam {

namespace {
constexpr int kFenceTickMs = 250;
constexpr int kFenceRestMs = 150;  // before the parts of it that hills hide are left out
}  // namespace

ViewMarks::ViewMarks(GroundView& view, QWidget& canvas) : QObject(&view), view_(view), canvas_(&canvas) {
    Workplace& w = view.workplace();
    // The edge of the fence moves a little while one looks, and nothing else is drawn for it.
    fenceTick_.setInterval(kFenceTickMs);
    connect(&fenceTick_, &QTimer::timeout, this, [this] {
        ++fenceStep_;
        if (view_.isVisible() && !view_.window()->isMinimized()) repaint();
    });
    fenceRest_.setSingleShot(true);
    fenceRest_.setInterval(kFenceRestMs);
    connect(&fenceRest_, &QTimer::timeout, this, [this] {
        const Document& d = view_.workplace().document;
        fenceEdge_.hide(d.level(), d.pyramid(), view_.camera());
        repaint();
    });
    w.document.on(About::fence, this, &ViewMarks::followFence);
    w.document.on(About::history, this, [this] {
        if (fenceEdge_.empty()) return;
        fenceEdge_.follow(view_.workplace().document.level(), true);  // it lies on the ground
        fenceRest_.start();
    });
    connect(&themeChanges(), &ThemeChanges::changed, this, [this] {
        standing_.forget();
        repaint();
    });
    connect(&w.standpoint, &Standpoint::courseChosen, this, &ViewMarks::followCourses);
    w.document.on(About::strata | About::history | About::preview, this, &ViewMarks::followCourses);
    w.document.on(About::preview, this, &ViewMarks::moveBrush);
    connect(&w.toolbox, &Toolbox::settingsChanged, this, &ViewMarks::moveBrush);
    connect(&w.standpoint, &Standpoint::tapeMoved, this, &ViewMarks::moveBrush);
    for (const auto signal : {&Clips::moved, &Clips::heldChanged, &Clips::tried})
        connect(&w.clips, signal, this, &ViewMarks::repaint);
    followFence();
}

void ViewMarks::set(const QByteArray& owner, std::vector<GroundMark> marks) {
    if (marks.empty() && marks_[owner].empty()) return;
    marks_[owner] = std::move(marks);
    standing_.forget();
    repaint();
}

void ViewMarks::followCourses() {
    courseLinesKnown_ = false;
    standing_.forget();
    repaint();
}

const std::vector<CourseLine>& ViewMarks::courseLines() const {
    if (std::exchange(courseLinesKnown_, true)) return courseLines_;
    courseLines_.clear();
    const Level& level = view_.workplace().document.level();
    CourseLines lines(level);
    for (size_t i = 0; i < level.strata.size(); ++i)
        if (const Stratum& s = level.strata[i]; s.leads() && s.visible)
            courseLines_.push_back({s.id, static_cast<int>(s.course->posts.size()), lines.of(i)});
    return courseLines_;
}

void ViewMarks::followFence() {
    if (fenceEdge_.follow(view_.workplace().document.level())) view_.refresh();
    if (fenceEdge_.empty()) fenceTick_.stop();
    else fenceTick_.start(), fenceRest_.start();
    repaint();
}

void ViewMarks::cameraMoved() {
    if (!fenceEdge_.empty()) fenceEdge_.showAll(), fenceRest_.start();
    moveBrush();
}

void ViewMarks::moveBrush() {
    const Workplace& w = view_.workplace();
    const Standpoint& stand = w.standpoint;
    const Level& level = w.document.level();
    QRect before = brushRect_;
    brush_ = {};
    mirrorLines_ = {};
    brushRect_ = {};
    const double per = 1 / view_.devicePixelRatioF();
    if (w.brushing()) {
        const StrokeSettings settings = w.strokeSettings();
        const std::optional<glm::dvec3> held = view_.hands().brushAt(), &place = held ? held : stand.cursor();
        if (place && !view_.taping() && !w.document.previewing()) {
            glm::dvec3 at = *place;
            at.y = altitudeAt(level, at.x, at.z);
            brush_ = markOf(level, view_.camera(), at, settings);
        }
        mirrorLines_ = mirrorLines(level, view_.camera(), settings.mirror);
        const QRectF b = brush_.bounds() | mirrorLines_.boundingRect();
        brushRect_ = QRectF(b.topLeft() * per, b.size() * per).toAlignedRect().adjusted(-4, -4, 4, 4);
    }
    bool wide = !stand.tape().empty();
    view_.hands().each([&](const Hand& h) { wide |= h.drawsWide(); });
    if (wide) brushRect_ = view_.rect();
    // A stroke's mark comes with the ground it made, instead of being painted twice.
    brushWaits_ = w.document.stroking() && view_.frameWaits();
    if (brushWaits_) return void(brushLeft_ |= before);
    before |= std::exchange(brushLeft_, QRect());
    // One rectangle is painted far faster than what two make together.
    if (before.intersects(brushRect_)) return canvas_->update(before | brushRect_);
    canvas_->update(before);
    canvas_->update(brushRect_);
}

void ViewMarks::framed(bool moved) {
    if (brushWaits_ || moved) moveBrush();
}

void ViewMarks::paintStanding(QPainter& p) const {
    const Sight& sight = view_.sight();
    if (sight.contours) paintContourLabels(p, view_);
    if (sight.under.metres == 0) paintGroundMarks(p, view_);
    if (view_.workplace().standpoint.coursing()) paintCourses(p, view_);
}

void ViewMarks::paint(QPainter& p) {
    const Workplace& w = view_.workplace();
    const Camera& camera = view_.camera();
    p.setRenderHint(QPainter::Antialiasing);
    const bool marked = std::any_of(marks_.begin(), marks_.end(), [](const auto& m) { return !m.second.empty(); });
    if (view_.sight().contours || marked || w.standpoint.coursing())
        standing_.paint(p, view_.size(), camera, [this](QPainter& q) { paintStanding(q); });
    const double unit = view_.devicePixelRatioF();
    const QColor bright = theme().brush;
    p.save();
    p.scale(1 / unit, 1 / unit);
    fenceEdge_.paint(p, camera, fenceStep_, unit);
    if (!mirrorLines_.isEmpty()) strokeTwice(p, mirrorLines_, 1.4, unit, theme().active.lighter(150), Qt::DashDotLine);
    if (!brush_.edge.isEmpty()) {
        strokeTwice(p, brush_.images, 1.3, unit, bright.darker(115), Qt::SolidLine);
        strokeTwice(p, brush_.half, 1.1, unit, bright, Qt::DashLine);
        strokeTwice(p, brush_.ticks, 1.4, unit, bright, Qt::SolidLine);
        strokeTwice(p, brush_.edge, 1.8, unit, bright, Qt::SolidLine);
    }
    p.restore();
    if (w.clips.clipping()) paintClip(p, view_);
    if (!w.standpoint.tape().empty()) paintTape(p, view_, w.standpoint.tape());
    view_.hands().each([&](Hand& h) {
        if (!h.done()) h.paint(p);
    });
}

}  // namespace jam
