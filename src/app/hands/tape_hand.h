// The tape: drag from one place to another to measure between them.
#pragma once

#include "view/hand.h"

namespace jam {

class TapeHand : public Hand {
public:
    TapeHand(GroundView& view, const HandEvent& press);
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void letGo(bool drop) override;
    bool drawsWide() const override { return true; }

private:
    glm::dvec3 from_;
};

}  // namespace jam
