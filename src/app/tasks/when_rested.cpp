#include "tasks/when_rested.h"

namespace jam {

WhenRested::WhenRested(const QString& what, int restMs, std::function<Job()> begin, QObject* parent)
    : QObject(parent), what_(what), begin_(std::move(begin)) {
    rest_.setSingleShot(true);
    rest_.setInterval(restMs);
    connect(&rest_, &QTimer::timeout, this, &WhenRested::now);
}

void WhenRested::later() {
    task_.drop();
    rest_.start();
}

void WhenRested::now() {
    Job job = begin_();
    if (!job) return;
    task_.run<Found>(
        what_, [job = std::move(job)](const Context& context) -> Result<Found> { return job(context); },
        [this](Result<Found> found) {
            if (found) found.value()();
            else emit failed(found.error());
        });
}

}  // namespace jam
