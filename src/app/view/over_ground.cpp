#include "view/over_ground.h"

#include <cmath>
#include <glm/geometric.hpp>
#include <QPainter>
#include <QPainterPath>

#include "base/maths.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "survey/pick.h"
#include "view/course_knobs.h"
#include "view/ground_view.h"
#include "view/ink.h"

namespace jam {

void strokeTwice(QPainter& p, const QPainterPath& path, double wide, double unit, const QColor& colour,
                 Qt::PenStyle style) {
    const double ratio = p.device()->devicePixelRatioF(), along = wide * unit;
    const QTransform toUnits = p.worldTransform();
    // What a pixel of the path's own is of the picture's.
    const double scale = toUnits.m11() * ratio;
    InkPen pen{along * scale, 0.8 * unit * scale};
    for (const qreal length : QPen(style).dashPattern()) pen.dashes << length * pen.wide;
    QRectF units(p.window());
    if (p.hasClipping()) units &= toUnits.mapRect(p.clipBoundingRect());
    if (units.isEmpty()) return;
    Ink ink(QRectF(units.topLeft() * ratio, units.size() * ratio).toAlignedRect());
    for (const QPolygonF& line : path.toSubpathPolygons(toUnits * QTransform::fromScale(ratio, ratio)))
        ink.line(line, pen);
    p.save();
    p.resetTransform();
    ink.lay(p, colour, kShadowInk, ratio);
    p.restore();
}

void paintLabel(QPainter& p, const QPointF& at, const QString& text) {
    QFont font = p.font();
    font.setPixelSize(scaled(13));
    font.setBold(true);
    QPainterPath shape;
    shape.addText(at, font, text);
    p.strokePath(shape, QPen(QColor(20, 16, 14, 190), 4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.fillPath(shape, QColor(250, 246, 238));
}

void paintLine(QPainter& p, const GroundView& view, const std::vector<glm::dvec3>& places, const QColor& colour,
               bool dots) {
    const Level& level = view.workplace().document.level();
    QPainterPath path;
    for (size_t i = 0; i + 1 < places.size(); ++i) {
        constexpr int kSteps = 60;
        bool down = false;
        for (int k = 0; k <= kSteps; ++k) {
            const glm::dvec3 at = glm::mix(places[i], places[i + 1], static_cast<double>(k) / kSteps);
            const auto q = view.pixelOf({at.x, altitudeAt(level, at.x, at.z) + 0.02, at.z});
            if (q && down) path.lineTo(*q);
            else if (q) path.moveTo(*q);
            down = q.has_value();
        }
    }
    strokeTwice(p, path, 2, 1, colour, Qt::SolidLine);
    if (!dots) return;
    p.setPen(QPen(kShadowInk, 1.5));
    p.setBrush(colour);
    for (const glm::dvec3& at : places)
        if (const auto q = view.pixelOf({at.x, altitudeAt(level, at.x, at.z), at.z})) p.drawEllipse(*q, 4, 4);
}

void paintCourses(QPainter& p, const GroundView& view) {
    const Standpoint& stand = view.workplace().standpoint;
    const Level& level = view.workplace().document.level();
    const auto pixel = [&](double x, double z) { return view.pixelOf({x, altitudeAt(level, x, z) + 0.02, z}); };
    const QColor bright(250, 246, 238);
    for (const CourseLine& c : view.marks().courseLines()) {
        const bool chosen = c.course == stand.course();
        QPainterPath middle, left, right;
        const auto go = [](QPainterPath& path, const std::optional<QPointF>& to, bool& down) {
            if (to && down) path.lineTo(*to);
            else if (to) path.moveTo(*to);
            down = to.has_value();
        };
        bool m = false, l = false, r = false;
        for (size_t i = 0; i < c.line.size(); ++i) {
            const LinePoint& a = c.line[i];
            go(middle, pixel(a.x, a.z), m);
            if (!chosen) continue;
            const LinePoint &from = c.line[i ? i - 1 : 0], &to = c.line[i ? i : 1];
            const double dx = to.x - from.x, dz = to.z - from.z, length = std::max(std::hypot(dx, dz), 1e-9);
            const double ox = -dz / length * a.width / 2, oz = dx / length * a.width / 2;
            go(left, pixel(a.x - ox, a.z - oz), l);
            go(right, pixel(a.x + ox, a.z + oz), r);
        }
        strokeTwice(p, middle, chosen ? 2.2 : 1.4, 1, chosen ? theme().brush : bright, Qt::SolidLine);
        if (!chosen) continue;
        for (const QPainterPath& edge : {left, right}) strokeTwice(p, edge, 1.2, 1, theme().brush, Qt::DashLine);
        int seen = -1;
        for (const LinePoint& a : c.line) {
            const int post = a.post % c.posts;
            if (a.post == seen) continue;
            seen = a.post;
            if (const auto at = pixel(a.x, a.z)) {
                const bool own = post == stand.post();
                p.setPen(QPen(kShadowInk, 1.5));
                p.setBrush(own ? theme().brush : bright);
                p.drawEllipse(*at, own ? 7 : 5, own ? 7 : 5);
            }
        }
        // What the chosen post's width and shoulders are pulled by.
        for (const CourseKnob& k : courseKnobs(view, c, stand.post()))
            if (const auto at = pixel(k.x, k.z)) {
                constexpr double kHalf = 6;
                p.setPen(k.shoulder ? QPen(theme().brush, 1.8) : QPen(kShadowInk, 1.5));
                p.setBrush(k.shoulder ? kShadowInk : theme().brush);
                p.drawPolygon(QPolygonF{*at + QPointF(0, -kHalf), *at + QPointF(kHalf, 0), *at + QPointF(0, kHalf),
                                        *at + QPointF(-kHalf, 0)});
            }
    }
}

namespace {

// How a kind of mark is drawn: its line, and whether a dot stands at its beginning.
struct MarkLook {
    double wide;
    QColor colour;
    Qt::PenStyle style;
    bool dot;
};
MarkLook lookOf(GroundMark::Kind kind) {
    using Kind = GroundMark::Kind;
    const QColor pale(250, 246, 238);
    switch (kind) {
        case Kind::outline: return {1.4, pale, Qt::SolidLine, false};
        case Kind::leak: return {2.6, theme().warns, Qt::DashLine, true};
        case Kind::way: return {3, pale, Qt::SolidLine, false};
        case Kind::leap: return {3, theme().brush, Qt::DotLine, false};
        case Kind::trace: return {1.6, theme().brush, Qt::DashLine, false};
        case Kind::flag: return {2.2, pale, Qt::SolidLine, false};
        case Kind::chosenFlag: return {3, theme().brush, Qt::SolidLine, false};
        case Kind::facing: return {2, theme().brush, Qt::SolidLine, false};
        case Kind::label: return {};
        case Kind::place: return {2, theme().brush, Qt::SolidLine, true};
        case Kind::warning: return {2, theme().warns, Qt::SolidLine, true};
    }
    return {};
}

// A pennant at the head of a pole.
void paintFlag(QPainter& p, const QPointF& foot, const QPointF& head, const QColor& colour) {
    const double tall = std::min(0.42 * std::hypot(head.x() - foot.x(), head.y() - foot.y()), 16.0);
    QPainterPath cloth(head);
    cloth.lineTo(head + QPointF(1.5 * tall, 0.5 * tall));
    cloth.lineTo(head + QPointF(0, tall));
    cloth.closeSubpath();
    p.setPen(QPen(kShadowInk, 1.2));
    p.setBrush(colour);
    p.drawPath(cloth);
    p.drawEllipse(foot, 3, 2);
}

}  // namespace

void paintGroundMarks(QPainter& p, const GroundView& view) {
    using Kind = GroundMark::Kind;
    for (const auto& [owner, marks] : view.marks().all())
        for (const GroundMark& m : marks) {
            const MarkLook look = lookOf(m.kind);
            QPainterPath path;
            bool down = false;
            for (const glm::dvec3& at : m.line) {
                const auto q = view.pixelOf(at);
                if (q && down) path.lineTo(*q);
                else if (q) path.moveTo(*q);
                down = q.has_value();
            }
            strokeTwice(p, path, look.wide, 1, look.colour, look.style);
            if (m.line.empty()) continue;
            const auto q = view.pixelOf(m.line.front());
            if (!q || !QRectF(view.rect()).adjusted(-200, -100, 100, 100).contains(*q)) continue;
            if (look.dot) {
                p.setPen(QPen(kShadowInk, 1.5));
                p.setBrush(look.colour);
                p.drawEllipse(*q, 5, 5);
            }
            QPointF label = *q + QPointF(10, -8);
            if (m.kind == Kind::flag || m.kind == Kind::chosenFlag) {
                const auto head = view.pixelOf(m.line.back());
                if (!head) continue;
                paintFlag(p, *q, *head, m.kind == Kind::flag ? theme().active.lighter(125) : theme().brush);
                label = *head + QPointF(28, 8);
            }
            if (!m.label.isEmpty()) paintLabel(p, label, m.label);
        }
}

void paintTape(QPainter& p, const GroundView& view, const std::vector<glm::dvec3>& tape) {
    paintLine(p, view, tape, QColor(250, 246, 238), true);
    if (tape.size() < 2) return;
    const Level& level = view.workplace().document.level();
    const glm::dvec3 a = tape.front(), b = tape.back();
    const double flat = std::hypot(b.x - a.x, b.z - a.z);
    if (flat < 1e-3) return;
    const double rise = altitudeAt(level, b.x, b.z) - altitudeAt(level, a.x, a.z);
    if (const auto q = view.pixelOf(b))
        paintLabel(p, *q + QPointF(12, -10),
                   GroundView::tr("%1 m   %2%3 m   %4°")
                       .arg(flat, 0, 'f', 1)
                       .arg(rise < 0 ? "" : "+")
                       .arg(rise, 0, 'f', 2)
                       .arg(std::atan2(rise, flat) * kDegrees, 0, 'f', 1));
}

void paintContourLabels(QPainter& p, const GroundView& view) {
    const Document& document = view.workplace().document;
    const Camera& camera = view.camera();
    // A label wherever a strong contour crosses one of a few lines across the picture, with room between them.
    const double ratio = view.devicePixelRatioF(), step = 5 * view.sight().contourStep;
    QFont font = p.font();
    font.setPixelSize(scaled(11));
    font.setBold(true);
    p.setFont(font);
    constexpr double kLevelMetres = 1e-4;  // from one pick to the next
    QVector<QPointF> placed;
    for (const double across : {0.2, 0.42, 0.63, 0.85}) {
        std::optional<glm::dvec3> before;
        for (int y = view.height() - 6; y > 0; y -= 6) {
            const auto at = pickGround(document.level(), document.pyramid(),
                                       camera.ray(across * camera.width, y * ratio));
            if (at && before &&
                glm::distance(*at, *before) < camera.metresPerPixel(glm::distance(camera.at, *at)) * 120) {
                const double low = std::min(at->y, before->y), high = std::max(at->y, before->y);
                const double line = std::ceil(low / step) * step;
                const QPointF here(across * view.width(), y + 3);
                const bool room = std::none_of(placed.begin(), placed.end(), [&](const QPointF& q) {
                    return std::abs(q.y() - here.y()) < 26 && std::abs(q.x() - here.x()) < 60;
                });
                // Level ground is crossed by none, be it as high as one.
                if (high - low > kLevelMetres && line <= high && room) {
                    placed.append(here);
                    const QString text = QString::number(std::lround(line * 10) / 10.0) + " m";
                    QPainterPath shape;
                    shape.addText(here - QPointF(QFontMetrics(font).horizontalAdvance(text) / 2.0, -4), font, text);
                    p.strokePath(shape, QPen(QColor(250, 246, 238, 200), 3));
                    p.fillPath(shape, QColor(40, 26, 34));
                }
            }
            before = at;
        }
    }
}

}  // namespace jam
