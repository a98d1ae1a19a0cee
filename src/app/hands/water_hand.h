// A press on water raises or lowers its surface by pulling; a click on dry ground fills the hollow there.
#pragma once

#include <functional>

#include "edits/water_edits.h"
#include "hands/pull_hand.h"

namespace jam {

class WaterHand : public PullHand {
public:
    // Fills the hollow at a place on the ground to its brim; with `next`, the pool there to its next brim.
    using Fill = std::function<void(const glm::dvec3& at, bool next)>;
    WaterHand(GroundView& view, const HandEvent& press, Fill fill);

    void paint(QPainter& p) const override;

private:
    bool holds() const override { return pool_ != 0; }
    void pull(const HandEvent& e) override;
    void keep() override;
    void click() override;

    Fill fill_;
    glm::dvec3 at_;
    uint32_t pool_ = 0;  // that is pulled; 0 for none
    float height_ = 0, to_ = 0;
    bool next_ = false;
};

}  // namespace jam
