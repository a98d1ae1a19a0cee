#include "beside.h"

#include <utility>

#include "base/parallel.h"
#include "work.h"

namespace jam {

Beside::Beside(const QString& what, int restMs, std::function<Job()> begin, QObject* parent)
    : QObject(parent), what_(what), begin_(std::move(begin)) {
    rest_.setSingleShot(true);
    rest_.setInterval(restMs);
    connect(&rest_, &QTimer::timeout, this, &Beside::now);
}

Beside::~Beside() {
    cancel_ = true;
    if (thread_.joinable()) thread_.join();
}

void Beside::later() {
    cancel_ = true;
    rest_.start();
}

void Beside::now() {
    if (running_) {
        again_ = true;
        return;
    }
    Job job = begin_();
    if (!job) return;
    running_ = true;
    cancel_ = false;
    thread_ = std::thread([this, job = std::move(job)] {
        giveWay();
        Context context;
        context.cancel = &cancel_;
        Found found;
        try {
            found = job(context);
        } catch (...) {
            found = [this, error = caughtError(what_)] { emit failed(error); };
        }
        QMetaObject::invokeMethod(
            this, [this, found] { end(found); }, Qt::QueuedConnection);
    });
}

void Beside::end(const Found& found) {
    thread_.join();
    running_ = false;
    // What was dropped told of a matter that was.
    const bool whole = !cancel_;
    if (whole) found();
    if (std::exchange(again_, false) || !whole) rest_.start();
}

}  // namespace jam
