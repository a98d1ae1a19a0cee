// A layer's pictures, made ready for drawing.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "grid/view.h"

namespace jam {

struct Material {
    int size = 0;                       // samples along a side, a power of two
    std::vector<uint8_t> colourHeight;  // RGBA: square root of the linear colour, so that squaring it undoes it
                                        // cheaply; height in alpha
    std::vector<uint8_t> reliefRough;   // RGBA: normal x, normal y (OpenGL, green up), roughness, occlusion
    std::vector<uint8_t> shine;         // RG: specular, metalness; empty when the layer has neither picture
    // Linear light, [0, 1]: whose root is the mean of the roots, which the eye takes for the mean.
    std::array<float, 3> meanColour{};
    std::array<float, 4> meanStored{};  // mean of colourHeight, [0, 1]
    std::array<float, 4> meanRelief{};  // mean of reliefRough, [0, 1]
};

// The same pictures half as large, each sample the mean of four. Precondition: size > 1.
Material halved(const Material& material);

// The height alone, [0, 1], one repeat.
Raster<float> heightOf(const Material& material);

}  // namespace jam
