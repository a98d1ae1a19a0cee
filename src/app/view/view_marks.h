// All that is painted over the picture of the ground: the brush's mark and its mirrors, the fence's edge, courses, what
// stations mark, and what the hands show of their work.
#pragma once

#include <glm/vec3.hpp>
#include <map>
#include <QPainterPath>
#include <QTimer>
#include <QWidget>
#include <vector>

#include "course/line.h"
#include "view/brush_mark.h"
#include "view/fence_edge.h"
#include "view/standing_marks.h"

namespace jam {

class GroundView;

// Lines and places over the picture that tell of something: outlines of water, the way of a leak, a way that is walked,
// a leap, a walk that was walked, a flag from its foot to its head, where one looks from it, places, a label alone.
struct GroundMark {
    enum class Kind { outline, leak, way, leap, trace, flag, chosenFlag, facing, place, warning, label };
    std::vector<glm::dvec3> line;
    Kind kind = Kind::outline;
    QString label;  // at its beginning
};

// A course that shows, as it is seen.
struct CourseLine {
    uint32_t course;
    int posts;
    std::vector<LinePoint> line;
};

class ViewMarks : public QObject {
    Q_OBJECT
public:
    // Over `canvas`, which shows the view's picture.
    ViewMarks(GroundView& view, QWidget& canvas);
    void setCanvas(QWidget& canvas) { canvas_ = &canvas; }

    // In place of those that `owner` had.
    void set(const QByteArray& owner, std::vector<GroundMark> marks);
    const std::map<QByteArray, std::vector<GroundMark>>& all() const { return marks_; }
    const std::vector<GroundMark>& of(const QByteArray& owner) { return marks_[owner]; }
    const std::vector<CourseLine>& courseLines() const;

    // The brush's mark comes to where the cursor is.
    void moveBrush();
    // A picture was drawn that this may have waited for; `moved` says whether the ground lies elsewhere in it.
    void framed(bool moved);
    // The camera moved.
    void cameraMoved();
    // What stands on the ground lies elsewhere.
    void forgetStanding() { standing_.forget(); }
    void repaint() { canvas_->update(); }

    void paint(QPainter& painter);

private:
    void followFence();
    void followCourses();
    void paintStanding(QPainter& painter) const;

    GroundView& view_;
    QWidget* canvas_;
    StandingMarks standing_;
    FenceEdge fenceEdge_;
    QTimer fenceTick_, fenceRest_;
    int fenceStep_ = 0;
    BrushMark brush_;
    QPainterPath mirrorLines_;
    QRect brushRect_;
    QRect brushLeft_;          // where it was shown last, while it waits
    bool brushWaits_ = false;  // for the next frame
    mutable std::vector<CourseLine> courseLines_;
    mutable bool courseLinesKnown_ = false;
    std::map<QByteArray, std::vector<GroundMark>> marks_;
};

}  // namespace jam
