#include "hands/water_hand.h"

#include <algorithm>
#include <cmath>

#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

WaterHand::WaterHand(GroundView& view, const HandEvent& press, Fill fill)
    : PullHand(view, press), fill_(std::move(fill)), at_(*press.ground), next_(press.modifiers & Qt::ControlModifier) {
    Workplace& place = view.workplace();
    const Level& level = place.document.level();
    const Wet w = waterAt(level, at_.x, at_.z);
    if (w.wet()) place.standpoint.setWater(w.body);
    if (const Pool* p = level.pool(w.body)) pool_ = p->id, height_ = to_ = p->height;
}

void WaterHand::pull(const HandEvent& e) {
    // As far as the hand moves on the picture, where the water was taken hold of; a tenth of that with Shift.
    const auto foot = view_.pixelOf({at_.x, height_, at_.z}), up = view_.pixelOf({at_.x, height_ + 1.0, at_.z});
    const double perMetre = foot && up ? std::max(std::abs(foot->y() - up->y()), 4.0) : 20;
    const double fine = e.modifiers & Qt::ShiftModifier ? 0.1 : 1;
    Workplace& place = view_.workplace();
    const Level& level = place.document.standing();
    to_ = std::clamp(height_ + static_cast<float>(fine * (from_.y() - e.pixel.y()) / perMetre), level.lowest,
                     level.highest);
    place.document.showPreview(WaterEdits(place).tried(pool_, to_));
}

void WaterHand::keep() {
    if (to_ != height_)
        WaterEdits(view_.workplace()).editPool(GroundView::tr("Height of a pool"), [this](Pool& p) { p.height = to_; });
}

void WaterHand::click() {
    const bool wet = waterAt(view_.workplace().document.level(), at_.x, at_.z).wet();
    if (!wet || (pool_ && next_)) fill_(at_, wet);
}

void WaterHand::paint(QPainter& p) const {
    if (!pulls_) return;
    paintLabel(p, now_ + QPointF(16, -10),
               GroundView::tr("%1 m   %2%3 m")
                   .arg(to_, 0, 'f', 2)
                   .arg(to_ < height_ ? "−" : "+")
                   .arg(std::abs(to_ - height_), 0, 'f', 2));
}

}  // namespace jam
