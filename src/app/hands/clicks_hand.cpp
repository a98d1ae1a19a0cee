#include "hands/clicks_hand.h"

#include <QKeyEvent>

#include "view/ground_view.h"

namespace jam {

bool ClicksHand::key(QKeyEvent* e) {
    if (!byClicks_) return false;
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) return finish(), true;
    if (e->key() != Qt::Key_Backspace) return false;
    places_.pop_back();
    if (places_.size() < 2) done_ = true;
    else places_.back() = view_.workplace().standpoint.cursor().value_or(places_.back());
    return true;
}

}  // namespace jam
