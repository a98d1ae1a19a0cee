// What is found out about a level as a whole, kept up to date with its changes: figures of the ground, shares of its
// layers, its openings, pools and streams.
#pragma once

#include <array>
#include <map>
#include <vector>

#include "dress/figures.h"
#include "survey/openings.h"
#include "survey/tallies.h"
#include "water/figures.h"

namespace jam {

struct LevelSurvey {
    GroundFigures ground;
    std::array<double, kMaxLayers> shares{};  // by the order of layers
    double stretched = 0;                     // share of the ground whose textures are drawn out by more than half
    std::vector<FoundOpening> openings;       // for the body that goes
    std::map<uint32_t, PoolFigures> pools;    // by id
    std::map<uint32_t, StreamFigures> streams;
    DressFigures dress;
    Tallies tallies;  // that the figures above come from

    // Looks again at what `change` may have altered, at everything without one. False when cancelled; it is to be made
    // anew then.
    bool follow(const Level& level, const Change* change, const Context& context = {});
};

}  // namespace jam
