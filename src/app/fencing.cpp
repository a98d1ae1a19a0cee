#include "fencing.h"

#include <QCoreApplication>

#include "base/context.h"
#include "fence/fence.h"

namespace jam {

LevelJob fenceJob(std::function<bool(Level&, const Context&)> change) {
    return [change = std::move(change)](const Level& before, const Context& context) -> Result<Level> {
        Level after = before;
        if (!change(after, context)) return cancelledError();
        const auto tr = [](const char* text) { return QCoreApplication::translate("jam::Fence", text).toStdString(); };
        if (fenceEmpty(after))
            return Error{"", "", tr("Nothing would lie inside the fence"),
                         tr("choose other limits; the fence stays as it was")};
        return after;
    };
}

}  // namespace jam
