// A press on water raises or lowers its surface by pulling; a click on dry ground fills the hollow there.
#pragma once

#include <functional>

#include "hands/hand.h"
#include "waters.h"

namespace jam {

class WaterHand : public Hand {
public:
    // Fills the hollow at a place on the ground to its brim; with `next`, the pool there to its next brim.
    using Fill = std::function<void(const glm::dvec3& at, bool next)>;
    WaterHand(GroundView& view, const HandEvent& press, Fill fill);

    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void letGo(bool drop) override;
    void paint(QPainter& p) const override;
    bool drawsWide() const override { return pulls_; }

private:
    void finish();

    Fill fill_;
    glm::dvec3 at_;
    QPointF from_, now_;
    uint32_t pool_ = 0;  // that is pulled; 0 for none
    float height_ = 0, to_ = 0;
    bool pulls_ = false, next_ = false;
};

}  // namespace jam
