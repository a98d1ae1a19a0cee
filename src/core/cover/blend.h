// What a brush does to the edges between layers: soften, carry, break up.
#pragma once

#include "base/context.h"
#include "brush/dab.h"

namespace jam {

// All three move coverage by share * falloff of its way to a goal, share in [0, 1], at least one of its 65,535 steps where
// the goal is another. Layers that are hidden or kept, and the first, are left alone. They return the cover samples that
// may have changed.

// Goal: the mean around each sample, a Gaussian of `sigma` samples. Every layer's edges soften alike.
Region softenCover(Level& level, const Dab& dab, float share, float sigma);

// Goal: the coverage that each layer had at one place, so that its mix is drawn along.
using CoverMix = std::vector<uint16_t>;  // by layer index
CoverMix coverMixAt(const Level& level, double x, double z);
Region carryCover(Level& level, const Dab& dab, float share, const CoverMix& mix);

// Goal: the layer's own coverage in `origin` with its half-covered parts pushed to one side or the other by noise, bumps
// `scale` metres wide: soft edges become ragged, solid and bare parts stay. The same place always breaks the same way.
Region breakUpCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer, float scale, uint32_t seed);

// Where paint may fall: multiplies `shares`, a raster over the cover region `region`, by what the limits allow, [0, 1].
// Layers are looked up in `level` as it is.
void limitPaint(const Level& level, const Region& region, const PaintWhere& where, View<float> shares);

}  // namespace jam
