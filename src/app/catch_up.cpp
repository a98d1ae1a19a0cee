#include "catch_up.h"

#include <QFutureWatcher>
#include <QtConcurrent>

#include "base/parallel.h"
#include "work.h"

namespace jam {

void CatchUp::start(const Level& level, const Change& touched, uint64_t serial) {
    stop();
    cancel_ = std::make_shared<std::atomic<bool>>(false);
    using Outcome = std::shared_ptr<Result<Commit>>;
    auto* watcher = new QFutureWatcher<Outcome>(this);
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, serial, mine = cancel_] {
        watcher->deleteLater();
        if (mine != cancel_) return;  // another took its place
        cancel_.reset();
        const Outcome made = watcher->result();
        if (*made) emit caughtUp(serial, made->value().level);
        else emit failed(made->error());
    });
    watcher->setFuture(QtConcurrent::run([level, touched, cancel = cancel_] {
        Context context;
        context.cancel = cancel.get();
        Outcome made;
        try {
            gently([&] { made = std::make_shared<Result<Commit>>(commitWork(level, level, context, &touched)); });
        } catch (...) {
            made = std::make_shared<Result<Commit>>(caughtError("following the ground"));
        }
        return made;
    }));
}

void CatchUp::stop() {
    if (cancel_) *cancel_ = true;
    cancel_.reset();
}

}  // namespace jam
