#include "view/clip_marks.h"

#include <cmath>
#include <QPainter>
#include <QPainterPath>

#include "level/ground.h"
#include "looks/theme.h"
#include "view/ground_view.h"
#include "view/ink.h"
#include "view/over_ground.h"

namespace jam {

glm::dvec3 onGround(const GroundView& view, const MapPlace& m) {
    const Level& l = view.workplace().document.level();
    return {m.x, altitudeAt(l, m.x, m.z), m.z};
}

namespace {

constexpr double kSmall = 60;         // pixels from corner to corner below which it has no corners to pull
constexpr double kTurnBeyond = 0.22;  // of the clip's depth that the turning knob stands out beyond its north side
constexpr double kRaiseUp = 46;       // pixels that the raising knob stands above the middle

}  // namespace

ClipHandles clipHandles(const GroundView& view) {
    ClipHandles h;
    const Clips& clips = view.workplace().clips;
    if (!clips.held()) return h;
    const auto corners = cornersOf(*clips.held(), clips.placement());
    for (size_t i = 0; i < 4; ++i) h.corners[i] = view.pixelOf(onGround(view, corners[i]));
    // One that is small on the picture is only moved and raised: its handles would cover it.
    const auto &a = h.corners[0], &b = h.corners[2];
    const bool small = a && b && std::hypot(a->x() - b->x(), a->y() - b->y()) < kSmall;
    if (small) h.corners = {};
    const Placement& p = clips.placement();
    h.middle = view.pixelOf(onGround(view, {p.x, p.z}));
    if (h.middle) h.raise = *h.middle - QPointF(0, kRaiseUp);
    if (small) return h;
    const MapPlace north{(corners[0].x + corners[1].x) / 2, (corners[0].z + corners[1].z) / 2};
    h.turn = view.pixelOf(
        onGround(view, {north.x + (north.x - p.x) * 2 * kTurnBeyond, north.z + (north.z - p.z) * 2 * kTurnBeyond}));
    return h;
}

void paintClip(QPainter& p, const GroundView& view) {
    const Clips& clips = view.workplace().clips;
    if (!clips.held()) return;
    std::vector<glm::dvec3> outline;
    for (const MapPlace& m : cornersOf(*clips.held(), clips.placement())) outline.push_back(onGround(view, m));
    outline.push_back(outline.front());
    const QColor ink = clips.trouble().isEmpty() ? theme().brush : theme().warns;
    paintLine(p, view, outline, ink, false);
    if (clips.line().size() > 1) {
        std::vector<glm::dvec3> along;
        for (const MapPlace& m : clips.line()) along.push_back(onGround(view, m));
        paintLine(p, view, along, ink, false);
    }
    const ClipHandles h = clipHandles(view);
    const auto knob = [&](const QPointF& at, bool round) {
        p.setPen(QPen(kShadowInk, 1));
        p.setBrush(ink);
        if (round) p.drawEllipse(at, 6, 6);
        else p.drawRect(QRectF(at - QPointF(5, 5), QSizeF(10, 10)));
    };
    const auto stem = [&](const QPointF& a, const QPointF& b) {
        QPainterPath path(a);
        path.lineTo(b);
        strokeTwice(p, path, 1.4, 1, ink, Qt::SolidLine);
    };
    if (h.turn && h.corners[0] && h.corners[1]) stem((*h.corners[0] + *h.corners[1]) / 2, *h.turn), knob(*h.turn, true);
    if (h.middle && h.raise) {
        stem(*h.middle, *h.raise);
        QPainterPath arrow(*h.raise + QPointF(0, -8));
        arrow.lineTo(*h.raise + QPointF(7, 3));
        arrow.lineTo(*h.raise + QPointF(-7, 3));
        arrow.closeSubpath();
        p.setPen(QPen(kShadowInk, 1));
        p.setBrush(ink);
        p.drawPath(arrow);
    }
    for (const auto& c : h.corners)
        if (c) knob(*c, false);
}

}  // namespace jam
