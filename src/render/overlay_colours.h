// Colours that overlays and their legends share with the shaders.
#pragma once

#include <string>

namespace jam {

// As constants of the shading language: of shaders/overlay.glsl and shaders/water.frag.
std::string overlayConstants();

}  // namespace jam
