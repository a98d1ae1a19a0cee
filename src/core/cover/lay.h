// How a layer's pictures come to lie on the ground. The shaders do the same on the graphics side
// (render/shaders/lay.glsl); this is what they are held against, and what previews and figures are made with.
#pragma once

#include "cover/material.h"
#include "level/layer.h"

namespace jam {

// One place of a layer: square root of the linear colour, and height, all [0, 1].
using Laid = std::array<float, 4>;

// A place of the pictures, in repeats: from metres on the plane that the layer is laid on (x and z seen from above).
struct Place {
    double u, v;
};
Place placeOn(const Layer& layer, double x, double z);

// The picture at a place, bilinear between samples, as it repeats.
Laid pictureAt(const Material& material, double u, double v);

// The picture laid so that it does not repeat: three random pieces blended around every place, on a lattice of
// triangles whose sides span half a repeat. The blend keeps the mean and the contrast: differences from the mean are
// summed with the cubes of the lattice weights and divided by the root of their squares' sum (Heitz and Neyret,
// "High-Performance By-Example Noise using a Histogram-Preserving Blending Operator", 2018, without its histogram
// transform; Deliot and Heitz, 2019).
Laid brokenAt(const Material& material, double u, double v);

// The layer at metres on its plane, seen from `distance` metres: broken or not, with its second scale where that has
// taken over. Without tint, brightness and variation.
Laid laidAt(const Material& material, const Layer& layer, double x, double z, double distance);

// Share of the second scale at a distance, [0, 1]: a sixth where it is set to begin, and it comes in over four
// doublings around that, because what is larger has more contrast, and ground that gets livelier with distance is seen
// as a ring.
double farShare(const LayerLook& look, double distance);

// Linear light that the layer gives back at a place with this laid colour, before wash: tint, brightness and variation
// applied. `wander` is what wanderAt() gives there.
std::array<float, 3> shownColour(const LayerLook& look, const Laid& laid, float wander);
// The factors of a look alone, linear.
std::array<float, 3> tintOf(const LayerLook& look);

// Of a wandering ground's red, green and blue: what is brighter is drier, and warmer.
inline constexpr std::array<float, 3> kWanderHue{1.15f, 1, 0.6f};
// A slow wandering over the ground, about [-1, 1]: patches of about 30 and 110 m, that never repeat together.
float wanderAt(double x, double z);
// The tile it is made of: kWanderTile x kWanderTile bytes, 128 is 0, repeats seamlessly.
constexpr int kWanderTile = 128;
const std::vector<uint8_t>& wanderTile();

// How visible the repeat of a layer is on a stretch of ground seen from `distance` metres above it, [0, 1]: how alike
// the ground is to itself one repeat further on (the larger of both axes), times its contrast against that of a picture
// whose brightness varies by an eighth, times the share of the view that can be compared. Details finer than 1/16 of a
// repeat do not count: it is the larger spots that the eye finds again.
double repeatVisibility(const Material& material, const Layer& layer, double distance);

// How alike two lists of equal length are: correlation, [-1, 1]; 0 when one has no contrast.
double likeness(const std::vector<float>& a, const std::vector<float>& b);

}  // namespace jam
