#include "navigator.h"

#include <algorithm>
#include <cmath>
#include <glm/geometric.hpp>

#include "base/maths.h"
#include "level/ground.h"

namespace jam {

namespace {

double turned(double yaw) { return yaw - 360 * std::floor(yaw / 360); }

// Distance from which `metres` around a place fill the smaller side of the picture.
double distanceFor(const Camera& c, double metres) {
    const double half = std::tan(c.fieldOfView * kRadians / 2);
    return metres / (half * std::min(1.0, static_cast<double>(c.width) / c.height));
}

}  // namespace

double Navigator::heightAbove(const Camera& c) const { return c.at.y - altitudeAt(level_, c.at.x, c.at.z); }

glm::dvec3 Navigator::middle() const {
    const double x = level_.originX + level_.width() / 2, z = level_.originZ + level_.depth() / 2;
    return {x, (pyramid_.whole().low + pyramid_.whole().high) / 2.0, z};
}

Camera Navigator::keptAbove(Camera c) const {
    const double far = 4 * std::max(level_.width(), level_.depth()) + 500;
    const glm::dvec3 m = middle();
    c.at.x = std::clamp(c.at.x, m.x - far, m.x + far);
    c.at.z = std::clamp(c.at.z, m.z - far, m.z + far);
    c.at.y = std::min(c.at.y, m.y + far);
    if (level_.holds(c.at.x, c.at.z)) c.at.y = std::max(c.at.y, altitudeAt(level_, c.at.x, c.at.z) + kClearance);
    else c.at.y = std::max(c.at.y, pyramid_.whole().low - 0.25 * std::max(level_.width(), level_.depth()));
    c.pitch = std::clamp(c.pitch, -89.9, 89.9);
    c.yaw = turned(c.yaw);
    return c;
}

Camera Navigator::travel(Camera c, double forward, double right, double up, double seconds) const {
    const double speed = std::clamp(std::abs(heightAbove(c)) * 1.1, 5.0, 600.0);
    const double y = c.yaw * kRadians;
    const glm::dvec3 ahead(std::sin(y), 0, -std::cos(y));
    const double before = heightAbove(c);
    const bool wasOver = level_.holds(c.at.x, c.at.z);
    c.at += (ahead * forward + c.right() * right + glm::dvec3(0, up, 0)) * (speed * seconds);
    // Near the ground one travels over it, hills and all; from high above one keeps the altitude.
    if (wasOver && before < 60 && level_.holds(c.at.x, c.at.z))
        c.at.y = altitudeAt(level_, c.at.x, c.at.z) + before + up * speed * seconds;
    return keptAbove(c);
}

Camera Navigator::look(Camera c, double yaw, double pitch) const {
    c.yaw += yaw;
    c.pitch += pitch;
    return keptAbove(c);
}

Camera Navigator::zoom(Camera c, const glm::dvec3& towards, double share) const {
    c.at += (towards - c.at) * share;
    return keptAbove(c);
}

Camera Navigator::slide(Camera c, const glm::dvec3& grabbed, const glm::dvec2& to) const {
    // Keep to the horizontal plane through the grabbed place.
    const Ray ray = c.ray(to.x, to.y);
    if (std::abs(ray.along.y) < 1e-3) return c;
    const double t = (grabbed.y - ray.from.y) / ray.along.y;
    if (t <= 0 || t > 1e5) return c;
    const glm::dvec3 under = ray.from + t * ray.along;
    c.at.x += grabbed.x - under.x;
    c.at.z += grabbed.z - under.z;
    return keptAbove(c);
}

Camera Navigator::orbit(Camera c, const glm::dvec3& about, double yaw, double pitch) const {
    const glm::dvec3 d = about - c.at;
    // In the camera's own axes the place stays where it is; only the axes turn.
    const double r = glm::dot(d, c.right()), u = glm::dot(d, c.up()), f = glm::dot(d, c.forward());
    c.yaw = turned(c.yaw + yaw);
    c.pitch = std::clamp(c.pitch + pitch, -89.9, 60.0);
    c.at = about - (c.right() * r + c.up() * u + c.forward() * f);
    return keptAbove(c);
}

Camera Navigator::centre(Camera c, const glm::dvec3& on, double metres) const {
    c.pitch = std::clamp(c.pitch, -89.9, -15.0);
    c.at = on - c.forward() * distanceFor(c, metres);
    return keptAbove(c);
}

Camera Navigator::overview(Camera c) const {
    c.yaw = 0;
    c.pitch = -30;
    return centre(c, middle(), 0.44 * std::max(level_.width(), level_.depth()));
}

Camera Navigator::plan(Camera c) const {
    c.yaw = 0;
    c.pitch = -89.9;
    const glm::dvec3 m = middle();
    c.at = {m.x, pyramid_.whole().high + distanceFor(c, 0.53 * std::max(level_.width(), level_.depth())), m.z};
    return keptAbove(c);
}

}  // namespace jam
