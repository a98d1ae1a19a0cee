// Coverage and weights the other way round: layers are filled, replaced and merged so that the mix comes out as wanted.
#pragma once

#include "base/context.h"
#include "brush/dab.h"

namespace jam {

// Sets coverages so that readWeights() gives exactly these: planes[i] holds the weights of level.layers[i], 0 to 255,
// that sum to 255 at every sample. Hidden layers are shown. Precondition: no layer's rules are alive; region lies
// inside level.coverBounds(); planes has one view per layer of at least its size.
void writeWeights(Level& level, const Region& region, const std::vector<View<const uint8_t>>& planes);

// Gives what `from` shows to `to`, by share * falloff of it. The mix of all others stays as it is; hidden layers, but
// for these two, keep their coverage. The finest share still has an effect. Returns the samples that may have changed.
// Precondition: two different layers of the level.
Region replaceUnder(Level& level, const Dab& dab, float share, uint32_t from, uint32_t to);
// The same everywhere and altogether; rules of these two no longer look after them, and those of the layers between
// leave alone what had to move there. Errors: one of them is gone or protected, or they are the same.
Status replaceLayer(Level& level, uint32_t from, uint32_t to);
// Gives what the layer shows to the one below it and removes it; that one's pictures stay. Errors: it is gone, the
// lowest, or one of both is protected.
Status mergeDown(Level& level, uint32_t layer);

// Paints a layer everywhere that `where` allows, towards `target`. Errors: it is gone, or cancelled; then the level
// stays as it was.
Status fillLayer(Level& level, uint32_t layer, float target, const PaintWhere& where, const Context& context = {});

}  // namespace jam
