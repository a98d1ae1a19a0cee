// The brush drawn on the ground: its outer edge, its half-strength line, and ticks along the fall line.
#pragma once

#include <QPainterPath>

#include "brush/stroke.h"
#include "render/camera.h"

namespace jam {

struct BrushMark {
    QPainterPath edge, half, ticks;  // in device pixels
    QRectF bounds() const { return edge.boundingRect() | half.boundingRect() | ticks.boundingRect(); }
};

BrushMark markOf(const Level& level, const Camera& camera, const glm::dvec3& at, float radius, const Falloff& falloff);

}  // namespace jam
