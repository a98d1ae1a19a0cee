#include "view/travel.h"

#include <QKeyEvent>

#include "view/ground_view.h"

namespace jam {

namespace {
const QSet<int> kKeys = {Qt::Key_W, Qt::Key_A,    Qt::Key_S,     Qt::Key_D,  Qt::Key_Q,
                         Qt::Key_E, Qt::Key_Left, Qt::Key_Right, Qt::Key_Up, Qt::Key_Down};
constexpr double kTurnSpeed = 60, kTiltSpeed = 40;  // degrees a second
constexpr double kLongestStep = 0.1;                // seconds; a stall must not fling the camera away
}  // namespace

Travel::Travel(GroundView& view) : view_(view) {
    timer_.setInterval(16);
    QObject::connect(&timer_, &QTimer::timeout, &view, [this] { step(); });
}

bool Travel::press(QKeyEvent* e) {
    if (!kKeys.contains(e->key()) || (e->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) return false;
    if (e->isAutoRepeat()) return true;
    held_.insert(e->key());
    if (!timer_.isActive()) {
        clock_.start();
        timer_.start();
    }
    return true;
}

void Travel::release(QKeyEvent* e) {
    if (!e->isAutoRepeat()) held_.remove(e->key());
    if (held_.isEmpty()) timer_.stop();
}

void Travel::letGo() {
    held_.clear();
    timer_.stop();
}

void Travel::step() {
    const double seconds = std::min(static_cast<double>(clock_.restart()) / 1000, kLongestStep);
    const auto axis = [this](int more, int less) {
        return static_cast<double>(held_.contains(more)) - static_cast<double>(held_.contains(less));
    };
    const Navigator go = view_.navigator();
    const Camera turned = go.look(view_.camera(), axis(Qt::Key_Right, Qt::Key_Left) * kTurnSpeed * seconds,
                                  axis(Qt::Key_Up, Qt::Key_Down) * kTiltSpeed * seconds);
    view_.setCamera(
        go.travel(turned, axis(Qt::Key_W, Qt::Key_S), axis(Qt::Key_D, Qt::Key_A), axis(Qt::Key_E, Qt::Key_Q), seconds));
    view_.hoverAgain();
}

}  // namespace jam
