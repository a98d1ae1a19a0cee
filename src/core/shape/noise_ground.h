// Noise: unevenness that nature would leave.
#pragma once

#include "shape/sculpt.h"

namespace jam {

struct Roughness {
    float scale = 14;     // metres that the largest bumps span
    float amplitude = 2;  // metres that the ground rises or falls at most
    int octaves = 4;      // each half as wide and half as high as the one before
    NoiseSign way = NoiseSign::both;
    uint32_t seed = 1;
};

// The noise itself at a place in metres: about [-relief, relief], or [0, relief] up, [-relief, 0] down.
float roughnessAt(const Roughness& roughness, double x, double z);

// The heights to which noise brings the ground of a view: each sample's own noise n is added as far as the ground does
// not already stand out that way. With b the mean around it (a Gaussian half as
// wide as the largest bumps, at most 64 samples) and d = h - b, it
// moves by n when d has not begun to, by nothing when d has reached n. So passing over a spot again adds nothing, and
// no number of strokes piles it up. `ground` has noiseHalo() samples more than `out` on each side; (x0, z0) is the
// sample at out's corner, spacing and origin those of the raster.
void roughen(View<const float> ground, int x0, int z0, const Level& level, const Roughness& roughness, View<float> out);
int noiseHalo(const Level& level, const Roughness& roughness);

// Moves each sample by share * falloff of its way there, from the ground as the stroke found it.
Region noiseGround(const StampSite& site, const Dab& dab, float share, const Roughness& roughness);

}  // namespace jam
