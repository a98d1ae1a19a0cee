// A hand that walks a body along a way.
#pragma once

#include "walk/walker.h"
#include "walk/ways.h"

namespace jam {

class WayFollower {
public:
    // The way must live as long.
    explicit WayFollower(const Way& way) : way_(way) {}

    // What to ask of the body next. Call once for each step that it takes.
    WalkInput next(const WalkState& at);
    // The point that it goes to.
    size_t at() const { return next_; }
    bool there() const { return next_ >= way_.points.size(); }
    // It has not come nearer to its next point for some seconds.
    bool stuck() const { return waited_ > 6 * Walker::kStepsASecond; }

private:
    bool turnsAt(size_t point) const;

    const Way& way_;
    size_t next_ = 1;
    double nearest_ = 1e30;
    int waited_ = 0;
};

}  // namespace jam
