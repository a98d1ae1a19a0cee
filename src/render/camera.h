// Where one looks from: a plain value.
#pragma once

#include <glm/mat4x4.hpp>
#include <glm/vec2.hpp>
#include <glm/vec3.hpp>
#include <optional>

#include "survey/pick.h"

namespace jam {

struct Camera {
    glm::dvec3 at{0, 100, 200};     // metres
    double yaw = 0;                 // degrees clockwise from north (-Z), the way it looks
    double pitch = -30;             // degrees above the horizon, [-90, 90]
    double fieldOfView = 55;        // degrees, top to bottom
    int width = 960, height = 680;  // pixels of the picture

    glm::dvec3 forward() const;
    glm::dvec3 right() const;
    glm::dvec3 up() const;
    // Through the middle of pixel (x, y), counted from the top left; `along` has length 1.
    Ray ray(double x, double y) const;
    // Pixel of a place; nothing when it lies behind the camera.
    std::optional<glm::dvec2> pixel(const glm::dvec3& place) const;
    // Metres that one pixel spans at `distance` metres.
    double metresPerPixel(double distance) const;

    glm::dmat4 view() const;  // of places relative to the camera
    glm::dmat4 projection(double nearest, double farthest) const;

    bool operator==(const Camera&) const = default;
    // Whether the other differs only in where it looks.
    bool turnsInto(Camera other) const {
        other.yaw = yaw, other.pitch = pitch;
        return *this == other;
    }
};

// Camera::pixel() for many places: what the camera's angles come to is worked out once.
class Projector {
public:
    explicit Projector(const Camera& camera);
    std::optional<glm::dvec2> pixel(const glm::dvec3& place) const;

private:
    glm::dvec3 at_, forward_, right_, up_;
    double middleX_, middleY_, pixels_;  // at a distance of 1 m, for a metre
};

}  // namespace jam
