// Mending what the survey of reach finds: banks along ways out, ramps to where a body cannot climb.
#pragma once

#include "base/numbered.h"
#include "walk/reach.h"

namespace jam {

struct EdgeBank {
    float height = 2.5f;  // metres above the ground along the edge
    float width = 2;      // metres across its top
};
inline constexpr Numbered<EdgeBank> kBankNumbers[] = {{"height", "Height", &EdgeBank::height, 0.2, 100, "m", 1},
                                                      {"width", "Top", &EdgeBank::width, 0, 100, "m", 1}};
// Raises a bank along a way out, too steep to be climbed on its inner side, in the chosen stratum. Errors: out of
// range; the ground there cannot be shaped or the level's range is too low; one could get out over it still. Returns
// the level as committed, and the cubic metres of earth.
struct Mended {
    Level level;
    double earth = 0;
};
Result<Mended> bankAlong(const Level& level, const Reach& reach, const ReachPlace& wayOut, const EdgeBank& bank,
                         const Context& context = {});

// Joins a pocket or a trap, by its place, to the ground that is reached: a course that grades the shortest ramp that
// the body can climb, which can be moved afterwards like any other. Errors: the place is reached there and back
// already; no ramp of up to kLongestRamp metres joins it; too many strata.
constexpr double kLongestRamp = 150;
Result<Mended> rampTo(const Level& level, const Reach& reach, double x, double z, const Context& context = {});

}  // namespace jam
