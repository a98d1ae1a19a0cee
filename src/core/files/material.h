// A layer's pictures, made ready for drawing: all maps at one size, missing ones derived.
#pragma once

#include <array>

#include "level/level.h"

namespace jam {

struct Material {
    int size = 0;                       // samples along a side, a power of two
    std::vector<uint8_t> colourHeight;  // RGBA: square root of the linear colour, so that squaring it undoes it
                                        // cheaply; height in alpha
    std::vector<uint8_t> normalRough;   // RGBA: normal x, normal y (OpenGL, green up), roughness, unused
    std::array<float, 3> meanColour{};  // linear light, [0, 1]
    float meanHeight = 0.5f;            // [0, 1]
};

// Decodes and resamples to `size`. A missing height comes from the colour's lightness, a missing normal from the
// height, a missing roughness is 0.9. Errors: a picture that does not decode.
Result<Material> makeMaterial(const Layer& layer, int size);

}  // namespace jam
