// Colours that overlays and their legends share with shaders/overlay.glsl.
#pragma once

#include <glm/vec3.hpp>

namespace jam {

// Altitude bands, from low ground to high.
constexpr int kBands = 6;
const glm::vec3* bandColours();

}  // namespace jam
