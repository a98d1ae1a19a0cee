// A press that becomes a pull once it is more than a shaky click: what would come of it shows while the hand pulls, and
// stays when it lets go.
#pragma once

#include "view/hand.h"

namespace jam {

class PullHand : public Hand {
public:
    PullHand(GroundView& view, const HandEvent& press) : Hand(view), from_(press.pixel), now_(press.pixel) {}

    void move(const HandEvent& e) final;
    void release(const HandEvent& e) final;
    void letGo(bool drop) final;
    bool drawsWide() const final { return pulls_; }

protected:
    // Whether there is anything to pull at.
    virtual bool holds() const { return true; }
    virtual void pull(const HandEvent& e) = 0;  // shows a preview
    virtual void keep() = 0;                    // what was pulled, as a step of its own
    virtual void click() {}                     // it was none

    QPointF from_, now_;
    bool pulls_ = false;

private:
    bool shaky() const;
    void finish();
};

}  // namespace jam
