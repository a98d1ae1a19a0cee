// Takes room on the graphics side beside the window, in a task with a context that shares the window's textures.
#pragma once

#include <memory>
#include <QOffscreenSurface>
#include <QOpenGLContext>

#include "render/software/room_queue.h"
#include "tasks/task.h"

namespace jam {

class RoomMaker {
public:
    // On the interface thread; `shared` is the context that draws.
    explicit RoomMaker(QOpenGLContext& shared);
    ~RoomMaker();

    const std::shared_ptr<RoomQueue>& queue() const { return rooms_; }

private:
    std::shared_ptr<RoomQueue> rooms_ = std::make_shared<RoomQueue>();
    QOffscreenSurface offscreen_;
    std::unique_ptr<QOpenGLContext> context_;
    Task taking_;
};

}  // namespace jam
