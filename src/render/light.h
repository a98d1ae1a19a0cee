// Sun and sky as the shaders see them, and the same light on the processor.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <glm/vec3.hpp>

#include "level/level.h"

namespace jam {

struct LightLook {
    glm::vec3 towards{0, 1, 0};                    // unit vector towards the sun
    glm::vec3 sun{1}, sky{1}, haze{1}, zenith{1};  // linear
    bool operator==(const LightLook&) const = default;
};

// `flat`: light from above without shadows, for judging colour.
LightLook lightLook(const Sun& sun, bool flat);

// How much of a place's light is kept, [0.7, 1]: a slow unevenness of all ground, so that no wide plain looks like
// plastic from afar. Only for the eye; no level or export knows of it.
float unevenness(double x, double z);

// lit() of shaders/light.glsl.
glm::vec3 litColour(const LightLook& light, const glm::vec3& albedo, const glm::vec3& normal, float sun, float open);
// finish() of shaders/light.glsl for one channel, as a byte: shownTable() at shownPlace().
uint8_t finished(float linear);

// Over the square root of what is linear, so that dark colours keep their steps.
constexpr int kShownSteps = 4096;
constexpr float kMostShown = 2;  // the root where it ends
using ShownTable = std::array<uint8_t, kShownSteps>;
const ShownTable& shownTable();
inline int32_t shownPlace(float linear) {
    const float root = std::sqrt(std::max(linear, 0.f));
    return static_cast<int32_t>(std::min(root / kMostShown, 1.f) * (kShownSteps - 1));
}

}  // namespace jam
