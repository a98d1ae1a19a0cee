#include "hands/walk_hand.h"

#include <algorithm>
#include <cmath>
#include <QCursor>
#include <QKeyEvent>
#include <QPainter>

#include "base/maths.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {

constexpr double kLookDegrees = 0.16;  // for each pixel
constexpr double kJumped = 160;        // pixels that no hand moves between two events: the cursor was put elsewhere
constexpr double kLongestTick = 0.1;   // seconds; after a stall the walk goes on slower and not in leaps
const QSet<int> kKeys = {Qt::Key_W,  Qt::Key_A,    Qt::Key_S,    Qt::Key_D,     Qt::Key_Space, Qt::Key_Shift,
                         Qt::Key_Up, Qt::Key_Down, Qt::Key_Left, Qt::Key_Right, Qt::Key_C};

}  // namespace

WalkHand::WalkHand(GroundView& view, const Begin& begin, Ended ended)
    : Hand(view), begin_(begin), ended_(std::move(ended)), before_(view.camera()), cursor_(view.cursor()),
      level_(view.workplace().document.standing()), yaw_(begin.heading), pitch_(begin.pitch) {
    timer_.setInterval(8);
    timer_.setTimerType(Qt::PreciseTimer);
    QObject::connect(&timer_, &QTimer::timeout, &view, [this] { tick(); });
    view.setCursor(Qt::BlankCursor);
    this->begin();
}

WalkHand::~WalkHand() {
    if (!done_) view_.setCursor(cursor_);
}

void WalkHand::begin() {
    if (begin_.again) begin_.body = begin_.again->body, begin_.x = begin_.again->x, begin_.z = begin_.again->z;
    walker_ = std::make_unique<Walker>(level_, begin_.body, begin_.x, begin_.z);
    follower_ = begin_.along ? std::make_unique<WayFollower>(*begin_.along) : nullptr;
    record_ = recordAt(level_, begin_.body, begin_.x, begin_.z);
    run_ = inRun_ = 0;
    owed_ = 0;
    told_ = false;
    eye_ = walker_->state().y;
    clock_.start();
    timer_.start();
    showEye(1);
}

WalkInput WalkHand::inputNow() {
    if (begin_.again && run_ < begin_.again->runs.size()) {
        const WalkRecord::Run& run = begin_.again->runs[run_];
        if (++inRun_ >= run.steps) ++run_, inRun_ = 0;
        yaw_ = degreesOf(run.input.heading);
        return run.input;
    }
    if (follower_ && !follower_->there() && !follower_->stuck()) {
        const WalkInput in = follower_->next(walker_->state());
        // The eye turns more gently than the feet.
        const double to = std::remainder(degreesOf(in.heading) - yaw_, 360.0);
        if (in.forward > 0) yaw_ += std::clamp(to, -240 * Walker::kStep, 240 * Walker::kStep);
        return in;
    }
    WalkInput in;
    const auto held = [this](int a, int b) { return held_.contains(a) || held_.contains(b); };
    in.forward = static_cast<int8_t>(held(Qt::Key_W, Qt::Key_Up) - held(Qt::Key_S, Qt::Key_Down));
    in.right = static_cast<int8_t>(held_.contains(Qt::Key_D) - held_.contains(Qt::Key_A));
    in.heading = headingOf(yaw_);
    in.run = held_.contains(Qt::Key_Shift);
    in.jump = held_.contains(Qt::Key_Space);
    in.dive = held_.contains(Qt::Key_C);
    return in;
}

void WalkHand::tick() {
    const double seconds = std::min(static_cast<double>(clock_.nsecsElapsed()) * 1e-9, kLongestTick);
    clock_.restart();
    const double turns = 90 * seconds * (held_.contains(Qt::Key_Right) - held_.contains(Qt::Key_Left));
    yaw_ += turns;
    owed_ += seconds;
    for (; owed_ >= Walker::kStep; owed_ -= Walker::kStep) {
        if (walker_->state().gait == Gait::lost || record_.steps() >= kMostWalkSteps) continue;
        const WalkInput in = inputNow();
        walker_->step(in);
        record_.add(in);
    }
    if (walker_->state().gait == Gait::lost && !std::exchange(told_, true))
        view_.workplace().tell(GroundView::tr("The %1 %2. Enter begins again, Esc goes back.")
                                   .arg(QString::fromStdString(begin_.body.name),
                                        QString::fromStdString(lossInWords(level_, walker_->state()))));
    showEye(seconds);
    // While nothing moves, nothing else would paint what is told.
    if (const QString now = line() + says(); now != painted_) {
        painted_ = now;
        view_.marks().repaint();
    }
}

