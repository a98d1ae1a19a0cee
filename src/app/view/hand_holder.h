// The hand that works in a view, and those that it was laid over and that wait.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "view/hand.h"

namespace jam {

class HandHolder {
public:
    // `worked`: after a hand did something.
    explicit HandHolder(std::function<void()> worked) : worked_(std::move(worked)) {}

    Hand* get() const { return hand_.get(); }
    // Where one of them holds the brush's mark.
    std::optional<glm::dvec3> brushAt() const;
    // f(hand) for each, the uppermost first.
    template <class F>
    void each(F f) const {
        for (Hand* h = hand_.get(); h; h = h->aside.get()) f(*h);
    }

    // Lets f() work with the hand: one that is let go in the middle of its own work is destroyed only after it, and one
    // that is done gives way to what waits below.
    template <class F>
    void with(F f) {
        ++working_;
        f();
        finish();
    }
    // Lets go of the one that holds the brush's mark.
    void letGoOfBrush();
    // Preconditions of these: inside of with().
    void take(std::unique_ptr<Hand> hand) { hand_ = std::move(hand); }
    void layOver(std::unique_ptr<Hand> hand) {
        hand->aside = std::move(hand_);
        hand_ = std::move(hand);
    }

    // Ends all of them. What was done stays; with `drop` it is taken back.
    void letGo(bool drop);

private:
    Hand* holdingBrush() const;
    void finish();
    void putAside();

    std::function<void()> worked_;
    std::unique_ptr<Hand> hand_;
    std::vector<std::unique_ptr<Hand>> spent_;  // done with, destroyed when no hand is at work
    int working_ = 0;
};

}  // namespace jam
