// What a brush does to how densely kinds stand.
#pragma once

#include "brush/dab.h"

namespace jam {

// A density in plantings on 100 m2 as rasters hold it, and back (level/kind.h).
uint16_t storedDensity(double onHundred);
inline double shownDensity(uint16_t stored) { return stored * kDensityStep; }

// Raises the density of a kind by share * falloff of its way to `goal` (never lowers it). share in [0, 1]. The finest
// share still has an effect. Returns the cover samples it may have changed. A kind that is protected or gone stays.
Region plantKind(Level& level, const Dab& dab, float share, uint32_t kind, uint16_t goal);

// Lowers the density of a kind by share * falloff of its way to nothing.
Region thinKind(Level& level, const Dab& dab, float share, uint32_t kind);

// Makes those of a kind so many times as large, in [1 / kMostResized, kMostResized]: share * falloff of the way there.
Region sizeKind(Level& level, const Dab& dab, float share, uint32_t kind, double times);

// Takes away, where the falloff is more than half, what stands of a kind, or of every kind when `kind` is 0: its
// density and its singles. Where rules give it, the hand holds it bare from then on.
Region clearKinds(Level& level, const Dab& dab, uint32_t kind);

}  // namespace jam
