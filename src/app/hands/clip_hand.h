// Works with clips on the ground: pulls a rectangle to lift it; moves, turns, scales and raises the clip in hand by its
// handles; draws the line along which it is repeated.
#pragma once

#include "hands/clicks_hand.h"
#include "view/clip_marks.h"

namespace jam {

std::unique_ptr<Hand> clipHand(GroundView& view, const HandEvent& press);

class LiftHand : public Hand {
public:
    LiftHand(GroundView& view, const HandEvent& press) : Hand(view), from_(*press.ground), to_(*press.ground) {}
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void paint(QPainter& p) const override;
    void letGo(bool) override { done_ = true; }
    bool drawsWide() const override { return true; }

private:
    glm::dvec3 from_, to_;
};

class ClipHand : public Hand {
public:
    enum class Pull { move, turn, scale, raise };
    ClipHand(GroundView& view, const HandEvent& press, Pull pull);
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void letGo(bool drop) override;
    bool drawsWide() const override { return true; }

private:
    Pull pull_;
    Placement before_;
    glm::dvec3 from_;
    QPointF pixel_;
};

// The line that a clip is repeated along.
class ClipLineHand : public ClicksHand {
public:
    ClipLineHand(GroundView& view, const HandEvent& press) : ClicksHand(view, true, {*press.ground, *press.ground}) {}
    void press(const HandEvent& e) override;
    void move(const HandEvent& e) override;
    void paint(QPainter& p) const override;

protected:
    void finish() override;
};

}  // namespace jam
