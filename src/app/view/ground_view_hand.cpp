// What the hand does in the view: mouse, keys, pen, and when it is let go.
#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <utility>

#include "hands/camera_hands.h"
#include "hands/handles_hand.h"
#include "hands/tape_hand.h"
#include "looks/theme.h"
#include "view/ground_view.h"

namespace jam {

namespace {
bool isPressKey(const QKeyEvent* e) { return e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter; }
}  // namespace

void GroundView::hoverAt(const QPointF& pixel) {
    hover_ = pixel;
    workplace_.standpoint.setCursor(pick(pixel));
    moveMark();
    hovered_.start();
    for (QTimer* step : {&refine_, &bring_})
        if (step->isActive() && step->interval() == 0) goOn(*step);
}

void GroundView::hoverAgain() {
    if (hover_) hoverAt(*hover_);
}

HandEvent GroundView::handEvent(const QPointF& pixel, Qt::KeyboardModifiers modifiers, Qt::MouseButton button) const {
    return {pixel, pick(pixel), modifiers, button, pressure_};
}

template <class F>
void GroundView::withHand(F f) {
    // A hand that is let go in the middle of its own work is destroyed only after it.
    ++inHand_;
    f();
    if (--inHand_ > 0) return;
    while (hand_ && hand_->done()) {
        std::unique_ptr<Hand> next = std::move(hand_->aside);
        spent_.push_back(std::exchange(hand_, std::move(next)));
    }
    spent_.clear();
    moveMark();
}

void GroundView::letGo(bool drop) {
    travel_.letGo();
    if (!hand_) return;
    withHand([&] {
        while (hand_) {
            std::unique_ptr<Hand> next = std::move(hand_->aside);
            spent_.push_back(std::exchange(hand_, std::move(next)));
            Hand& going = *spent_.back();
            if (!going.done()) going.letGo(drop);
        }
    });
}

void GroundView::takeUp(std::unique_ptr<Hand> hand) {
    letGo();
    setFocus();
    withHand([&] { hand_ = std::move(hand); });
}

bool GroundView::handling() const { return findHand<HandlesHand>() != nullptr; }

void GroundView::setHandling(bool on) {
    if (on == handling()) return;
    const auto& at = workplace_.standpoint.cursor();
    if (on && (hand_ || !at || !workplace_.brushing())) return;
    withHand([&] {
        if (on) hand_ = std::make_unique<HandlesHand>(*this, *at);
        else findHand<HandlesHand>()->letGo(false);
    });
    surface_->widget()->update();
}

void GroundView::setTaping(bool on) {
    if (on == taping_) return;
    letGo();
    taping_ = on;
    if (!on) workplace_.standpoint.setTape({});
    setCursor(on ? Qt::SplitHCursor : Qt::CrossCursor);
    moveMark();
}

void GroundView::mousePressEvent(QMouseEvent* e) {
    setFocus();
    if (hand_ && !hand_->waits()) return;
    const HandEvent event = handEvent(e->position(), e->modifiers(), e->button());
    if (e->button() == Qt::LeftButton) hoverAt(e->position());
    pressHand(event);
}

void GroundView::pressHand(const HandEvent& event) {
    withHand([&] {
        if (event.button != Qt::LeftButton) {
            std::unique_ptr<Hand> camera = cameraHand(*this, event);
            if (!camera) return;
            camera->aside = std::move(hand_);
            hand_ = std::move(camera);
        } else if (hand_) {
            hand_->press(event);
        } else if (taping_) {
            if (event.ground) hand_ = std::make_unique<TapeHand>(*this, event);
        } else if (takeHand) {
            hand_ = takeHand(event);
        }
    });
}

void GroundView::mouseDoubleClickEvent(QMouseEvent* e) {
    // The second press of a double click is a press like any other, unless the hand that waits wants to know.
    if (e->button() != Qt::LeftButton || !hand_ || !hand_->waits()) return mousePressEvent(e);
    withHand([&] { hand_->doublePress(handEvent(e->position(), e->modifiers(), e->button())); });
}

void GroundView::mouseMoveEvent(QMouseEvent* e) {
    if (hand_ && hand_->takesKeys())
        return withHand([&] { hand_->move({e->position(), {}, e->modifiers(), Qt::NoButton, 1}); });
    if (hand_) withHand([&] { hand_->move(handEvent(e->position(), e->modifiers())); });
    hoverAt(e->position());
}

void GroundView::mouseReleaseEvent(QMouseEvent* e) {
    if (hand_ && hand_->takesKeys()) return;
    if (hand_) withHand([&] { hand_->release(handEvent(e->position(), e->modifiers(), e->button())); });
    if (e->button() == Qt::LeftButton) pressure_ = 1;
    hoverAt(e->position());
}

void GroundView::tabletEvent(QTabletEvent* e) {
    // The same movement arrives as a mouse event afterwards, because this one is not accepted.
    pressure_ = e->type() == QEvent::TabletRelease ? 1.f : static_cast<float>(std::max(e->pressure(), 0.01));
    e->ignore();
}

void GroundView::wheelEvent(QWheelEvent* e) {
    const double steps = e->angleDelta().y() / 120.0;
    if ((hand_ && hand_->holdsCamera()) || steps == 0) return;
    const Ray ray = camera_.ray(e->position().x() * devicePixel(), e->position().y() * devicePixel());
    const auto at = pick(e->position());
    const glm::dvec3 towards = at ? *at : ray.from + ray.along * std::max(20.0, navigator().heightAbove(camera_));
    setCamera(navigator().zoom(camera_, towards, 1 - std::pow(0.85, steps)));
    hoverAt(e->position());
}

void GroundView::leaveEvent(QEvent*) {
    if (hand_) return;
    hover_.reset();
    moveMark();
}

bool GroundView::event(QEvent* e) {
    if (e->type() == QEvent::ShortcutOverride && hand_ && hand_->takesKeys()) {
        const auto* key = static_cast<QKeyEvent*>(e);
        const bool function = key->key() >= Qt::Key_F1 && key->key() <= Qt::Key_F35;
        if (!function && !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
            e->accept();
            return true;
        }
    }
    // Tab would move the focus before anybody is asked.
    if (e->type() == QEvent::KeyPress && hand_ && hand_->takesKeys()) {
        auto* key = static_cast<QKeyEvent*>(e);
        if (key->key() == Qt::Key_Tab || key->key() == Qt::Key_Backtab) {
            keyPressEvent(key);
            return true;
        }
    }
    return QWidget::event(e);
}

void GroundView::keyPressEvent(QKeyEvent* e) {
    bool taken = false;
    if (hand_) withHand([&] { taken = hand_->key(e); });
    if (taken || travel_.press(e)) return;
    if (isPressKey(e) && !(e->modifiers() & Qt::ControlModifier)) return pressByKey(e);
    if (e->key() == Qt::Key_Escape && hand_) return letGo(true);
    if (e->key() == Qt::Key_Escape && workplace_.clips.held()) return workplace_.clips.putAway();
    if (e->key() == Qt::Key_Escape && putAway && putAway()) return;
    QWidget::keyPressEvent(e);
}

// Without a mouse the hand works where the cursor was left, or in the middle of the view; travelling takes it along.
void GroundView::pressByKey(QKeyEvent* e) {
    if (e->isAutoRepeat() || (hand_ && !hand_->waits())) return;
    if (!hover_) hoverAt(QPointF(width() / 2.0, height() / 2.0));
    keyPressed_ = true;
    pressHand(handEvent(*hover_, e->modifiers(), Qt::LeftButton));
}

void GroundView::keyReleaseEvent(QKeyEvent* e) {
    if (hand_) {
        bool taken = false;
        withHand([&] { taken = hand_->keyUp(e); });
        if (taken) return;
    }
    travel_.release(e);
    if (isPressKey(e) && !e->isAutoRepeat() && std::exchange(keyPressed_, false)) {
        if (hand_ && hover_) withHand([&] { hand_->release(handEvent(*hover_, e->modifiers(), Qt::LeftButton)); });
        return hoverAgain();
    }
    QWidget::keyReleaseEvent(e);
}

void GroundView::focusOutEvent(QFocusEvent* e) {
    letGo();
    QWidget::focusOutEvent(e);
}

void GroundView::showEvent(QShowEvent* e) {
    window()->installEventFilter(this);
    QWidget::showEvent(e);
}

bool GroundView::eventFilter(QObject* watched, QEvent* e) {
    // A dialog, or another program, takes the mouse: its release would never come here.
    if (e->type() == QEvent::WindowBlocked || e->type() == QEvent::WindowDeactivate) letGo();
    return QWidget::eventFilter(watched, e);
}

}  // namespace jam
