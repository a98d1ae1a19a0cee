// Crumble: thermal erosion. What lies steeper than it can rest slides down (Musgrave, Kolb and Mace, "The synthesis and
// rendering of eroded fractal terrains", 1989).
#pragma once

#include "base/context.h"
#include "shape/sculpt.h"

namespace jam {

constexpr int kCrumblePasses = 4;  // of one stamp

// kCrumblePasses passes; share in [0, 1] scales what slides, `degrees` is the angle of rest (talus), [1, 85]. Matter
// only moves: the sum of heights stays, and no sample passes its highest or lowest neighbour.
Region crumbleGround(const StampSite& site, const Dab& dab, float share, float degrees);

// Passes over a whole raster; nothing slides over its edge. Progress in steps of one pass.
// Returns false when cancelled; the raster is then as it was.
bool crumbleAll(Raster<float>& ground, double spacing, float degrees, int passes, const Context& context = {});

}  // namespace jam
