// How much the layers' pictures are drawn out on slopes.
#pragma once

#include <vector>

#include "base/context.h"
#include "level/level.h"

namespace jam {

// Stretch along the fall line, 0 for pictures at their true size, 1 for twice as long, at every ground sample of
// `region`: laid from above, 1 / (upward part of the normal) - 1; from three sides, the mean over the sides by how much
// each is seen; the mean of both by the weights of the layers that are laid either way. At most kMostStretch.
void readStretch(const Level& level, const Region& region, View<float> out);
constexpr float kMostStretch = 20;

// Ground samples of a tile that are drawn out by more than `limit`, and all that have ground. `part` has at most 64
// samples a side.
struct StretchTally {
    uint16_t over, counted;
};
StretchTally tallyStretch(const Level& level, const Region& part, float limit);
// What the tallies of all tiles come to. As stretchedShare().
double shareOf(const std::vector<StretchTally>& tallies);

// Share of the ground, [0, 1], that is drawn out by more than `limit`. 0 when cancelled.
double stretchedShare(const Level& level, float limit, const Context& context = {});

}  // namespace jam
