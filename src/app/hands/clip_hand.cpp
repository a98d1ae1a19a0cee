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

constexpr double kNear = 13;      // pixels within which a handle is taken
constexpr double kSnapTurn = 15;  // degrees that Ctrl keeps to

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
