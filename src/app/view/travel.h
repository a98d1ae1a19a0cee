// Travelling over the ground with held keys, while the other hand shapes. It is no Hand, because both go on at the same
// time; but it is let go at the same moments.
#pragma once

#include <QElapsedTimer>
#include <QSet>
#include <QTimer>

class QKeyEvent;

namespace jam {

class GroundView;

class Travel {
public:
    explicit Travel(GroundView& view);
    // True when the key was for travelling.
    bool press(QKeyEvent* e);
    void release(QKeyEvent* e);
    void letGo();
    bool going() const { return !held_.isEmpty(); }

private:
    void step();

    GroundView& view_;
    QTimer timer_;
    QElapsedTimer clock_;
    QSet<int> held_;
};

}  // namespace jam
