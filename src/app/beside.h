// What is found out beside the window: it begins when its matter has rested for a moment, on a thread that gives way to
// the hand, and is dropped and begun anew whenever that changes meanwhile.
#pragma once

#include <atomic>
#include <functional>
#include <QObject>
#include <QTimer>
#include <thread>

#include "base/context.h"

namespace jam {

class Beside : public QObject {
    Q_OBJECT
public:
    // What was found, told on the window's thread when nothing has changed meanwhile.
    using Found = std::function<void()>;
    // Runs on a thread of its own, with nothing but what it was given.
    using Job = std::function<Found(const Context&)>;
    // `what` it does, for people. `begin` gives what is to be done; an empty job when there is nothing. It may ask for
    // later() once more.
    Beside(const QString& what, int restMs, std::function<Job()> begin, QObject* parent = nullptr);
    ~Beside() override;

    // Something has changed: what runs is dropped, and it begins when that has rested.
    void later();
    void now();
    bool busy() const { return running_ || rest_.isActive(); }

signals:
    // What was thrown, such as no memory, in words; it is tried again when something changes.
    void failed(const Error& error);

private:
    void end(const Found& found);

    const QString what_;
    std::function<Job()> begin_;
    QTimer rest_;
    std::thread thread_;
    std::atomic<bool> cancel_{false};
    bool running_ = false, again_ = false;
};

}  // namespace jam
