// In how many pixels a moving picture is drawn, so that it follows the hand: learnt from what its frames take.
#pragma once

#include <algorithm>

#include "render/software/finish.h"

namespace jam {

class Pace {
public:
    // In milliseconds for a whole frame.
    struct Limits {
        double all, some;          // one that takes longer in all pixels, or in some, is drawn in fewer
        double easyAll, easySome;  // one that would take less in more of them is drawn so
    };
    // Near the ground detail counts: in some of the pixels sixty frames a second are enough.
    static constexpr Limits kNear{13, 16.7, 10, 12.5};
    // From afar half of the pixels are hardly told from all, and one sweeps over the whole level: 120 frames a second,
    // with what the window takes besides.
    static constexpr Limits kAfar{6.5, 6.5, 5, 5};
    static constexpr double kAfarMetres = 90;  // above the ground; no layer's grain is drawn from there

    explicit Pace(const Limits& limits = kNear) : limits_(limits) {}

    Finish finish() const { return whole_; }
    // For a part of the picture that a dab changed, in more of the pixels where it is small. From afar, too, one looks
    // at the brush alone.
    Finish finishOf(double share) {
        if (share >= 1) return whole_;
        for (Finish was = part_; settle(part_, share / kOfDab, kNear) != was;) was = part_;
        return std::max(part_, whole_);
    }
    // A frame with this finish took so many milliseconds for a share of the picture.
    void took(Finish finish, double ms, double share) {
        if (share < kTelling) return;  // tells little of a whole one
        const double whole = ms / share / costOf(finish);
        // Slower is believed sooner than faster: one late frame too many is seen, one coarse one is not.
        typical_ += (whole > typical_ ? 0.5 : 0.1) * (whole - typical_);
        settle(whole_, 1, limits_);
    }

private:
    static constexpr double kTelling = 0.2;
    static constexpr double kOfDab = 0.7;  // of the time for a frame; the rest goes to its ground and its mark
    // What a frame takes of a fine one.
    static constexpr double costOf(Finish f) { return f == Finish::coarsest ? 0.45 : f == Finish::coarse ? 0.6 : 1; }
    // A step towards the finish in which so much of the picture follows the hand.
    Finish settle(Finish& f, double share, const Limits& limits) const {
        const double fluid = f == Finish::quick ? limits.all : limits.some;
        const Finish finer = f == Finish::coarsest ? Finish::coarse : Finish::quick;
        const double easy = finer == Finish::quick ? limits.easyAll : limits.easySome;
        if (f != Finish::coarsest && typical_ * costOf(f) * share > fluid)
            f = f == Finish::quick ? Finish::coarse : Finish::coarsest;
        else if (f != Finish::quick && typical_ * costOf(finer) * share < easy) f = finer;
        return f;
    }

    Limits limits_;
    double typical_ = 0;
    Finish whole_ = Finish::quick, part_ = Finish::quick;
};

}  // namespace jam
