#include "hands/tape_hand.h"

#include "view/ground_view.h"

namespace jam {

TapeHand::TapeHand(GroundView& view, const HandEvent& press) : Hand(view), from_(*press.ground) {
    view_.workplace().standpoint.setTape({from_, from_});
}

void TapeHand::move(const HandEvent& e) {
    if (e.ground) view_.workplace().standpoint.setTape({from_, *e.ground});
}

void TapeHand::release(const HandEvent& e) {
    if (e.button == Qt::LeftButton) done_ = true;
}

void TapeHand::letGo(bool drop) {
    done_ = true;
    if (drop) view_.workplace().standpoint.setTape({});
}

}  // namespace jam
