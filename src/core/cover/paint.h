// Paint and erase: what a brush does to the layers' coverage.
#pragma once

#include "brush/dab.h"

namespace jam {

// Raises the coverage of `layer` by share * falloff of its way to `target` (never lowers it) and thins every
// layer above towards 1 - target by the same share, so that the layer really comes to show. Layers that are
// hidden or kept are left alone. share in [0, 1], target in (0, 1]. The finest share still has an effect: coverage
// moves by at least one of its 65,535 steps. Returns the cover samples it may have changed.
// Precondition: the level has the layer.
Region paintLayer(Level& level, const Dab& dab, float share, uint32_t layer, float target);

// Lowers the coverage of `layer` by share * falloff of its way to nothing: what lies below shows again,
// exactly as it was. The first layer covers everything and is not changed.
Region eraseLayer(Level& level, const Dab& dab, float share, uint32_t layer);

}  // namespace jam
