// Anything that is done beside the window: a thread of its own for as long as it lasts, with a name, a priority,
// progress and cancel. What is thrown there becomes an error in words. All that works beside the window is one of
// these.
#pragma once

#include <atomic>
#include <deque>
#include <functional>
#include <memory>
#include <optional>
#include <QObject>
#include <QString>
#include <thread>

#include "base/context.h"

namespace jam {

// What an exception says, for people. Call inside a catch.
Error caughtError(const QString& what);

class Task : public QObject {
    Q_OBJECT
public:
    // Somebody waits for it; or it gives way to the hand, with all that helps it.
    enum class Priority { asked, aside };
    // What is worked out on its thread, with nothing but what it holds, and what is done with that on this one.
    template <class T>
    using Job = std::function<Result<T>(const Context&)>;
    template <class T>
    using Told = std::function<void(Result<T>)>;

    explicit Task(Priority priority = Priority::asked, QObject* parent = nullptr)
        : QObject(parent), priority_(priority) {}
    // Stops what runs and waits for it; nothing is told any more.
    ~Task() override;

    // Runs a job in place of the one before, which is stopped and never told; it begins once that one's thread has
    // ended.
    template <class T>
    void run(const QString& what, Job<T> job, Told<T> told);

    // Whether a job runs, or is about to, that will be told.
    bool running() const { return turn_.has_value(); }
    // Its name; empty when none runs.
    QString what() const { return turn_ ? turn_->what : QString(); }
    // Asks it to stop. It is told what it gives then, as a rule cancelledError().
    void cancel();
    // Stops it, and it is never told.
    void drop();
    // The same, and waits for its thread without handling events; what was to come afterwards is forgotten.
    void stop();
    // Waits until it was told, and what was to come afterwards has, handling events meanwhile.
    void wait();

    // Does this when nothing runs: at once, or in its turn after what runs was told.
    void afterwards(std::function<void()> then);
    bool hasTurns() const { return !afterwards_.empty(); }

    // Its job serves for as long as the task lives: nobody waits for its end. To be said before it runs.
    void serve() { serves_ = true; }
    // How many tasks of the program have a thread, told or not; without those that serve.
    static int underWay() { return underWay_; }

signals:
    void begun();
    void progressed(double share);
    void ended();  // before it is told

private:
    using Tell = std::function<void()>;
    using Stop = std::shared_ptr<std::atomic<bool>>;
    struct Turn {
        QString what;
        std::function<Tell(const Context&)> run;
        Stop stop;
    };

    void take(Turn turn);
    void start();
    void finish(const Stop& mine, const Tell& tell);
    void join();

    static inline int underWay_ = 0;

    const Priority priority_;
    bool serves_ = false;
    std::optional<Turn> turn_;  // that will be told; not started while the thread of one before it is there
    std::thread thread_;
    Stop threadStop_;  // of the job on thread_, told or not; null when there is none
    std::deque<std::function<void()>> afterwards_;
};

template <class T>
void Task::run(const QString& what, Job<T> job, Told<T> told) {
    take({what,
          [what, job = std::move(job), told = std::move(told)](const Context& context) -> Tell {
              auto made = std::make_shared<std::optional<Result<T>>>();
              try {
                  made->emplace(job(context));
              } catch (...) {
                  made->emplace(caughtError(what));
              }
              return [told, made] { told(std::move(**made)); };
          },
          std::make_shared<std::atomic<bool>>(false)});
}

}  // namespace jam
