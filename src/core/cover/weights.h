// Layer weights, derived from the coverage stack: what the renderer and the exports use.
#pragma once

#include <array>
#include <vector>

#include "level/level.h"

namespace jam {

// A layer shows with its coverage times what the layers above it let through. Weights are rounded from the
// *cumulative* coverage counted from the top, and differences taken, so that they sum to exactly 255 at
// every sample without any correction afterwards. Hidden layers weigh 0. When every layer is hidden the first
// weighs 255, so that the ground never has a hole.
//
// Writes one plane per layer: planes[i] receives the weights of level.layers[i].
// Precondition: region lies inside level.coverBounds(); planes has one view per layer of at least its size.
void readWeights(const Level& level, const Region& region, const std::vector<View<uint8_t>>& planes);

// The same in 16 bits: sums to exactly 65535, and agrees with readWeights() to within its rounding.
void readWeights16(const Level& level, const Region& region, const std::vector<View<uint16_t>>& planes);

// The layers that may have any weight in a region, as bits by layer index; found by tiles alone, so it costs next to
// nothing. Precondition: region lies inside level.coverBounds().
uint32_t layersWithin(const Level& level, const Region& region);

// The weights at one cover sample, by layer index.
std::array<uint8_t, kMaxLayers> weightsAt(const Level& level, int column, int row);

// The mix at world (x, z): bilinear between cover samples, in [0, 1], sums to 1.
std::array<float, kMaxLayers> mixAt(const Level& level, double x, double z);

// Weights of a tile of cover samples that have ground, summed up by layer index.
using LayerTally = std::array<uint32_t, kMaxLayers>;
LayerTally tallyLayers(const Level& level, const Region& tile);
// What the tallies of all tiles come to. As layerShares().
std::array<double, kMaxLayers> sharesOf(const std::vector<LayerTally>& tallies);

// Share of the level's ground that each layer shows, in [0, 1], by layer index; where there is none (level/opening.h)
// does not count. Works through every sample.
std::array<double, kMaxLayers> layerShares(const Level& level);

}  // namespace jam
