// The brush's handles on the ground, while their key is held: pull its edge for the radius, its crown for the strength,
// its shoulder for the falloff, the mirror's centre to another place; or drag anywhere, sideways for the radius and
// upwards for the strength.
#pragma once

#include "view/hand.h"

namespace jam {

class HandlesHand : public Hand {
public:
    // `at`: where the brush mark stands meanwhile.
    HandlesHand(GroundView& view, const glm::dvec3& at) : Hand(view), at_(at) {}
    void press(const HandEvent& e) override;
    void doublePress(const HandEvent& e) override { press(e); }
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void paint(QPainter& p) const override;
    void letGo(bool) override { done_ = true; }
    bool waits() const override { return grip_ == Grip::none; }
    bool drawsWide() const override { return true; }

    std::optional<glm::dvec3> brushAt() const override { return at_; }

private:
    enum class Grip { none, edge, crown, shoulder, centre, anywhere };

    std::optional<QPointF> gripPixel(Grip grip) const;
    Grip gripNear(const QPointF& pixel) const;

    glm::dvec3 at_;
    Grip grip_ = Grip::none;
    QPointF from_;                     // where the pull began
    float radius_ = 0, strength_ = 0;  // as it began
};

}  // namespace jam
