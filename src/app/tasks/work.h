// The work that somebody asked for and waits for: one at a time, its progress shown at the bench, and it can be
// cancelled.
#pragma once

#include "tasks/task.h"

namespace jam {

class Work : public Task {
    Q_OBJECT
public:
    explicit Work(QObject* parent = nullptr) : Task(Priority::asked, parent) {}

    // Runs `job` beside the window, then `told` here with what it gave. Says why not, and returns false, when other
    // work is running; work of the same `owner` makes room for it. What only `reads` may end with the program; what
    // makes something is asked about.
    template <class T>
    bool start(const QString& what, Job<T> job, Told<T> told, bool reads = false, const void* owner = nullptr) {
        if (refused(owner)) return false;
        makes_ = !reads;
        owner_ = owner;
        run<T>(what, std::move(job), std::move(told));
        return true;
    }
    // Whether what runs was started by this owner.
    bool isOf(const void* owner) const { return running() && owner_ == owner; }
    // Whether what it does would be missed.
    bool makes() const { return (running() && makes_) || hasTurns(); }

signals:
    void said(const QString& sentence);

private:
    bool refused(const void* owner);

    bool makes_ = false;
    const void* owner_ = nullptr;
};

}  // namespace jam
