#include "hands/water_hand.h"

#include <algorithm>
#include <cmath>

#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {
constexpr double kStill = 5;  // pixels that a click may shake
}

WaterHand::WaterHand(GroundView& view, const HandEvent& press, Fill fill)
    : Hand(view), fill_(std::move(fill)), at_(*press.ground), from_(press.pixel), now_(press.pixel),
      next_(press.modifiers & Qt::ControlModifier) {
    Workplace& place = view.workplace();
    const Level& level = place.document.level();
    const Wet w = waterAt(level, at_.x, at_.z);
    if (w.wet()) place.standpoint.setWater(w.body);
    if (const Pool* p = level.pool(w.body)) pool_ = p->id, height_ = to_ = p->height;
}

void WaterHand::move(const HandEvent& e) {
    now_ = e.pixel;
    if (!pool_ || (!pulls_ && std::abs(e.pixel.y() - from_.y()) < kStill)) return;
    Workplace& place = view_.workplace();
    if (!pulls_)
        if (const QString no = place.document.whyNoStroke(); !no.isEmpty()) {
            done_ = true;
            return place.tell(no);
        }
    pulls_ = true;
    // As far as the hand moves on the picture, where the water was taken hold of; a tenth of that with Shift.
    const auto foot = view_.pixelOf({at_.x, height_, at_.z}), up = view_.pixelOf({at_.x, height_ + 1.0, at_.z});
    const double perMetre = foot && up ? std::max(std::abs(foot->y() - up->y()), 4.0) : 20;
    const double fine = e.modifiers & Qt::ShiftModifier ? 0.1 : 1;
    const Level& level = place.document.standing();
    to_ = std::clamp(height_ + static_cast<float>(fine * (from_.y() - e.pixel.y()) / perMetre), level.lowest,
                     level.highest);
    place.document.showPreview(Waters(place).tried(pool_, to_));
}

void WaterHand::release(const HandEvent& e) {
    if (e.button == Qt::LeftButton) finish();
}

void WaterHand::finish() {
    done_ = true;
    Workplace& place = view_.workplace();
    if (pulls_) {
        place.document.dropPreview();
        if (to_ != height_)
            Waters(place).editPool(GroundView::tr("Height of a pool"), [this](Pool& p) { p.height = to_; });
        return;
    }
    // Whoever pulled at dry ground wanted something else.
    if (std::hypot(now_.x() - from_.x(), now_.y() - from_.y()) > kStill) return;
    const bool wet = waterAt(place.document.level(), at_.x, at_.z).wet();
    if (!wet || (pool_ && next_)) fill_(at_, wet);
}

void WaterHand::letGo(bool drop) {
    if (!drop && pulls_) return finish();
    done_ = true;
    if (pulls_) view_.workplace().document.dropPreview();
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
