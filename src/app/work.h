// Long work off the interface thread: one at a time, with progress, and it can be cancelled.
#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <QFutureWatcher>
#include <QObject>
#include <QPromise>
#include <QString>
#include <QtConcurrent>

#include "base/context.h"

namespace jam {

// What an exception says, for people. Call inside a catch.
Error caughtError(const QString& what);

class Work : public QObject {
    Q_OBJECT
public:
    explicit Work(QObject* parent = nullptr) : QObject(parent) {}
    ~Work() override { abandon(); }

    // Runs `job` on another thread, then `outcome` on this one with what it gave; exceptions become errors. `job` holds
    // its own copies of all it needs. Says why not, and returns false, when other work is running. What only `reads`
    // may end with the program; what makes something is asked about.
    template <class T>
    bool start(const QString& what, std::function<Result<T>(const Context&)> job,
               std::function<void(Result<T>)> outcome, bool reads = false);

    bool running() const { return running_; }
    const QString& what() const { return what_; }
    // Whether what it does would be missed.
    bool makes() const { return makes_; }
    void cancel() {
        if (cancel_) *cancel_ = true;
    }
    // Waits for what runs, if anything, handling events meanwhile.
    void wait();
    // Cancels what runs and waits for it without handling events; its outcome is never told.
    void abandon();

signals:
    void started();
    void progressed(double share);
    void finished();  // before the outcome is told
    void said(const QString& sentence);

private:
    bool begin(const QString& what);
    void end();

    std::shared_ptr<std::atomic<bool>> cancel_;
    std::function<void()> join_;  // waits for the thread
    bool running_ = false, makes_ = false;
    QString what_;
};

template <class T>
bool Work::start(const QString& what, std::function<Result<T>(const Context&)> job,
                 std::function<void(Result<T>)> outcome, bool reads) {
    if (!begin(what)) return false;
    makes_ = !reads;
    using Outcome = std::shared_ptr<Result<T>>;
    QFuture<Outcome> future =
        QtConcurrent::run([what, job = std::move(job), cancel = cancel_](QPromise<Outcome>& promise) {
            constexpr int kSteps = 1000;
            promise.setProgressRange(0, kSteps);
            Context context;
            context.cancel = cancel.get();
            context.progress = [&promise](double share) { promise.setProgressValue(static_cast<int>(share * kSteps)); };
            try {
                promise.addResult(std::make_shared<Result<T>>(job(context)));
            } catch (...) {
                promise.addResult(std::make_shared<Result<T>>(caughtError(what)));
            }
        });
    join_ = [future]() mutable { future.waitForFinished(); };
    auto* watcher = new QFutureWatcher<Outcome>(this);
    connect(watcher, &QFutureWatcherBase::progressValueChanged, this, [this](int value) {
        if (running_) emit progressed(value / 1000.0);
    });
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, outcome = std::move(outcome)] {
        watcher->deleteLater();
        if (!running_) return;  // abandoned
        const Outcome made = watcher->result();
        end();
        outcome(std::move(*made));
    });
    watcher->setFuture(future);
    return true;
}

}  // namespace jam
