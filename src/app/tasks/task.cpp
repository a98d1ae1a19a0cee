#include "tasks/task.h"

#include <QCoreApplication>
#include <QEventLoop>
#include <QPointer>

#include "base/parallel.h"

namespace jam {

Error caughtError(const QString& what) {
    const std::string name = "“" + what.toStdString() + "”";
    try {
        throw;
    } catch (const std::bad_alloc&) {
        return {"", "", name + " needs more memory than there is", "close other programs, or work on a smaller level"};
    } catch (const std::exception& e) {
        return {"", "", name + " failed: " + e.what(), "the level is as it was; try again"};
    } catch (...) {
        return {"", "", name + " failed", "the level is as it was; try again"};
    }
}

Task::~Task() { stop(); }

void Task::take(Turn turn) {
    drop();
    turn_ = std::move(turn);
    if (!threadStop_) start();
    emit begun();
}

void Task::start() {
    constexpr int kSteps = 1000;
    threadStop_ = turn_->stop;
    underWay_ += !serves_;
    thread_ = std::thread([this, run = turn_->run, mine = turn_->stop] {
        if (priority_ == Priority::aside) giveWay();
        Context context;
        context.cancel = mine.get();
        std::atomic<int> told{-1};
        context.progress = [this, &told, &mine](double share) {
            const int step = static_cast<int>(share * kSteps);
            if (told.exchange(step) == step) return;
            QMetaObject::invokeMethod(
                this,
                [this, mine, step] {
                    if (turn_ && turn_->stop == mine) emit progressed(static_cast<double>(step) / kSteps);
                },
                Qt::QueuedConnection);
        };
        const Tell tell = run(context);
        QMetaObject::invokeMethod(
            this, [this, mine, tell] { finish(mine, tell); }, Qt::QueuedConnection);
    });
}

void Task::finish(const Stop& mine, const Tell& tell) {
    if (threadStop_ != mine) return;  // stop() has waited for it
    join();
    const QPointer<Task> alive(this);
    if (turn_ && turn_->stop == mine) {
        turn_.reset();
        emit ended();
        if (alive) tell();
    } else if (turn_) {
        start();
    }
    while (alive && !turn_ && !afterwards_.empty()) {
        const std::function<void()> then = std::move(afterwards_.front());
        afterwards_.pop_front();
        then();
    }
}

void Task::join() {
    thread_.join();
    threadStop_.reset();
    underWay_ -= !serves_;
}

void Task::cancel() {
    if (turn_) *turn_->stop = true;
}

void Task::drop() {
    if (threadStop_) *threadStop_ = true;
    turn_.reset();
}

void Task::stop() {
    drop();
    afterwards_.clear();
    if (thread_.joinable()) join();
}

void Task::wait() {
    while (turn_ || !afterwards_.empty())
        QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 50);
}

void Task::afterwards(std::function<void()> then) {
    if (turn_ || !afterwards_.empty()) afterwards_.push_back(std::move(then));
    else then();
}

}  // namespace jam
