#include "view/surface.h"

#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLWidget>
#include <QPainter>
#include <QPaintEvent>
#include <QResizeEvent>

#include "view/room_maker.h"
#include "view/variant_maker.h"

namespace jam {

namespace {

// A context of our own, and its pixels copied into a plain widget.
class ReadbackSurface : public QWidget, public Surface {
public:
    ReadbackSurface(std::unique_ptr<QOpenGLContext> context, std::unique_ptr<QOffscreenSurface> offscreen,
                    std::unique_ptr<Renderer> renderer, QWidget* parent)
        : QWidget(parent), context_(std::move(context)), offscreen_(std::move(offscreen)),
          renderer_(std::move(renderer)), maker_(std::make_unique<VariantMaker>()),
          roomMaker_(std::make_unique<RoomMaker>(*context_)) {
        renderer_->setVariants(maker_->variants());
        renderer_->setRooms(roomMaker_->rooms());
        setAttribute(Qt::WA_OpaquePaintEvent);
        setAttribute(Qt::WA_TransparentForMouseEvents);
    }
    ~ReadbackSurface() override {
        maker_.reset();
        roomMaker_.reset();
        makeCurrent();
        renderer_.reset();
        context_->doneCurrent();
    }
    QWidget* widget() override { return this; }
    Renderer* renderer() override { return renderer_.get(); }
    void makeCurrent() override { context_->makeCurrent(offscreen_.get()); }
    void present(const PixelRect& part) override { take(part, &Renderer::read); }
    void presentCoarse(const PixelRect& part) override { take(part, &Renderer::readCoarse); }
    QImage* pixels() override { return picture_.isNull() ? nullptr : &picture_; }
    QImage grab() override { return picture_.copy(); }

private:
    void take(const PixelRect& part, void (Renderer::*read)(const PixelRect&, uint8_t*, int)) {
        if (part.empty() || picture_.isNull()) return;
        ((*renderer_).*read)(part, picture_.scanLine(part.y) + part.x * 4, static_cast<int>(picture_.bytesPerLine()));
        const qreal per = 1 / devicePixelRatioF();
        update(QRectF(part.x * per, part.y * per, part.width * per, part.height * per).toAlignedRect());
    }

protected:
    void resizeEvent(QResizeEvent*) override {
        const QSize pixels = size() * devicePixelRatioF();
        if (pixels.isEmpty()) return;
        picture_ = QImage(pixels, QImage::Format_RGB32);
        picture_.fill(Qt::gray);
        picture_.setDevicePixelRatio(devicePixelRatioF());
        if (resized) resized(pixels);
    }
    void paintEvent(QPaintEvent* event) override {
        QPainter p(this);
        p.setClipRect(event->rect());  // marks outside need not be painted
        const QRectF r = event->rect();
        const qreal ratio = devicePixelRatioF();
        p.drawImage(r, picture_, QRectF(r.topLeft() * ratio, r.size() * ratio));
        if (paintMarks) paintMarks(p);
    }

private:
    std::unique_ptr<QOpenGLContext> context_;
    std::unique_ptr<QOffscreenSurface> offscreen_;
    std::unique_ptr<Renderer> renderer_;
    std::unique_ptr<VariantMaker> maker_;
    std::unique_ptr<RoomMaker> roomMaker_;
    QImage picture_;
};

class DirectSurface : public QOpenGLWidget, public Surface {
public:
    explicit DirectSurface(QWidget* parent) : QOpenGLWidget(parent) { setAttribute(Qt::WA_TransparentForMouseEvents); }
    ~DirectSurface() override { letGo(); }
    QWidget* widget() override { return this; }
    Renderer* renderer() override { return renderer_.get(); }
    void makeCurrent() override { QOpenGLWidget::makeCurrent(); }
    void present(const PixelRect&) override { update(); }
    void presentCoarse(const PixelRect&) override {}
    QImage* pixels() override { return nullptr; }
    QImage grab() override {
        const QSize pixels = size() * devicePixelRatioF();
        QImage picture(pixels, QImage::Format_RGB32);
        if (!renderer_ || pixels.isEmpty()) return picture;
        makeCurrent();
        renderer_->read({0, 0, pixels.width(), pixels.height()}, picture.bits(),
                        static_cast<int>(picture.bytesPerLine()));
        picture.setDevicePixelRatio(devicePixelRatioF());
        return picture;
    }

protected:
    void initializeGL() override {
        // The context goes before the widget does, and when the widget comes into another window.
        connect(
            context(), &QOpenGLContext::aboutToBeDestroyed, this, [this] { letGo(); }, Qt::DirectConnection);
        auto made = Renderer::create();
        if (made) renderer_ = made.take();
        else if (failed) failed(made.error());
    }
    void resizeGL(int, int) override {
        if (Surface::resized) Surface::resized(size() * devicePixelRatioF());
    }
    void paintGL() override {
        if (!renderer_) return;
        renderer_->show(defaultFramebufferObject());
        QPainter p(this);
        if (paintMarks) paintMarks(p);
    }

private:
    // What lives on the graphics side ends while its context is there.
    void letGo() {
        if (!renderer_) return;
        makeCurrent();
        renderer_.reset();
        doneCurrent();
    }

    std::unique_ptr<Renderer> renderer_;
};

Drawing wishOf(Drawing wanted) {
    const QByteArray named = qgetenv("JAMHILL_DRAWING");
    if (named == "software") return Drawing::software;
    if (named == "hardware") return Drawing::hardware;
    return wanted;
}

}  // namespace

Result<std::unique_ptr<Surface>> makeSurface(Drawing wanted, QWidget* parent) {
    const Error none{"", "OpenGL", "this machine offers none, and Jam Hill needs version 3.3",
                     "install Mesa's software drawing (libgl1-mesa-dri) or a graphics driver"};
    auto context = std::make_unique<QOpenGLContext>();
    auto offscreen = std::make_unique<QOffscreenSurface>();
    if (!context->create()) return none;
    offscreen->setFormat(context->format());
    offscreen->create();
    if (!context->makeCurrent(offscreen.get())) return none;
    auto made = Renderer::create();
    if (!made) return made.error();
    const Drawing wish = wishOf(wanted);
    if (wish == Drawing::hardware || (wish == Drawing::automatic && !made.value()->software())) {
        made.value().reset();  // with its context current; the widget makes its own
        context->doneCurrent();
        return std::unique_ptr<Surface>(std::make_unique<DirectSurface>(parent));
    }
    return std::unique_ptr<Surface>(
        std::make_unique<ReadbackSurface>(std::move(context), std::move(offscreen), made.take(), parent));
}

}  // namespace jam