// The eye follows the feet, smoothly over steps.
void WalkHand::showEye(double seconds) {
    const WalkState& s = walker_->state();
    const bool smooth = s.gait == Gait::firm || s.gait == Gait::stepping;
    const double way = s.y - eye_;
    eye_ = smooth && std::abs(way) > 0.001 && std::abs(way) < 1 ? eye_ + way * std::min(18 * seconds, 1.0) : s.y;
    Camera c = before_;
    c.at = {s.x, eye_ + walker_->eye(), s.z};
    c.yaw = yaw_ - 360 * std::floor(yaw_ / 360);
    c.pitch = pitch_;
    UnderWater under;
    if (const WaterLook* look = level_.waterLook(s.body); look && walker_->eyeUnderWater() > 0) {
        const auto deep = static_cast<float>(walker_->eyeUnderWater());
        under.metres = look->clearness;
        under.deep = deep;
        under.colour = {look->colour[0], look->colour[1], look->colour[2]};
    }
    view_.setUnderWater(under);
    view_.setCamera(c);
}

void WalkHand::move(const HandEvent& e) {
    const QPointF middle(view_.width() / 2.0, view_.height() / 2.0);
    if (!last_) last_ = e.pixel;
    const QPointF way = e.pixel - *last_;
    last_ = e.pixel;
    if (std::hypot(way.x(), way.y()) > kJumped) return;
    if (!begin_.again && !(follower_ && !follower_->there())) yaw_ += way.x() * kLookDegrees;
    pitch_ = std::clamp(pitch_ - way.y() * kLookDegrees, -88.0, 88.0);
    // It goes on for ever: near the rim of the view the cursor is put back to its middle.
    const QPointF from = e.pixel - middle;
    if (std::abs(from.x()) > view_.width() * 0.3 || std::abs(from.y()) > view_.height() * 0.3) {
        QCursor::setPos(view_.mapToGlobal(middle.toPoint()));
        last_ = middle;
    }
}

bool WalkHand::key(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) return false;  // the view lets it go
    const bool begins = e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter;
    if (begins && !e->isAutoRepeat()) begin();
    if (!e->isAutoRepeat() && kKeys.contains(e->key())) {
        held_.insert(e->key());
        // Who takes a key goes on by himself.
        if (e->key() != Qt::Key_Shift) begin_.again.reset(), follower_.reset();
    }
    return true;  // nothing else happens meanwhile
}

bool WalkHand::keyUp(QKeyEvent* e) {
    if (!e->isAutoRepeat()) held_.remove(e->key());
    return true;
}

void WalkHand::letGo(bool) {
    done_ = true;
    timer_.stop();
    view_.setUnderWater({});
    view_.setCamera(before_);
    view_.setCursor(cursor_);
    if (ended_) ended_(std::move(record_));
}

QString WalkHand::line() const {
    const WalkState& s = walker_->state();
    const double speed = std::sqrt(s.vx * s.vx + s.vz * s.vz);
    QStringList parts{GroundView::tr("%1 m/s").arg(speed, 0, 'f', 1),
                      GroundView::tr("slope %1°").arg(walker_->slopeHere(), 0, 'f', 0),
                      GroundView::tr("altitude %1 m").arg(s.y, 0, 'f', 1)};
    switch (s.gait) {
        case Gait::firm:
        case Gait::stepping: break;
        case Gait::sliding: parts << GroundView::tr("sliding"); break;
        case Gait::air: parts << GroundView::tr("in the air"); break;
        case Gait::swimming:
            parts << (walker_->eyeUnderWater() > 0 ? GroundView::tr("diving") : GroundView::tr("swimming"));
            break;
        case Gait::lost: break;
    }
    if (s.depth > 0.05) parts << GroundView::tr("%1 m of water").arg(s.depth, 0, 'f', 1);
    return parts.join("   ");
}

QString WalkHand::says() const {
    const WalkState& s = walker_->state();
    if (s.gait == Gait::lost)
        return GroundView::tr("The %1 %2.   Enter: begin again   Esc: back to where you looked from")
            .arg(QString::fromStdString(begin_.body.name), QString::fromStdString(lossInWords(level_, s)));
    if (follower_ && follower_->stuck()) return GroundView::tr("It does not get on here.   Esc: back");
    if (follower_ && follower_->there()) return GroundView::tr("It is there.   Esc: back");
    if (record_.seconds() < 6 && !begin_.again && !follower_)
        return GroundView::tr("W A S D walk   Shift runs   Space jumps   C dives   Esc: back");
    return {};
}

void WalkHand::paint(QPainter& p) const {
    const double w = view_.width(), h = view_.height();
    const QPointF middle(w / 2, h / 2);
    // Where one looks: a small cross that shows on any ground.
    for (const auto& [wide, colour] : {std::pair{3.0, kShadowInk}, {1.2, QColor(250, 246, 238)}}) {
        p.setPen(QPen(colour, wide));
        for (const QPointF& d : {QPointF(1, 0), {-1, 0}, {0, 1}, {0, -1}}) p.drawLine(middle + 3 * d, middle + 8 * d);
    }
    paintLabel(p, {14, h - 12}, line());
    const QString says = this->says();
    if (says.isEmpty()) return;
    const int wide = p.fontMetrics().horizontalAdvance(says);
    paintLabel(p, {(w - wide) / 2, 34}, says);
}

}  // namespace jam
