// The first minute: a strip that shows moving, shaping, painting and taking back by doing, each ticked off when it is
// done. Gone for good afterwards; the menu brings it back.
#pragma once

#include <array>
#include <glm/vec3.hpp>
#include <QWidget>

class QLabel;
class QToolButton;

namespace jam {

class Actions;
class GroundView;
class Workplace;

class FirstMinute : public QWidget {
    Q_OBJECT
public:
    // The actions outlive it; their keys are told as they are set.
    FirstMinute(Workplace& place, GroundView& view, const Actions& actions, QWidget* parent = nullptr);

    // Whether it was never done or put away.
    static bool wanted();
    // Shows it from the start.
    void begin();

    enum Step { move, shape, paint, takeBack };
    static constexpr int kSteps = 4;
    bool done(Step step) const { return done_[step]; }

private:
    void standStill();
    void tick(Step step);
    void putAway();
    void write();

    Workplace& place_;
    GroundView& view_;
    const Actions& actions_;
    std::array<bool, kSteps> done_{};
    std::array<QLabel*, kSteps> steps_{};
    QLabel* end_;
    // Where the camera stands without the hand's doing, and how many steps there were to take back.
    glm::dvec3 at_{0};
    double yaw_ = 0, pitch_ = 0;
    size_t placeBefore_ = 0;
};

}  // namespace jam
