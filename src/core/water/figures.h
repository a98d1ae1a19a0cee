// What is to be known of a pool or a stream: how much, how deep, where it leaks, how fast it runs.
#pragma once

#include <optional>
#include <string>

#include "base/numbered.h"
#include "water/water.h"

namespace jam {

// Where water leaves a pool that stands higher than its rim.
struct Leak {
    double x = 0, z = 0;                     // metres: the lowest place of the rim
    float brim = 0;                          // metres: the surface that it would hold
    float over = 0;                          // metres by which the surface stands above that, > 0
    std::string towards;                     // "east": where that place lies, seen from the middle of the pool
    std::vector<std::array<double, 2>> way;  // x, z in metres, from the rim to where the water leaves the level
    bool opening = false;                    // it leaves through an opening, not over the level's edge
};

struct PoolFigures {
    float height = 0;   // metres: the surface that they were taken of
    double area = 0;    // square metres of its surface
    double volume = 0;  // cubic metres
    float deepest = 0;  // metres
    int islands = 0;    // pieces of ground that stand out of it, wholly inside
    std::optional<Leak> leak;
    std::optional<float> brim;    // metres: the next height, from its surface up, at which it runs over; none for a sea
    std::vector<uint32_t> meets;  // other pools that it runs together with, or lies over
};
// Unspecified when cancelled.
PoolFigures poolFigures(const Level& level, const Pool& pool, const Context& context = {});

// The leak of a pool alone: cheap while it holds.
std::optional<Leak> leakOf(const Level& level, const Pool& pool, const Context& context = {});

// Speed of water `depth` deep and `width` wide over a bed that falls by `fall` metres each metre (Manning, 1891):
// metres a second, at most kFastestWater.
constexpr double kFastestWater = 12;
double manningSpeed(double depth, double width, double fall, double manning);

struct StreamFigures {
    double length = 0;             // metres on the map
    double fall = 0;               // metres from its spring to its end
    double mean = 0, fastest = 0;  // metres a second
    int falls = 0;                 // places where the bed drops steeply (more than kFallSlope) by at least kLeastFall
    double over = 0;               // metres by which it stands over its banks at worst, 0 when they hold it
    double x = 0, z = 0;           // where it does
    uint32_t into = 0;             // the pool that it ends in, or 0
};
constexpr double kOverBanks = 0.05;                 // metres from which that is worth telling
constexpr double kFallSlope = 1, kLeastFall = 0.5;  // 45 degrees; metres
StreamFigures streamFigures(const Level& level, const Stream& stream);

// Where the water at world (x, z) runs: metres a second east and south; nothing where it stands.
std::array<double, 2> flowAt(const Level& level, double x, double z);

// --- mending ------------------------------------------------------------------------------------------------------

// Lowers the surface to the brim. Errors: there is no such pool; it does not leak.
Status lowerToBrim(Level& level, uint32_t pool);

struct Dam {
    float width = 3;    // metres across its top
    float sides = 6;    // metres on either side over which it falls to the ground
    float over = 0.3f;  // metres by which its top stands above the surface
};
inline constexpr Numbered<Dam> kDamNumbers[] = {{"width", "Dam's top", &Dam::width, 0.5, 100, "m", 1},
                                                {"sides", "Soft sides", &Dam::sides, 0, 200, "m", 1},
                                                {"over", "Above the water", &Dam::over, 0, 20, "m", 2}};
// Raises the rim wherever the pool runs over, in the chosen stratum. Errors: there is no such pool; it does not leak;
// the dam is out of its ranges or would stand above the level's range; the ground there belongs to a course or the
// stratum cannot be shaped, so that it would leak still. Then nothing is changed. Returns the cubic metres of earth.
Result<double> raiseRim(Level& level, uint32_t pool, const Dam& dam);

}  // namespace jam
