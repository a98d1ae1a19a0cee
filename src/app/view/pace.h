// In how many pixels a moving picture is drawn, so that it follows the hand: learnt from what its frames take.
#pragma once

#include "render/renderer.h"

namespace jam {

class Pace {
public:
    // A whole frame that takes longer than this is drawn in fewer pixels: in all of them it has to be quick, in some of
    // them sixty a second are enough.
    static constexpr double fluidMs(Finish f) { return f == Finish::quick ? 13 : 16.7; }
    // One that would take less than this in more of them is drawn so.
    static constexpr double easyMs(Finish f) { return f == Finish::quick ? 10 : 12.5; }

    Finish finish() const { return finish_; }
    // A frame with this finish took so many milliseconds for a share of the picture.
    void took(Finish finish, double ms, double share) {
        if (share < kTelling) return;  // tells little of a whole one
        const double whole = ms / share / costOf(finish);
        // Slower is believed sooner than faster: one late frame too many is seen, one coarse one is not.
        typical_ += (whole > typical_ ? 0.5 : 0.1) * (whole - typical_);
        if (finish_ != Finish::coarsest && typical_ * costOf(finish_) > fluidMs(finish_))
            finish_ = finish_ == Finish::quick ? Finish::coarse : Finish::coarsest;
        else if (finish_ != Finish::quick && typical_ * costOf(finer()) < easyMs(finer())) finish_ = finer();
    }

private:
    static constexpr double kTelling = 0.2;
    // What a frame takes of a fine one.
    static constexpr double costOf(Finish f) { return f == Finish::coarsest ? 0.45 : f == Finish::coarse ? 0.6 : 1; }
    Finish finer() const { return finish_ == Finish::coarsest ? Finish::coarse : Finish::quick; }
    double typical_ = 0;
    Finish finish_ = Finish::quick;
};

}  // namespace jam
