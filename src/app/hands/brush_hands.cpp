#include "hands/brush_hands.h"

#include <cmath>
#include <QKeyEvent>

#include "base/maths.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {
constexpr int kTickMs = 25;  // how often a resting brush goes on
// Of the time that stamping takes, so much counts for the brush at most. A brush slower than its stamps slows its own
// clock; otherwise more stamps would be due after each, until the window stood still.
constexpr double kMostWork = 0.04;
constexpr double kSnap = kPi / 12;
}  // namespace

std::unique_ptr<Hand> brushHand(GroundView& view, const HandEvent& press) {
    Workplace& place = view.workplace();
    if (!press.ground || !place.brushing()) return nullptr;
    if (press.modifiers & Qt::AltModifier) {
        place.pick(*press.ground);
        return nullptr;
    }
    if (place.toolbox.path() != StrokePath::free)
        return std::make_unique<LineHand>(view, press, place.toolbox.path() == StrokePath::corners);
    if (!place.beginStroke(*press.ground, press.pressure, press.modifiers & Qt::ShiftModifier)) return nullptr;
    return std::make_unique<StrokeHand>(view, press);
}

// --- a stroke by hand ---------------------------------------------------------------------------------------------

StrokeHand::StrokeHand(GroundView& view, const HandEvent& press)
    : Hand(view), pixel_(press.pixel), pressure_(press.pressure) {
    idle_.start();
    QObject::connect(&tick_, &QTimer::timeout, &view, [this] { goOn(); });
    tick_.start(kTickMs);
}

void StrokeHand::goOn() {
    seconds_ += static_cast<double>(idle_.nsecsElapsed()) * 1e-9;
    idle_.restart();
    if (const auto at = view_.pick(pixel_)) view_.workplace().continueStroke(*at, pressure_, seconds_);
    seconds_ += std::min(static_cast<double>(idle_.nsecsElapsed()) * 1e-9, kMostWork);
    idle_.restart();
}

void StrokeHand::move(const HandEvent& e) {
    pixel_ = e.pixel;
    pressure_ = e.pressure;
    goOn();
}

void StrokeHand::release(const HandEvent& e) {
    if (e.button != Qt::LeftButton) return;
    pixel_ = e.pixel;
    goOn();
    letGo(false);
}

void StrokeHand::letGo(bool drop) {
    tick_.stop();
    done_ = true;
    if (drop) view_.workplace().document.cancelStroke();
    else view_.workplace().endStroke();
}

// --- lines --------------------------------------------------------------------------------------------------------

LineHand::LineHand(GroundView& view, const HandEvent& press, bool corners)
    : ClicksHand(view, corners, {*press.ground, *press.ground}), inverted_(press.modifiers & Qt::ShiftModifier),
      pressure_(press.pressure) {}

glm::dvec3 LineHand::snapped(const HandEvent& e) const {
    if (!(e.modifiers & Qt::ControlModifier) || places_.size() < 2) return *e.ground;
    const glm::dvec3& from = places_[places_.size() - 2];
    const double dx = e.ground->x - from.x, dz = e.ground->z - from.z, length = std::hypot(dx, dz);
    const double a = std::round(std::atan2(dz, dx) / kSnap) * kSnap;
    glm::dvec3 to{from.x + std::cos(a) * length, 0, from.z + std::sin(a) * length};
    to.y = altitudeAt(view_.workplace().document.level(), to.x, to.z);
    return to;
}

void LineHand::press(const HandEvent& e) {
    if (!e.ground) return;
    places_.back() = snapped(e);
    places_.push_back(places_.back());
}

void LineHand::move(const HandEvent& e) {
    if (e.ground) places_.back() = snapped(e);
}

void LineHand::release(const HandEvent& e) {
    if (!byClicks_ && e.button == Qt::LeftButton) finish();
}

void LineHand::finish() {
    dropFollower();
    done_ = true;
    view_.workplace().strokeAlong(places_, pressure_, inverted_);
}

void LineHand::paint(QPainter& p) const { paintLine(p, view_, places_, theme().brush, true); }

}  // namespace jam
