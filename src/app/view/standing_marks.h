// What is painted over the ground and stays while one only looks: the numbers of contours, courses, the stations'
// marks. It is painted once and kept, so that a piece of the picture that is refined below it, or a brush mark that
// moves over it, costs no more than itself.
#pragma once

#include <functional>
#include <QImage>
#include <QPainter>

#include "render/camera.h"

namespace jam {

class StandingMarks {
public:
    // What is to be seen of them changed, other than by the camera.
    void forget() { painted_ = 0; }
    // Paints them over a picture of so many logical pixels.
    void paint(QPainter& p, const QSize& size, const Camera& camera, const std::function<void(QPainter&)>& marks);

private:
    QImage kept_;
    Camera camera_;
    int painted_ = 0;  // times since they changed: what is painted once alone, as while the camera moves, is not kept
};

}  // namespace jam
