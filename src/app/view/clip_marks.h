// The clip in hand as it is seen over the ground.
#pragma once

#include <array>
#include <glm/vec3.hpp>
#include <optional>
#include <QPointF>

#include "workplace/clips.h"

class QPainter;

namespace jam {

class GroundView;

// A place of the map on the ground that is seen.
glm::dvec3 onGround(const GroundView& view, const MapPlace& place);

// Where the handles of the clip in hand are seen: logical pixels.
struct ClipHandles {
    std::array<std::optional<QPointF>, 4> corners;
    std::optional<QPointF> middle, turn, raise;
};
ClipHandles clipHandles(const GroundView& view);
// Draws its outline on the ground, and its handles.
void paintClip(QPainter& p, const GroundView& view);

}  // namespace jam
