// Pictures beside the view follow the hand a moment later: many news are answered by one look, and the brush never
// waits for them.
#pragma once

#include <QTimer>

namespace jam {

class AfterHand : public QTimer {
public:
    template <class Look>
    AfterHand(QObject* owner, Look look) : QTimer(owner) {
        setSingleShot(true);
        setInterval(kMs);
        callOnTimeout(owner, look);
    }
    // What is asked for already comes no later for being asked again.
    void later() {
        if (!isActive()) start();
    }

private:
    static constexpr int kMs = 50;
};

}  // namespace jam
