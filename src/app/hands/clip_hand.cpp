#include "hands/clip_hand.h"

#include <cmath>
#include <QPainter>

#include "base/maths.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {

constexpr double kSmall = 60;         // pixels from corner to corner below which it has no corners to pull
constexpr double kNear = 13;          // pixels within which a handle is taken
constexpr double kTurnBeyond = 0.22;  // of the clip's depth that the turning knob stands out beyond its north side
constexpr double kRaiseUp = 46;       // pixels that the raising knob stands above the middle
constexpr double kSnapTurn = 15;      // degrees that Ctrl keeps to

glm::dvec3 onGround(const GroundView& view, const MapPlace& m) {
    const Level& l = view.workplace().document.level();
    return {m.x, altitudeAt(l, m.x, m.z), m.z};
}

bool near(const std::optional<QPointF>& handle, const QPointF& pixel) {
    return handle && std::hypot(handle->x() - pixel.x(), handle->y() - pixel.y()) < kNear;
}

// Whether a place lies inside the outline of the clip.
bool inside(const std::array<MapPlace, 4>& c, double x, double z) {
    int left = 0, right = 0;
    for (size_t i = 0; i < 4; ++i) {
        const MapPlace &a = c[i], &b = c[(i + 1) % 4];
        const double side = (b.x - a.x) * (z - a.z) - (b.z - a.z) * (x - a.x);
        (side >= 0 ? right : left)++;
    }
    return left == 0 || right == 0;
}

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

std::unique_ptr<Hand> clipHand(GroundView& view, const HandEvent& press) {
    Workplace& place = view.workplace();
    Clips& clips = place.clips;
    if (!clips.held()) {
        if (!press.ground) return nullptr;
        return std::make_unique<LiftHand>(view, press);
    }
    const ClipHandles h = clipHandles(view);
    if (near(h.raise, press.pixel)) return std::make_unique<ClipHand>(view, press, ClipHand::Pull::raise);
    if (near(h.turn, press.pixel)) return std::make_unique<ClipHand>(view, press, ClipHand::Pull::turn);
    for (const auto& c : h.corners)
        if (near(c, press.pixel)) return std::make_unique<ClipHand>(view, press, ClipHand::Pull::scale);
    if (!press.ground) return nullptr;
    if (clips.drawsLine()) return std::make_unique<ClipLineHand>(view, press);
    if (!inside(cornersOf(*clips.held(), clips.placement()), press.ground->x, press.ground->z)) {
        // Put there at once, and moved on from there.
        Placement p = clips.placement();
        p.x = press.ground->x, p.z = press.ground->z;
        clips.move(p);
    }
    return std::make_unique<ClipHand>(view, press, ClipHand::Pull::move);
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

// --- lifting -------------------------------------------------------------------------------------------------------

void LiftHand::move(const HandEvent& e) {
    if (e.ground) to_ = *e.ground;
}

void LiftHand::release(const HandEvent& e) {
    if (e.button != Qt::LeftButton) return;
    done_ = true;
    Workplace& place = view_.workplace();
    const double spacing = place.document.level().spacing;
    if (std::abs(to_.x - from_.x) < spacing || std::abs(to_.z - from_.z) < spacing)
        return place.tell(GroundView::tr("Pull a rectangle over the ground that is to be lifted."));
    place.clips.lift({from_.x, from_.z}, {to_.x, to_.z});
}

void LiftHand::paint(QPainter& p) const {
    const glm::dvec3 b{to_.x, 0, from_.z}, d{from_.x, 0, to_.z};
    paintLine(p, view_, {from_, b, to_, d, from_}, theme().brush, false);
}

// --- the clip in hand ------------------------------------------------------------------------------------------------

ClipHand::ClipHand(GroundView& view, const HandEvent& press, Pull pull)
    : Hand(view), pull_(pull), before_(view.workplace().clips.placement()),
      from_(press.ground.value_or(onGround(view, {before_.x, before_.z}))), pixel_(press.pixel) {}

void ClipHand::move(const HandEvent& e) {
    Clips& clips = view_.workplace().clips;
    if (!clips.held()) return;
    Placement p = before_;
    if (pull_ == Pull::raise) {
        const glm::dvec3 foot = onGround(view_, {p.x, p.z});
        const auto low = view_.pixelOf(foot), high = view_.pixelOf(foot + glm::dvec3(0, 1, 0));
        const double pixels = low && high ? std::max(low->y() - high->y(), 0.5) : 10;
        p.raise = std::clamp(before_.raise + (pixel_.y() - e.pixel.y()) / pixels, -1.0 * kFarHeight, 1.0 * kFarHeight);
        return clips.move(p);
    }
    if (!e.ground) return;
    if (pull_ == Pull::move) {
        p.x = before_.x + e.ground->x - from_.x;
        p.z = before_.z + e.ground->z - from_.z;
    } else {
        const double ax = from_.x - p.x, az = from_.z - p.z, bx = e.ground->x - p.x, bz = e.ground->z - p.z;
        if (pull_ == Pull::turn) {
            double turn = before_.turn + (std::atan2(bz, bx) - std::atan2(az, ax)) * kDegrees;
            if (e.modifiers & Qt::ControlModifier) turn = std::round(turn / kSnapTurn) * kSnapTurn;
            p.turn = std::remainder(turn, 360);
        } else {
            const double was = std::hypot(ax, az);
            if (was > 0) p.scale = std::clamp(before_.scale * std::hypot(bx, bz) / was, kMinClipScale, kMaxClipScale);
        }
    }
    clips.move(p);
}

void ClipHand::release(const HandEvent& e) {
    if (e.button == Qt::LeftButton) done_ = true;
}

void ClipHand::letGo(bool drop) {
    done_ = true;
    if (drop && view_.workplace().clips.held()) view_.workplace().clips.move(before_);
}

// --- the line
// ---------------------------------------------------------------------------------------------------------

void ClipLineHand::press(const HandEvent& e) {
    if (!e.ground) return;
    places_.back() = *e.ground;
    places_.push_back(*e.ground);
}

void ClipLineHand::move(const HandEvent& e) {
    if (e.ground) places_.back() = *e.ground;
}

void ClipLineHand::finish() {
    done_ = true;
    dropFollower();
    std::vector<MapPlace> line;
    for (const glm::dvec3& p : places_) line.push_back({p.x, p.z});
    view_.workplace().clips.setLine(std::move(line));
}

void ClipLineHand::paint(QPainter& p) const { paintLine(p, view_, places_, theme().brush, true); }

}  // namespace jam
