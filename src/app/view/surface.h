// Where the picture of the ground appears. On software OpenGL a plain widget shows pixels that were read back,
// because composing a QOpenGLWidget costs a whole frame there; on a graphics card a QOpenGLWidget shows them
// directly. Both show the same picture.
#pragma once

#include <functional>
#include <memory>
#include <QImage>
#include <QWidget>

#include "render/renderer.h"

namespace jam {

class Surface {
public:
    virtual ~Surface() = default;
    virtual QWidget* widget() = 0;
    // Null until drawing is possible.
    virtual Renderer* renderer() = 0;
    virtual void makeCurrent() = 0;
    // Shows what the renderer drew inside `part`, in device pixels.
    virtual void present(const PixelRect& part) = 0;
    // The same of what it drew coarsely. Never on a graphics card.
    virtual void presentCoarse(const PixelRect& part) = 0;
    // The pixels that the widget shows when it is updated, for one who puts a picture together; null on a graphics
    // card.
    virtual QImage* pixels() = 0;
    // The picture as it is now, with no marks.
    virtual QImage grab() = 0;

    std::function<void(QPainter&)> paintMarks;  // draws over the picture, in logical pixels
    std::function<void(const QSize&)> resized;  // device pixels
    std::function<void(const Error&)> failed;
};

enum class Drawing { automatic, software, hardware };

// Chooses by what OpenGL the machine has; JAMHILL_DRAWING=software|hardware and `wanted` override it.
// Errors: no OpenGL 3.3 at all, in words.
Result<std::unique_ptr<Surface>> makeSurface(Drawing wanted, QWidget* parent);

}  // namespace jam
