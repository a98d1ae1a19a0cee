// A body in the level: the mouse looks, W A S D walk, Space jumps, Shift runs, C dives. Esc returns exactly to where
// one looked from. It may also walk a recorded walk again, or go along a way by itself.
#pragma once

#include <functional>
#include <QCursor>
#include <QElapsedTimer>
#include <QSet>
#include <QTimer>

#include "render/camera.h"
#include "view/hand.h"
#include "walk/follow.h"
#include "walk/recording.h"

namespace jam {

class WalkHand : public Hand {
public:
    struct Begin {
        double x = 0, z = 0;             // metres
        double heading = 0, pitch = -4;  // degrees
        Body body;
        std::shared_ptr<const WalkRecord> again;  // a walk to be walked again
        std::shared_ptr<const Way> along;         // a way to go by itself
    };
    // `ended` is told what was walked, when it is over.
    using Ended = std::function<void(WalkRecord)>;
    WalkHand(GroundView& view, const Begin& begin, Ended ended);
    ~WalkHand() override;

    void move(const HandEvent& e) override;
    bool key(QKeyEvent* e) override;
    bool keyUp(QKeyEvent* e) override;
    void paint(QPainter& p) const override;
    void letGo(bool drop) override;
    bool holdsCamera() const override { return true; }
    bool takesKeys() const override { return true; }
    bool drawsWide() const override { return true; }

    const WalkState& state() const { return walker_->state(); }

private:
    void begin();
    void tick();
    WalkInput inputNow();
    void showEye(double seconds);
    QString line() const;  // how it goes
    QString says() const;  // what there is to know, in the middle

    Begin begin_;
    Ended ended_;
    Camera before_;
    QCursor cursor_;  // that the view had
    Level level_;     // as it was when the walk began
    std::unique_ptr<Walker> walker_;
    std::unique_ptr<WayFollower> follower_;
    WalkRecord record_;
    size_t run_ = 0;  // of the walk that is walked again
    uint32_t inRun_ = 0;
    QTimer timer_;
    QElapsedTimer clock_;
    double owed_ = 0;  // seconds of time that no step was taken for yet
    QSet<int> held_;
    double yaw_, pitch_, eye_ = 0;
    std::optional<QPointF> last_;
    bool told_ = false;
    QString painted_;
};

}  // namespace jam
