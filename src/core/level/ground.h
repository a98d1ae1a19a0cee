// The composed ground: the start height and every visible stratum and course, bottom to top, kept within the level's
// range at the end.
#pragma once

#include "level/level.h"

namespace jam {

// Composed heights in metres. Precondition: region lies inside the level; out is at least as large.
void readGround(const Level& level, const Region& region, View<float> out);
// The same, but the region may reach over the edge; there the nearest edge sample is repeated.
void readGroundBeyond(const Level& level, const Region& region, View<float> out);
// One composed sample. Precondition: inside the level.
float groundSample(const Level& level, int column, int row);

// The sample nearest to world (x, z): column and row; outside of the level that of the nearest edge.
std::array<int, 2> nearestSample(const Level& level, double x, double z);

// What lies below a stratum of that place in the order, before the range is kept to; with strata.size(), all of it.
void readGroundBelow(const Level& level, size_t stratum, const Region& region, View<float> out);
// Metres that each stratum and course adds at a sample, bottom to top; with the start height they sum to the ground
// (before the range is kept to).
std::vector<float> groundParts(const Level& level, int column, int row);
// How much of a change below shows through the courses above: 1 all, 0 nothing.
float gainAbove(const Level& level, size_t stratum, int column, int row);

constexpr float kLeastShaped = 0.05f;  // opacity of a stratum that can be shaped in
// Courses above that leave less than kLeastGain own the ground: brushes do nothing there; up to kFreeGain they do less.
constexpr float kLeastGain = 0.05f, kFreeGain = 0.25f;

// Whether ground can be shaped: the active stratum has to show, unprotected. Errors: it does not, in words.
Status checkShapeable(const Level& level);
// Makes the topmost stratum that shows the active one when the active one does not.
void activateShown(Level& level);
// Writes new composed heights by putting the difference to `before` into the active stratum.
// Heights are held within [lowest, highest] of the level, which is a designer's choice of range and not an
// error. Both views cover `region`, which lies inside the level. Precondition: checkShapeable().
void writeGround(Level& level, const Region& region, View<const float> before, View<float> after);

// What lies at (u, v) of a cell, each in [0, 1], on the triangles that are drawn: each cell is split from its
// north-west to its south-east corner. `at(dx, dz)` gives the heights of its corners, of which three are asked.
struct Incline {
    double height;       // metres
    double east, south;  // metres that it rises from one sample to the next
};
template <class At>
Incline inclineOf(double u, double v, At at) {
    const double nw = at(0, 0), se = at(1, 1), third = u >= v ? at(1, 0) : at(0, 1);
    const double east = u >= v ? third - nw : se - third, south = u >= v ? se - third : third - nw;
    return {nw + u * east + v * south, east, south};
}
// The same in a raster of heights, at a column and row within it.
inline Incline inclineIn(const Raster<float>& heights, double column, double row) {
    const int c = std::min(static_cast<int>(column), heights.width() - 2),
              r = std::min(static_cast<int>(row), heights.depth() - 2);
    return inclineOf(column - c, row - r, [&](int dx, int dz) { return heights.at(c + dx, r + dz); });
}

// Altitude at world (x, z) on the triangles that are drawn. Outside the level the nearest edge counts.
double altitudeAt(const Level& level, double x, double z);

}  // namespace jam
