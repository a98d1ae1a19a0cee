// Steepness of the ground, and its extremes.
#pragma once

#include <array>

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
// Looks at the whole ground, or, where there is none anywhere, at the surface it would have; an empty result when
// cancelled.
GroundFigures surveyGround(const Level& level, const Context& context = {});

}  // namespace jam
