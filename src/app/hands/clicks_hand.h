// A hand whose line may be laid by clicks, one corner each: a double click or Enter ends it, Backspace takes one back.
#pragma once

#include <vector>

#include "view/hand.h"

namespace jam {

class ClicksHand : public Hand {
public:
    void doublePress(const HandEvent&) override { finish(); }
    bool key(QKeyEvent* e) override;
    void letGo(bool) override { done_ = true; }
    bool waits() const override { return byClicks_; }
    bool drawsWide() const override { return true; }

protected:
    // While a line is laid by clicks its last place follows the hand.
    ClicksHand(GroundView& view, bool byClicks, std::vector<glm::dvec3> places)
        : Hand(view), byClicks_(byClicks), places_(std::move(places)) {}
    // Ends the line; by clicks, its last place has to be let go first.
    virtual void finish() = 0;
    void dropFollower() {
        if (byClicks_ && places_.size() > 1) places_.pop_back();
    }

    bool byClicks_;
    std::vector<glm::dvec3> places_;
};

}  // namespace jam
