#include "view/room_maker.h"

#include <future>
#include <QThread>

namespace jam {

RoomMaker::RoomMaker(QOpenGLContext& shared) : context_(std::make_unique<QOpenGLContext>()) {
    offscreen_.setFormat(shared.format());
    offscreen_.create();
    context_->setFormat(shared.format());
    context_->setShareContext(&shared);
    // Without a second context the renderer takes room itself.
    if (!context_->create() || !QOpenGLContext::areSharing(context_.get(), &shared)) return;
    // A context is moved by the thread that it belongs to, and Qt makes a thread known once it is asked for it.
    QThread* home = QThread::currentThread();
    context_->moveToThread(nullptr);
    std::promise<void> begun;
    thread_ = std::thread([this, home, &begun] {
        context_->moveToThread(QThread::currentThread());
        const bool works = context_->makeCurrent(&offscreen_);
        if (works) rooms_->start();
        begun.set_value();
        if (works) {
            while (const std::optional<RoomWish> wish = rooms_->next()) {
                takeWanted(*wish);
                rooms_->done();
            }
            context_->doneCurrent();
        }
        context_->moveToThread(home);
    });
    begun.get_future().wait();
}

RoomMaker::~RoomMaker() {
    rooms_->stop();
    if (thread_.joinable()) thread_.join();
}

}  // namespace jam
