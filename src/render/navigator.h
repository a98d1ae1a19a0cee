// How the camera moves over a level. Plain functions from camera to camera; none lets it sink below the ground.
#pragma once

#include "camera.h"

namespace jam {

class Navigator {
public:
    static constexpr double kClearance = 1.7;  // metres above the ground that the camera keeps

    // The level and pyramid must live as long as the navigator.
    Navigator(const Level& level, const HeightPyramid& pyramid) : level_(level), pyramid_(pyramid) {}

    // Travels by shares of full speed, forward, to the right and upwards, for `seconds`. Speed follows the height
    // above ground: slow on foot, quick from above.
    Camera travel(Camera c, double forward, double right, double up, double seconds) const;
    // Turns by degrees.
    Camera look(Camera c, double yaw, double pitch) const;
    // Goes a share of the way towards a place (negative: away from it).
    Camera zoom(Camera c, const glm::dvec3& towards, double share) const;
    // Slides so that the place that was under pixel `from` comes under pixel `to`.
    Camera slide(Camera c, const glm::dvec3& grabbed, const glm::dvec2& to) const;
    // Turns about a place, keeping its distance and its pixel.
    Camera orbit(Camera c, const glm::dvec3& about, double yaw, double pitch) const;
    // Looks at a place from the present direction, at a distance that shows `metres` around it.
    Camera centre(Camera c, const glm::dvec3& on, double metres) const;
    // The whole level from the south, slanting.
    Camera overview(Camera c) const;
    // The whole level from straight above, north on top.
    Camera plan(Camera c) const;

    double heightAbove(const Camera& c) const;

private:
    Camera keptAbove(Camera c) const;
    glm::dvec3 middle() const;

    const Level& level_;
    const HeightPyramid& pyramid_;
};

}  // namespace jam
