#include "tasks/fence_job.h"

#include <QCoreApplication>

#include "fence/fence.h"

namespace jam {

LevelJob fenceJob(std::vector<Thing> of, FenceChange change) {
    return LevelJob::on(std::move(of), [change = std::move(change)](Level& level, const Context& context) -> Status {
        if (!change(level, context)) return cancelledError();
        const auto tr = [](const char* text) { return QCoreApplication::translate("jam::Fence", text).toStdString(); };
        if (fenceEmpty(level))
            return Error{"", "", tr("Nothing would lie inside the fence"),
                         tr("choose other limits; the fence stays as it was")};
        return {};
    });
}

}  // namespace jam
