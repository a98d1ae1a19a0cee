#include "camera.h"

#include "base/maths.h"

#include <cmath>
#include <glm/geometric.hpp>
#include <glm/gtc/matrix_transform.hpp>

namespace jam {

namespace {}

glm::dvec3 Camera::forward() const {
    const double y = yaw * kRadians, p = pitch * kRadians;
    return {std::sin(y) * std::cos(p), std::sin(p), -std::cos(y) * std::cos(p)};
}
glm::dvec3 Camera::right() const {
    const double y = yaw * kRadians;
    return {std::cos(y), 0, std::sin(y)};
}
glm::dvec3 Camera::up() const { return glm::cross(right(), forward()); }

Ray Camera::ray(double x, double y) const {
    const double half = std::tan(fieldOfView * kRadians / 2);
    const double u = ((x + 0.5) / width * 2 - 1) * half * width / height, v = (1 - (y + 0.5) / height * 2) * half;
    return {at, glm::normalize(forward() + u * right() + v * up())};
}

std::optional<glm::dvec2> Camera::pixel(const glm::dvec3& place) const {
    const glm::dvec3 d = place - at;
    const double ahead = glm::dot(d, forward());
    if (ahead < 1e-3) return std::nullopt;
    const double per = height / 2.0 / std::tan(fieldOfView * kRadians / 2) / ahead;
    return glm::dvec2(width / 2.0 - 0.5 + glm::dot(d, right()) * per, height / 2.0 - 0.5 - glm::dot(d, up()) * per);
}

double Camera::metresPerPixel(double distance) const {
    return 2 * distance * std::tan(fieldOfView * kRadians / 2) / height;
}

glm::dmat4 Camera::view() const { return glm::lookAt(glm::dvec3(0), forward(), up()); }

glm::dmat4 Camera::projection(double nearest, double farthest) const {
    return glm::perspective(fieldOfView * kRadians, static_cast<double>(width) / height, nearest, farthest);
}

}  // namespace jam
