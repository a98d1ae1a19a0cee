// What is seen of a layer's pictures from afar.
#pragma once

#include <array>
#include <vector>

namespace jam {

// Means of the pictures as they are stored, [0, 1]: colour and height; relief, roughness and occlusion.
struct MaterialMeans {
    static constexpr int kGrain = 64;  // samples a side

    std::array<float, 3> linear{0.5f, 0.2f, 0.5f};  // of the linear colour
    std::array<float, 4> stored{0.7f, 0.4f, 0.7f, 0.5f}, relief{0.5f, 0.5f, 0.9f, 1};
    bool shine = false;             // has a picture of specular or metalness
    std::vector<float> grain = {};  // brightness of the colour against its mean, less 1, row by row; may be empty
};

}  // namespace jam
