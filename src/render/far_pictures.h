// A mesh as pictures from several sides, for where it is seen small: two triangles in place of a hundred.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "level/mesh.h"

namespace jam {

constexpr int kFarSides = 4, kFarSlants = 2;  // round it, and from how far above
constexpr int kFarViews = kFarSides * kFarSlants;
constexpr int kFarPixels = 64;                               // a side
constexpr std::array<double, kFarSlants> kFarAbove{12, 52};  // degrees

// Views of one mesh, slant by slant, each from the direction of its side: 0 from the south, 1 from the west, and so on
// clockwise. A picture shows the ball round the mesh's middle.
struct FarPictures {
    double middle = 0, radius = 0;  // metres above the foot, and of that ball
    std::vector<uint8_t> colour;    // sRGB and how much it covers, view by view, from the lower left corner
    std::vector<uint8_t> facing;    // normal * 127.5 + 127.5 as the mesh stands, and how much of the sky it sees
};
FarPictures farPicturesOf(const Mesh& mesh, const std::vector<ShapePicture>& pictures);

// The view from which a mesh, turned by so many degrees, is seen best: by where the eye lies from it.
int farViewFrom(double east, double up, double south, double turn);

}  // namespace jam
