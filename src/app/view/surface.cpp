#include "view/surface.h"

#include <cmath>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLWidget>
#include <QPainter>
#include <QPaintEvent>
#include <QResizeEvent>

#include "render/direct_presenter.h"
#include "render/driver.h"
#include "render/software/software_presenter.h"
#include "view/room_maker.h"
#include "view/variant_maker.h"

namespace jam {

Surface::Surface() {
    clock_.start();
    step_.setSingleShot(true);
    QObject::connect(&step_, &QTimer::timeout, &step_, [this] {
        if (owner_) presenter().step();
    });
}

void Surface::wake(double ms) { step_.start(static_cast<int>(std::ceil(ms))); }

namespace {

// A context of our own, and its pixels in a plain widget.
class ReadbackSurface : public QWidget, public Surface {
public:
    ReadbackSurface(std::unique_ptr<QOpenGLContext> context, std::unique_ptr<QOffscreenSurface> offscreen,
                    std::unique_ptr<PixelRenderer> pixels, QWidget* parent)
        : QWidget(parent), context_(std::move(context)), offscreen_(std::move(offscreen)),
          variants_(std::make_unique<VariantMaker>()), rooms_(std::make_unique<RoomMaker>(*context_)) {
        pixels->setQueues(variants_->queue(), rooms_->queue());
        presenter_ = std::make_unique<SoftwarePresenter>(*this, std::move(pixels));
        setAttribute(Qt::WA_OpaquePaintEvent);
        setAttribute(Qt::WA_TransparentForMouseEvents);
    }
    ~ReadbackSurface() override {
        variants_.reset();
        rooms_.reset();
        makeCurrent();
        presenter_.reset();
        context_->doneCurrent();
    }
    QWidget* widget() override { return this; }
    Presenter& presenter() override { return *presenter_; }
    void makeCurrent() override { context_->makeCurrent(offscreen_.get()); }
    void shown(const PixelRect& part) override {
        const qreal per = 1 / devicePixelRatioF();
        update(QRectF(part.x * per, part.y * per, part.width * per, part.height * per).toAlignedRect());
    }
    QImage grab() override { return picture_.copy(); }

protected:
    void resizeEvent(QResizeEvent*) override {
        const QSize pixels = size() * devicePixelRatioF();
        if (pixels.isEmpty() || !owner_) return;
        picture_ = {};  // before its pixels go
        owner_->resized(pixels);
        picture_ = QImage(reinterpret_cast<uchar*>(presenter_->picture()), pixels.width(), pixels.height(),
                          pixels.width() * 4, QImage::Format_RGB32);
        picture_.setDevicePixelRatio(devicePixelRatioF());
    }
    void paintEvent(QPaintEvent* event) override {
        QPainter p(this);
        p.setClipRect(event->rect());  // marks outside need not be painted
        const QRectF r = event->rect();
        const qreal ratio = devicePixelRatioF();
        p.drawImage(r, picture_, QRectF(r.topLeft() * ratio, r.size() * ratio));
        if (owner_) owner_->paintOver(p);
    }

private:
    std::unique_ptr<QOpenGLContext> context_;
    std::unique_ptr<QOffscreenSurface> offscreen_;
    std::unique_ptr<VariantMaker> variants_;
    std::unique_ptr<RoomMaker> rooms_;
    std::unique_ptr<SoftwarePresenter> presenter_;
    QImage picture_;  // on the presenter's pixels
};

class DirectSurface : public QOpenGLWidget, public Surface {
public:
    explicit DirectSurface(QWidget* parent) : QOpenGLWidget(parent), presenter_(*this) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
    }
    ~DirectSurface() override { letGo(); }
    QWidget* widget() override { return this; }
    Presenter& presenter() override { return presenter_; }
    void makeCurrent() override { QOpenGLWidget::makeCurrent(); }
    void shown(const PixelRect&) override { update(); }
    QImage grab() override {
        const QSize pixels = size() * devicePixelRatioF();
        QImage picture(pixels, QImage::Format_RGB32);
        if (!presenter_.scene() || pixels.isEmpty()) return picture;
        makeCurrent();
        presenter_.read(picture.bits(), static_cast<int>(picture.bytesPerLine()));
        picture.setDevicePixelRatio(devicePixelRatioF());
        return picture;
    }

protected:
    void initializeGL() override {
        // The context goes before the widget does, and when the widget comes into another window.
        connect(
            context(), &QOpenGLContext::aboutToBeDestroyed, this, [this] { letGo(); }, Qt::DirectConnection);
        if (const Status s = presenter_.begin(); !s && owner_) owner_->unable(s.error());
    }
    void resizeGL(int, int) override {
        if (owner_) owner_->resized(size() * devicePixelRatioF());
    }
    void paintGL() override {
        presenter_.show(defaultFramebufferObject());
        QPainter p(this);
        if (owner_) owner_->paintOver(p);
    }

private:
    // What lives on the graphics side ends while its context is there.
    void letGo() {
        if (!presenter_.scene()) return;
        makeCurrent();
        presenter_.end();
        doneCurrent();
    }

    DirectPresenter presenter_;
};

Drawing wishOf(Drawing wanted) {
    const QByteArray named = qgetenv("JAMHILL_DRAWING");
    if (named == "software") return Drawing::software;
    if (named == "hardware") return Drawing::hardware;
    return wanted;
}

// A context beside the screen, which is current.
struct Beside {
    std::unique_ptr<QOpenGLContext> context = std::make_unique<QOpenGLContext>();
    std::unique_ptr<QOffscreenSurface> surface = std::make_unique<QOffscreenSurface>();
    bool begin() {
        if (!context->create()) return false;
        surface->setFormat(context->format());
        surface->create();
        return context->makeCurrent(surface.get());
    }
};

Error noOpenGl() {
    return {"", "OpenGL", "this machine offers none, and Jam Hill needs version 3.3",
            "install Mesa's software drawing (libgl1-mesa-dri) or a graphics driver"};
}

Result<std::unique_ptr<Surface>> readback(Beside beside, QWidget* parent) {
    Result<std::unique_ptr<PixelRenderer>> pixels = PixelRenderer::create();
    if (!pixels) return pixels.error();
    return std::unique_ptr<Surface>(
        std::make_unique<ReadbackSurface>(std::move(beside.context), std::move(beside.surface), pixels.take(), parent));
}

}  // namespace

Result<std::unique_ptr<Surface>> makeSurface(Drawing wanted, QWidget* parent) {
    Beside beside;
    if (!beside.begin()) return noOpenGl();
    const Drawing wish = wishOf(wanted);
    if (wish == Drawing::software || (wish == Drawing::automatic && driverIsSoftware()))
        return readback(std::move(beside), parent);
    beside.context->doneCurrent();  // the widget makes its own
    return std::unique_ptr<Surface>(std::make_unique<DirectSurface>(parent));
}

Result<std::unique_ptr<Surface>> makeSurfaceBeside(QWidget* parent) {
    Beside beside;
    if (!beside.begin()) return noOpenGl();
    return readback(std::move(beside), parent);
}

}  // namespace jam
