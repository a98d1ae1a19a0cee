// Pictures beside the view follow the hand a moment later: many news are answered by one look, and the brush never
// waits for them.
#pragma once

#include <QElapsedTimer>
#include <QTimer>

namespace jam {

class AfterHand : public QTimer {
public:
    template <class Look>
    AfterHand(QObject* owner, Look look) : QTimer(owner) {
        setSingleShot(true);
        setTimerType(Qt::PreciseTimer);
        callOnTimeout(owner, [this, look] {
            looked_.start();
            look();
        });
    }
    // A look in every kMs at most. It comes just after the view has answered a move, while the next is not there yet:
    // anywhere else it would stand in the way of one.
    void later() {
        const qint64 wait = looked_.isValid() ? kMs - looked_.elapsed() : 0;
        const bool answering = isActive() && interval() == kAnsweredMs;
        if (wait <= 0 && !answering) start(kAnsweredMs);
        else if (!isActive()) start(static_cast<int>(wait) + kStillMs);
    }

private:
    static constexpr int kMs = 50;
    static constexpr int kAnsweredMs = 3;  // from a move to its answer, most likely
    static constexpr int kStillMs = 20;    // without another move the hand rests, and nothing waits

    QElapsedTimer looked_;
};

}  // namespace jam
