// Drawing over the picture of the ground: lines that follow it, labels that stand out of it.
#pragma once

#include <glm/vec3.hpp>
#include <QColor>
#include <vector>

class QPainter;
class QPainterPath;
class QPointF;
class QString;

namespace jam {

class GroundView;

inline const QColor kShadowInk(20, 16, 14, 130);

// A path in a colour with a dark rim, so that it shows on any ground; `unit` is the width of a logical pixel.
void strokeTwice(QPainter& p, const QPainterPath& path, double wide, double unit, const QColor& colour,
                 Qt::PenStyle style);
void paintLabel(QPainter& p, const QPointF& at, const QString& text);
// A line over the ground, which it follows, with dots at its places when wanted.
void paintLine(QPainter& p, const GroundView& view, const std::vector<glm::dvec3>& places, const QColor& colour,
               bool dots);
// The lines and posts of the courses, the chosen one with its edges.
void paintCourses(QPainter& p, const GroundView& view);
// Marks of all owners (GroundMark).
void paintGroundMarks(QPainter& p, const GroundView& view);
// The tape with what it measures.
void paintTape(QPainter& p, const GroundView& view, const std::vector<glm::dvec3>& tape);
// Altitudes on the strong contours, in metres.
void paintContourLabels(QPainter& p, const GroundView& view);

}  // namespace jam
