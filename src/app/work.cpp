#include "work.h"

#include <QCoreApplication>
#include <QEventLoop>

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

bool Work::begin(const QString& what) {
    if (running_) {
        emit said(tr("Wait until “%1” is done.").arg(what_));
        return false;
    }
    running_ = true;
    what_ = what;
    cancel_ = std::make_shared<std::atomic<bool>>(false);
    emit started();
    return true;
}

void Work::end() {
    running_ = false;
    emit finished();
}

void Work::wait() {
    while (running_) QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 50);
}

void Work::abandon() {
    if (!running_) return;
    cancel();
    join_();
    end();
}

}  // namespace jam
