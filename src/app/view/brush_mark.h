// The brush drawn on the ground: its outer edge, its half-strength line, ticks along the fall line, and its mirror
// images.
#pragma once

#include <QPainterPath>

#include "brush/stroke.h"
#include "render/camera.h"

namespace jam {

struct BrushMark {
    QPainterPath edge, half, ticks;  // in device pixels
    QPainterPath images;             // the edges of mirror images
    QRectF bounds() const {
        return edge.boundingRect() | half.boundingRect() | ticks.boundingRect() | images.boundingRect();
    }
};

BrushMark markOf(const Level& level, const Camera& camera, const glm::dvec3& at, const StrokeSettings& settings);
// The lines about which strokes are mirrored, on the ground; empty without a mirror. In device pixels.
QPainterPath mirrorLines(const Level& level, const Camera& camera, const Mirror& mirror);

}  // namespace jam
