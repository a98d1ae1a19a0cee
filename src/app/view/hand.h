// A hand on the ground: what a press, a move, a key and a release do there, what is drawn over the view meanwhile, and
// how it is let go. The view owns exactly one at a time and lets it go, completely, on Esc, lost focus, a dialog,
// finished work, a level that is replaced, a change of station or tool. State that belongs to the moment lives in the
// hand and ends with it.
#pragma once

#include <glm/vec3.hpp>
#include <memory>
#include <optional>
#include <QPointF>
#include <Qt>

class QKeyEvent;
class QPainter;

namespace jam {

class GroundView;

struct HandEvent {
    QPointF pixel;                     // logical, in the view
    std::optional<glm::dvec3> ground;  // what lies there
    Qt::KeyboardModifiers modifiers;
    Qt::MouseButton button = Qt::NoButton;  // that was pressed or released
    float pressure = 1;                     // of a pen, (0, 1]
};

class Hand {
public:
    explicit Hand(GroundView& view) : view_(view) {}
    virtual ~Hand() = default;
    Hand(const Hand&) = delete;
    Hand& operator=(const Hand&) = delete;

    virtual void press(const HandEvent&) {}  // the left button, while the hand waits
    virtual void doublePress(const HandEvent& e) { press(e); }
    virtual void move(const HandEvent&) {}
    virtual void release(const HandEvent&) {}
    virtual bool key(QKeyEvent*) { return false; }  // true when it was for this hand
    virtual bool keyUp(QKeyEvent*) { return false; }
    virtual void paint(QPainter&) const {}  // over the picture, in logical pixels
    // The moment ends here and now. What was done stays; with `drop` (Esc) it is taken back.
    virtual void letGo(bool drop) = 0;

    // It needs no more events.
    bool done() const { return done_; }
    // It lies between two presses, so that the camera may move or a press go on with it.
    virtual bool waits() const { return false; }
    // The camera must stay while it works.
    virtual bool holdsCamera() const { return false; }
    // All keys without Ctrl or Alt are for it, those of commands too, and the mouse points at nothing.
    virtual bool takesKeys() const { return false; }
    // Where it holds the brush's mark; none where the cursor moves it.
    virtual std::optional<glm::dvec3> brushAt() const { return std::nullopt; }
    // What it draws reaches beyond the brush mark.
    virtual bool drawsWide() const { return false; }

    // A hand that was laid aside for this one and is taken up again after it.
    std::unique_ptr<Hand> aside;

protected:
    GroundView& view_;
    bool done_ = false;
};

}  // namespace jam
