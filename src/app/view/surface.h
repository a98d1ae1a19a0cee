// Where the picture of the ground appears, with the presenter that draws it. On software OpenGL a plain widget shows
// pixels that were read back, because composing a QOpenGLWidget costs a whole frame there; on a graphics card a
// QOpenGLWidget shows them directly. Both show the same picture.
#pragma once

#include <memory>
#include <QElapsedTimer>
#include <QImage>
#include <QTimer>
#include <QWidget>

#include "render/presenter.h"

namespace jam {

class Surface : public Presenter::Host {
public:
    // Whose picture it is. Nothing is drawn without one.
    class Owner {
    public:
        virtual ~Owner() = default;
        virtual const Level& level() = 0;
        virtual const HeightPyramid& pyramid() = 0;
        virtual HandAtWork handAtWork() = 0;
        virtual void framed(bool moved) = 0;  // as of Presenter::Host
        virtual void troubled(const Error& error) = 0;
        // Nothing can be drawn at all.
        virtual void unable(const Error& error) = 0;
        virtual void resized(const QSize& pixels) = 0;  // device pixels
        virtual void paintOver(QPainter& painter) = 0;  // in logical pixels
    };

    Surface();
    // Null for nobody any more.
    void setOwner(Owner* owner) { owner_ = owner; }

    virtual QWidget* widget() = 0;
    virtual Presenter& presenter() = 0;
    // The picture as it is now, with no marks.
    virtual QImage grab() = 0;

    // --- what a presenter asks ---
    double now() override { return static_cast<double>(clock_.nsecsElapsed()) * 1e-6; }
    void wake(double ms) override;
    HandAtWork hand() override { return owner_->handAtWork(); }
    const Level& level() override { return owner_->level(); }
    const HeightPyramid& pyramid() override { return owner_->pyramid(); }
    void framed(bool moved) override { owner_->framed(moved); }
    void trouble(const Error& error) override { owner_->troubled(error); }

protected:
    Owner* owner_ = nullptr;

private:
    QElapsedTimer clock_;
    QTimer step_;
};

enum class Drawing { automatic, software, hardware };

// Chooses by what OpenGL the machine has; JAMHILL_DRAWING=software|hardware and `wanted` override it.
// Errors: no OpenGL 3.3 at all, in words.
Result<std::unique_ptr<Surface>> makeSurface(Drawing wanted, QWidget* parent);
// Drawn beside the screen and read back, whatever draws it: where a driver cannot draw on the screen (Owner::unable).
Result<std::unique_ptr<Surface>> makeSurfaceBeside(QWidget* parent);

}  // namespace jam
