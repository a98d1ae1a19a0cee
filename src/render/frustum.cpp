#include "frustum.h"

#include <algorithm>
#include <cmath>
#include <glm/common.hpp>
#include <glm/geometric.hpp>

#include "base/maths.h"

namespace jam {

double distanceTo(const Box& b, const glm::dvec3& p) {
    return glm::length(glm::max(glm::max(b.low - p, p - b.high), glm::dvec3(0)));
}

double uprightShare(const Box& b, const glm::dvec3& eye) {
    const double across = std::hypot(std::max(std::abs(b.low.x - eye.x), std::abs(b.high.x - eye.x)),
                                     std::max(std::abs(b.low.z - eye.z), std::abs(b.high.z - eye.z)));
    const double down = std::max({eye.y - b.high.y, b.low.y - eye.y, 0.0});
    return across > 0 ? across / std::hypot(across, down) : 1;
}

Frustum::Frustum(const Camera& camera) : at_(camera.at) {
    const double half = std::tan(camera.fieldOfView * kRadians / 2);
    const double wide = half * camera.width / camera.height;
    const glm::dvec3 f = camera.forward(), r = camera.right(), u = camera.up();
    planes_ = {f * wide + r, f * wide - r, f * half + u, f * half - u};
}

bool Frustum::meets(const Box& b) const {
    return std::none_of(planes_.begin(), planes_.end(), [&](const glm::dvec3& plane) {
        const glm::dvec3 far{plane.x > 0 ? b.high.x : b.low.x, plane.y > 0 ? b.high.y : b.low.y,
                             plane.z > 0 ? b.high.z : b.low.z};
        return glm::dot(plane, far - at_) < 0;
    });
}

}  // namespace jam
