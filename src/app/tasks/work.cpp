#include "tasks/work.h"

namespace jam {

bool Work::refused(const void* owner) {
    if (!running() || (owner && isOf(owner))) return false;
    emit said(tr("Wait until “%1” is done.").arg(what()));
    return true;
}

}  // namespace jam
