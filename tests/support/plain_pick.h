// The ground under a ray, cell by cell: slow, and by another formula than survey/pick.h.
#pragma once

#include "survey/pick.h"

namespace jam::test {

std::optional<glm::dvec3> pickPlainly(const Level& level, const Ray& ray, double reach = 1e9, Meet meet = Meet::ground);

}  // namespace jam::test
