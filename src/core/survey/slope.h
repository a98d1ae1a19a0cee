// Steepness of the ground, and its extremes.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "base/context.h"
#include "level/level.h"

namespace jam {

// Slope in degrees, [0, 90), at every sample of `region` of the composed ground, by Horn's third-order
// differences ("Hill Shading and the Reflectance Map", 1981). Over the edge the nearest sample counts.
void readSlope(const Level& level, const Region& region, View<float> out);

// Slope in degrees of the drawn surface's smooth gradient at world (x, z).
double slopeAt(const Level& level, double x, double z);
// Gradient (rise per metre east, rise per metre south) at world (x, z), by central differences.
struct Gradient {
    double east, south;
};
Gradient gradientAt(const Level& level, double x, double z);

struct GroundFigures {
    float lowest = 0, highest = 0;  // metres
    float steepest = 0;             // degrees
    double steepestX = 0, steepestZ = 0;
    double mean = 0;                  // metres
    double counted = 0;               // samples that have ground (level/opening.h); the others do not count
    std::array<double, 90> slopes{};  // share of the samples whose slope lies within [i, i + 1) degrees

    // Share of the ground that is at most so steep, [0, 1]; parts of a degree count in proportion.
    double atMost(double degrees) const;
};
// What is counted of the samples of one tile.
struct GroundTally {
    float lowest, highest, steepest;    // of those that have ground, when there are any
    int steepestColumn, steepestRow;    // sample
    double sum;                         // metres
    uint16_t counted;                   // samples that have ground
    std::array<uint16_t, 90> slopes{};  // samples by whole degrees
};
// `part` lies within the level and has at most 64 samples a side.
GroundTally tallyGround(const Level& level, const Region& part);
// What the tallies of all tiles come to, row by row. As surveyGround().
GroundFigures figuresOf(const Level& level, const std::vector<GroundTally>& tallies, const Context& context = {});

// Looks at the whole ground, or, where there is none anywhere, at the surface it would have; an empty result when
// cancelled.
GroundFigures surveyGround(const Level& level, const Context& context = {});

}  // namespace jam
