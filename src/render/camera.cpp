#include "camera.h"

#include "base/maths.h"

#include <cmath>
#include <glm/geometric.hpp>
#include <glm/gtc/matrix_transform.hpp>

namespace jam {

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

std::optional<glm::dvec2> Camera::pixel(const glm::dvec3& place) const { return Projector(*this).pixel(place); }

Projector::Projector(const Camera& c)
    : at_(c.at), forward_(c.forward()), right_(c.right()), up_(glm::cross(right_, forward_)),
      middleX_(c.width / 2.0 - 0.5), middleY_(c.height / 2.0 - 0.5),
      pixels_(c.height / 2.0 / std::tan(c.fieldOfView * kRadians / 2)) {}

std::optional<glm::dvec2> Projector::pixel(const glm::dvec3& place) const {
    const glm::dvec3 d = place - at_;
    const double ahead = glm::dot(d, forward_);
    if (ahead < 1e-3) return std::nullopt;
    const double per = pixels_ / ahead;
    return glm::dvec2(middleX_ + glm::dot(d, right_) * per, middleY_ - glm::dot(d, up_) * per);
}

double Camera::metresPerPixel(double distance) const {
    return 2 * distance * std::tan(fieldOfView * kRadians / 2) / height;
}

glm::dmat4 Camera::view() const { return glm::lookAt(glm::dvec3(0), forward(), up()); }

glm::dmat4 Camera::projection(double nearest, double farthest) const {
    return glm::perspective(fieldOfView * kRadians, static_cast<double>(width) / height, nearest, farthest);
}

}  // namespace jam
