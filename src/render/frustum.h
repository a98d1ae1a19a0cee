// What a camera's picture can show of boxes in the level.
#pragma once

#include <array>

#include "camera.h"

namespace jam {

struct Box {
    glm::dvec3 low, high;  // metres
};

double distanceTo(const Box& box, const glm::dvec3& place);
// The most that is seen of a metre's height at any place of a box, as a share: 1 where one looks level at it, less the
// farther it lies below or above.
double uprightShare(const Box& box, const glm::dvec3& eye);

class Frustum {
public:
    explicit Frustum(const Camera& camera);
    // False only when nothing of the box is in the picture.
    bool meets(const Box& box) const;

private:
    glm::dvec3 at_;
    std::array<glm::dvec3, 4> planes_;  // half spaces through the camera that bound the picture
};

}  // namespace jam
