// What the hand does in the view: mouse, keys, pen, and when it is let go.
#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <utility>

#include "view/camera_hands.h"
#include "view/ground_view.h"

namespace jam {

namespace {
bool isPressKey(const QKeyEvent* e) { return e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter; }
}  // namespace

void GroundView::hoverAt(const QPointF& pixel) {
    hover_ = pixel;
    workplace_.standpoint.setCursor(pick(pixel));
    marks_->moveBrush();
    presenter().hover();
}

void GroundView::hoverAgain() {
    if (hover_) hoverAt(*hover_);
}

HandEvent GroundView::handEvent(const QPointF& pixel, Qt::KeyboardModifiers modifiers, Qt::MouseButton button) const {
    return {pixel, pick(pixel), modifiers, button, pressure_};
}

void GroundView::letGo(bool drop) {
    travel_.letGo();
    hands_.letGo(drop);
}

void GroundView::takeUp(std::unique_ptr<Hand> hand) {
    letGo();
    setFocus();
    hands_.with([&] { hands_.take(std::move(hand)); });
}

bool GroundView::handling() const { return hands_.brushAt().has_value(); }

void GroundView::setHandling(bool on) {
    if (on == handling()) return;
    const auto& at = workplace_.standpoint.cursor();
    if (on && (hand() || !at || !workplace_.brushing())) return;
    if (!on) hands_.letGoOfBrush();
    else if (takeHandles) hands_.with([&] { hands_.take(takeHandles(*at)); });
    marks_->repaint();
}

void GroundView::setTaping(bool on) {
    if (on == taping_) return;
    letGo();
    taping_ = on;
    if (!on) workplace_.standpoint.setTape({});
    setCursor(on ? Qt::SplitHCursor : Qt::CrossCursor);
    marks_->moveBrush();
}

void GroundView::mousePressEvent(QMouseEvent* e) {
    setFocus();
    if (hand() && !hand()->waits()) return;
    const HandEvent event = handEvent(e->position(), e->modifiers(), e->button());
    if (e->button() == Qt::LeftButton) hoverAt(e->position());
    pressHand(event);
}

void GroundView::pressHand(const HandEvent& event) {
    hands_.with([&] {
        if (event.button != Qt::LeftButton) {
            std::unique_ptr<Hand> camera = cameraHand(*this, event);
            if (!camera) return;
            hands_.layOver(std::move(camera));
        } else if (hand()) {
            hand()->press(event);
        } else if (taping_) {
            if (event.ground && takeTape) hands_.take(takeTape(event));
        } else if (takeHand) {
            hands_.take(takeHand(event));
        }
    });
}

void GroundView::mouseDoubleClickEvent(QMouseEvent* e) {
    // The second press of a double click is a press like any other, unless the hand that waits wants to know.
    if (e->button() != Qt::LeftButton || !hand() || !hand()->waits()) return mousePressEvent(e);
    hands_.with([&] { hand()->doublePress(handEvent(e->position(), e->modifiers(), e->button())); });
}

void GroundView::mouseMoveEvent(QMouseEvent* e) {
    if (hand() && hand()->takesKeys())
        return hands_.with([&] { hand()->move({e->position(), {}, e->modifiers(), Qt::NoButton, 1}); });
    if (hand()) hands_.with([&] { hand()->move(handEvent(e->position(), e->modifiers())); });
    hoverAt(e->position());
}

void GroundView::mouseReleaseEvent(QMouseEvent* e) {
    if (hand() && hand()->takesKeys()) return;
    if (hand()) hands_.with([&] { hand()->release(handEvent(e->position(), e->modifiers(), e->button())); });
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
    if ((hand() && hand()->holdsCamera()) || steps == 0) return;
    const Ray ray = camera().ray(e->position().x() * devicePixel(), e->position().y() * devicePixel());
    const auto at = pick(e->position());
    const glm::dvec3 towards = at ? *at : ray.from + ray.along * std::max(20.0, navigator().heightAbove(camera()));
    setCamera(navigator().zoom(camera(), towards, 1 - std::pow(0.85, steps)));
    hoverAt(e->position());
}

void GroundView::leaveEvent(QEvent*) {
    if (hand()) return;
    hover_.reset();
    marks_->moveBrush();
}

bool GroundView::event(QEvent* e) {
    if (e->type() == QEvent::ShortcutOverride && hand() && hand()->takesKeys()) {
        const auto* key = static_cast<QKeyEvent*>(e);
        const bool function = key->key() >= Qt::Key_F1 && key->key() <= Qt::Key_F35;
        if (!function && !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
            e->accept();
            return true;
        }
    }
    // Tab would move the focus before anybody is asked.
    if (e->type() == QEvent::KeyPress && hand() && hand()->takesKeys()) {
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
    if (hand()) hands_.with([&] { taken = hand()->key(e); });
    if (taken || travel_.press(e)) return;
    if (isPressKey(e) && !(e->modifiers() & Qt::ControlModifier)) return pressByKey(e);
    if (e->key() == Qt::Key_Escape && hand()) return letGo(true);
    if (e->key() == Qt::Key_Escape && workplace_.clips.held()) return workplace_.clips.putAway();
    if (e->key() == Qt::Key_Escape && putAway && putAway()) return;
    QWidget::keyPressEvent(e);
}

// Without a mouse the hand works where the cursor was left, or in the middle of the view; travelling takes it along.
void GroundView::pressByKey(QKeyEvent* e) {
    if (e->isAutoRepeat() || (hand() && !hand()->waits())) return;
    if (!hover_) hoverAt(QPointF(width() / 2.0, height() / 2.0));
    keyPressed_ = true;
    pressHand(handEvent(*hover_, e->modifiers(), Qt::LeftButton));
}

void GroundView::keyReleaseEvent(QKeyEvent* e) {
    if (hand()) {
        bool taken = false;
        hands_.with([&] { taken = hand()->keyUp(e); });
        if (taken) return;
    }
    travel_.release(e);
    if (isPressKey(e) && !e->isAutoRepeat() && std::exchange(keyPressed_, false)) {
        if (hand() && hover_) hands_.with([&] { hand()->release(handEvent(*hover_, e->modifiers(), Qt::LeftButton)); });
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
