// What is found out beside the window once its matter has rested for a moment: it gives way to the hand, and is dropped
// and begun anew whenever that matter changes meanwhile.
#pragma once

#include <QTimer>

#include "tasks/task.h"

namespace jam {

class WhenRested : public QObject {
    Q_OBJECT
public:
    // What was found, told on the window's thread when nothing has changed meanwhile.
    using Found = std::function<void()>;
    // Runs on the task's thread, with nothing but what it was given.
    using Job = std::function<Found(const Context&)>;
    // `what` it does, for people. `begin` gives what is to be done; an empty job when there is nothing. It may ask for
    // later() once more.
    WhenRested(const QString& what, int restMs, std::function<Job()> begin, QObject* parent = nullptr);

    // Something has changed: what runs is dropped, and it begins when that has rested.
    void later();
    void now();
    bool busy() const { return task_.running() || rest_.isActive(); }

signals:
    // What was thrown, such as no memory, in words; it is tried again when something changes.
    void failed(const Error& error);

private:
    const QString what_;
    std::function<Job()> begin_;
    QTimer rest_;
    Task task_{Task::Priority::aside};  // the last, because what runs reads the others
};

}  // namespace jam
