// Rain wash: hydraulic erosion by drops that run downhill, dig where they are fast and let their load fall where they
// slow down: gullies on the slopes, fans at their feet. A droplet method in the spirit of Musgrave et al. 1989 with the
// sediment capacity of Mei, Decaudin and Hu, "Fast Hydraulic Erosion Simulation and Visualization on GPU", 2007.
#pragma once

#include "base/context.h"
#include "shape/sculpt.h"

namespace jam {

constexpr int kDropSteps = 48;            // samples that a drop runs at most
constexpr float kDropsPerStamp = 0.2f;    // per sample under the brush at full strength
constexpr int kMostDropsPerStamp = 6000;  // so that a very large brush still follows the hand; it rains thinner then
constexpr float kDropsPerYear = 0.05f;    // per sample, for the whole ground

// Lets rain fall on a window of ground, in place. `mask`, as large, scales what may be dug and laid down, [0, 1]; a
// drop that comes to where it is 0, or to the window's edge, gives back what it carries to where it dug. They start
// inside `cloud`, `count` of them, at places that hash from `seed`. What is dug comes to rest again inside the window,
// spread so that no heap stands alone: the sum of heights stays. No drop digs deeper than the slope that it runs down,
// so any strength is stable. Large clouds are rained out in blocks that do not touch, on several threads; the bits do
// not depend on their number.
void rainOn(View<float> ground, View<const float> mask, const Region& cloud, int count, uint32_t seed, double spacing);

// One stamp: share in [0, 1] sets how much it rains; `seed` differs from stamp to stamp.
Region rainWashGround(const StampSite& site, const Dab& dab, float share, uint32_t seed);

// `years` of rain over a whole raster, in blocks that do not touch, so that the bits do not depend on the number of
// threads. Returns false when cancelled; the raster is then in between.
bool rainWashAll(Raster<float>& ground, double spacing, float years, uint32_t seed, const Context& context = {});

}  // namespace jam
