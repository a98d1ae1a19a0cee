#include "jobs.h"

#include <QCoreApplication>
#include <QEventLoop>

namespace jam {

Jobs::~Jobs() {
    cancel_ = true;
    if (thread_.joinable()) thread_.join();
}

bool Jobs::start(const QString& what, std::function<void(const Context&)> work, std::function<void()> done) {
    if (running_) return false;
    running_ = true;
    what_ = what;
    cancel_ = false;
    emit started();
    thread_ = std::thread([this, work = std::move(work), done = std::move(done)] {
        Context context;
        context.cancel = &cancel_;
        context.progress = [this](double share) {
            QMetaObject::invokeMethod(this, [this, share] { emit progressed(share); }, Qt::QueuedConnection);
        };
        work(context);
        QMetaObject::invokeMethod(this, [this, done] {
            thread_.join();
            running_ = false;
            emit finished();
            done();
        }, Qt::QueuedConnection);
    });
    return true;
}

void Jobs::wait() {
    while (running_) QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 50);
}

}  // namespace jam
