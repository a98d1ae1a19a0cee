// Knobs beside the chosen post of a course, by which its width and its shoulders are pulled.
#pragma once

#include <optional>
#include <QPointF>
#include <vector>

namespace jam {

class GroundView;
struct CourseLine;

// A knob on the ground beside a post: where the course's even part ends, or its shoulder.
struct CourseKnob {
    double x = 0, z = 0;  // metres
    bool shoulder = false;
};
// Those of the chosen post, on both sides; none where they would lie on top of each other in the picture.
std::vector<CourseKnob> courseKnobs(const GroundView& view, const CourseLine& line, int post);
// The one under a pixel.
std::optional<CourseKnob> courseKnobUnder(const GroundView& view, const QPointF& pixel);

}  // namespace jam
