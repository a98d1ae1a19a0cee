#include "view/room_maker.h"

#include <future>
#include <QThread>

namespace jam {

namespace {

// Has a context on this thread while it lives, and gives it back to the one that it came from.
struct Guest {
    Guest(QOpenGLContext& c, QOffscreenSurface& surface, QThread* from) : context(c), home(from) {
        context.moveToThread(QThread::currentThread());
        current = context.makeCurrent(&surface);
    }
    ~Guest() {
        if (current) context.doneCurrent();
        context.moveToThread(home);
    }
    QOpenGLContext& context;
    QThread* home;
    bool current = false;
};

}  // namespace

RoomMaker::RoomMaker(QOpenGLContext& shared) : context_(std::make_unique<QOpenGLContext>()) {
    offscreen_.setFormat(shared.format());
    offscreen_.create();
    context_->setFormat(shared.format());
    context_->setShareContext(&shared);
    // Without a second context the scene takes room itself.
    if (!context_->create() || !QOpenGLContext::areSharing(context_.get(), &shared)) return;
    // A context is moved by the thread that it belongs to, and Qt makes a thread known once it is asked for it.
    QThread* home = QThread::currentThread();
    context_->moveToThread(nullptr);
    std::promise<void> begun;
    taking_.serve();
    taking_.run<void>(
        QObject::tr("Taking room for drawing"),
        [this, home, &begun](const Context&) -> Status {
            const Guest guest(*context_, offscreen_, home);
            if (guest.current) rooms_->start();
            begun.set_value();
            if (!guest.current) return {};
            while (const std::optional<RoomWish> wish = rooms_->next()) {
                takeWanted(*wish);
                rooms_->done();
            }
            return {};
        },
        // From then on the scene takes room itself.
        [this](const Status&) { rooms_->stop(); });
    begun.get_future().wait();
}

RoomMaker::~RoomMaker() {
    rooms_->stop();
    taking_.stop();
}

}  // namespace jam
