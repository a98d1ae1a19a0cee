// Compiles the ground's shader variants beside the window, in a task with a context of its own.
#pragma once

#include <memory>
#include <QOffscreenSurface>

#include "render/software/variant_queue.h"
#include "tasks/task.h"

namespace jam {

class VariantMaker {
public:
    // On the interface thread, which surfaces need.
    VariantMaker();
    ~VariantMaker();

    const std::shared_ptr<VariantQueue>& queue() const { return variants_; }

private:
    void work();

    std::shared_ptr<VariantQueue> variants_ = std::make_shared<VariantQueue>();
    QOffscreenSurface offscreen_;
    Task compiling_{Task::Priority::aside};
};

}  // namespace jam
