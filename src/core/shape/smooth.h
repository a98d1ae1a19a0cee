// Smooth: draws each sample towards the mean of its neighbourhood.
#pragma once

#include "shape/sculpt.h"

namespace jam {

// Moves each sample by share * falloff of its way to a weighted mean around it. `sigma` is the standard
// deviation of that mean in samples: up to kFineSigma it is the 3 x 3 binomial (9 taps), beyond it a Gaussian
// approximated by three box means, whose cost does not depend on sigma (Wells, "Efficient Synthesis of
// Gaussian Filters by Cascaded Uniform Filters", 1986). share in [0, 1].
// Over the edge of the level the nearest sample counts. Returns the samples it may have changed.
Region smoothGround(const StampSite& site, const Dab& dab, float share, float sigma);

constexpr float kFineSigma = 1.2f;

// Replaces the inner part of `ground` (all but `halo` samples on each side, halo = boxReach(sigma)) by its
// approximated Gaussian mean, written to `out`. Running sums are kept in double and made of
// whole multiples of 2^-24 m, so that they are exact: a sample's mean does not depend on where the window began.
void boxMean(View<const float> ground, int halo, float sigma, View<float> out);
// Samples to each side that the three boxes reach.
int boxReach(float sigma);
// The three box radii for a sigma, in samples.
struct BoxRadii {
    int r[3];
};
BoxRadii boxRadii(float sigma);

}  // namespace jam
