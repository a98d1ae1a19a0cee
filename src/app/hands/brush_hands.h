// Hands that hold the brush: a stroke by hand, a straight one, one along clicks.
#pragma once

#include <QElapsedTimer>
#include <QTimer>
#include <vector>

#include "hands/clicks_hand.h"

namespace jam {

// What the brush does at a press on the ground: begins a stroke of the toolbox's path, or picks with Alt. Null when
// there is nothing more to do.
std::unique_ptr<Hand> brushHand(GroundView& view, const HandEvent& press);

// A stroke as the hand moves; resting goes on with the brush. Esc takes it back.
class StrokeHand : public Hand {
public:
    // Precondition: the stroke has begun.
    StrokeHand(GroundView& view, const HandEvent& press);
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void letGo(bool drop) override;
    bool holdsCamera() const override { return true; }

private:
    void goOn();

    QPointF pixel_;
    float pressure_;
    QElapsedTimer idle_;  // since the brush last did something
    double seconds_ = 0;  // by the brush's own clock
    QTimer tick_;
};

// A line over the ground that becomes one stroke at its end: pulled straight, or along corners that are clicked one by
// one (double click or Enter ends, Backspace takes one back). Ctrl keeps to 24 directions.
class LineHand : public ClicksHand {
public:
    LineHand(GroundView& view, const HandEvent& press, bool corners);
    void press(const HandEvent& e) override;
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void paint(QPainter& p) const override;

protected:
    void finish() override;

private:
    glm::dvec3 snapped(const HandEvent& e) const;

    bool inverted_;
    float pressure_;
};

}  // namespace jam
