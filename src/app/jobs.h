// Long work off the interface thread: one at a time, with progress, and it can be cancelled.
#pragma once

#include <QObject>
#include <QString>
#include <atomic>
#include <functional>
#include <memory>
#include <thread>

#include "base/context.h"

namespace jam {

class Jobs : public QObject {
    Q_OBJECT
public:
    explicit Jobs(QObject* parent = nullptr) : QObject(parent) {}
    ~Jobs() override;

    // Runs `work` on another thread, then `done` on this one. False when a job is already running.
    // `work` holds its own copies of all it needs.
    bool start(const QString& what, std::function<void(const Context&)> work, std::function<void()> done);
    bool running() const { return running_; }
    const QString& what() const { return what_; }
    void cancel() { cancel_ = true; }
    // Waits for the job that runs, if any, handling events meanwhile.
    void wait();

signals:
    void started();
    void progressed(double share);
    void finished();

private:
    std::thread thread_;
    std::atomic<bool> cancel_{false};
    bool running_ = false;
    QString what_;
};

}  // namespace jam
