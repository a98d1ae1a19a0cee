// Where a ray meets the ground: what lies under the cursor.
#pragma once

#include <glm/vec3.hpp>
#include <optional>

#include "survey/pyramid.h"

namespace jam {

struct Ray {
    glm::dvec3 from{0}, along{0, -1, 0};  // metres; `along` need not have length 1
};

// What counts: the ground, so that one looks through where there is none (level/opening.h), or the surface that it has
// or would have.
enum class Meet { ground, surface };

// First meeting with the triangles that are drawn, within `reach` lengths of `along`. Both sides count, so
// that a camera below the ground still picks. Descends the pyramid near to far: about 1 microsecond.
std::optional<glm::dvec3> pickGround(const Level& level, const HeightPyramid& pyramid, const Ray& ray,
                                     double reach = 1e9, Meet meet = Meet::ground);

}  // namespace jam
