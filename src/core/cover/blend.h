// What a brush does to the edges between layers: soften, carry, break up.
#pragma once

#include <functional>

#include "base/context.h"
#include "brush/dab.h"

namespace jam {

// All three move coverage by share * falloff of its way to a goal, share in [0, 1], at least one of its 65,535 steps
// where the goal is another. Layers that are hidden or kept, and the first, are left alone. They return the cover
// samples that may have changed.

// Goal: the mean around each sample, a Gaussian of `sigma` samples. Every layer's edges soften alike.
Region softenCover(Level& level, const Dab& dab, float share, float sigma);

// Goal: the coverage that each layer had at one place, so that its mix is drawn along.
using CoverMix = std::vector<uint16_t>;  // by layer index
CoverMix coverMixAt(const Level& level, double x, double z);
Region carryCover(Level& level, const Dab& dab, float share, const CoverMix& mix);

// Goal: the layer's own coverage in `origin` with its half-covered parts pushed to one side or the other by a pattern,
// [-1, 1] at a cover sample: soft edges become ragged, solid and bare parts stay.
using BreakPattern = std::function<float(int x, int z)>;
Region breakUpCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer,
                    const BreakPattern& pattern);

// Noise with bumps `scale` metres wide: the same place always breaks the same way.
BreakPattern noisePattern(const Level& level, float scale, uint32_t seed);
// The picture of a tip where the dab lies: what is white stays, what is black goes. The dab must outlive the pattern.
BreakPattern tipPattern(const Dab& dab);
// The height of the layer's own pictures, [0, 1], one repeat of them: what stands tall stays. Layer and raster must
// outlive it.
BreakPattern heightPattern(const Level& level, const Layer& layer, const Raster<float>& height);

// Where paint may fall: multiplies `shares`, a raster over the cover region `region`, by what the limits allow, [0, 1].
// Layers are looked up in `level` as it is.
void limitPaint(const Level& level, const Region& region, const PaintWhere& where, View<float> shares);

}  // namespace jam
