// Whether a moving picture is drawn in fewer pixels, so that it follows the hand: learnt from what its frames take.
#pragma once

namespace jam {

class Pace {
public:
    static constexpr double kFluidMs = 18;  // a whole frame that takes longer than this is drawn coarsely
    static constexpr double kEasyMs = 13;   // and one that would take less than this is not

    bool coarse() const { return coarse_; }
    // A frame took so many milliseconds for a share of the picture, drawn as coarse() said.
    void took(double ms, double share) {
        if (share < kTelling) return;  // tells little of a whole one
        const double whole = ms / share / (coarse_ ? kOfCoarse : 1);
        // Slower is believed sooner than faster: one late frame too many is seen, one coarse one is not.
        typical_ += (whole > typical_ ? 0.5 : 0.1) * (whole - typical_);
        coarse_ = typical_ > (coarse_ ? kEasyMs : kFluidMs);
    }

private:
    static constexpr double kTelling = 0.2;
    static constexpr double kOfCoarse = 0.6;  // what a coarse frame takes of a fine one
    double typical_ = 0;
    bool coarse_ = false;
};

}  // namespace jam
