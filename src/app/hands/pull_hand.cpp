#include "hands/pull_hand.h"

#include <cmath>

#include "view/ground_view.h"

namespace jam {

bool PullHand::shaky() const {
    constexpr double kStill = 5;  // pixels that a click may shake
    return std::hypot(now_.x() - from_.x(), now_.y() - from_.y()) < kStill;
}

void PullHand::move(const HandEvent& e) {
    now_ = e.pixel;
    if (!pulls_) {
        if (!holds() || shaky()) return;
        Workplace& place = view_.workplace();
        if (const QString no = place.document.whyNoStroke(); !no.isEmpty()) {
            done_ = true;
            return place.tell(no);
        }
        pulls_ = true;
    }
    pull(e);
}

void PullHand::release(const HandEvent& e) {
    if (e.button == Qt::LeftButton) finish();
}

void PullHand::finish() {
    done_ = true;
    if (pulls_) {
        view_.workplace().document.dropPreview();
        keep();
    } else if (shaky()) {
        click();
    }
}

void PullHand::letGo(bool drop) {
    if (!drop && pulls_) return finish();
    done_ = true;
    if (pulls_) view_.workplace().document.dropPreview();
}

}  // namespace jam
