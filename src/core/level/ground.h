// The composed ground: start height plus every visible stratum, bottom to top.
#pragma once

#include "level/level.h"

namespace jam {

// Composed heights in metres. Precondition: region lies inside the level; out is at least as large.
void readGround(const Level& level, const Region& region, View<float> out);
// The same, but the region may reach over the edge; there the nearest edge sample is repeated.
void readGroundBeyond(const Level& level, const Region& region, View<float> out);
// One composed sample. Precondition: inside the level.
float groundSample(const Level& level, int column, int row);

// Whether ground can be shaped: the active stratum has to show. Errors: it does not, in words.
Status checkShapeable(const Level& level);
// Makes the topmost stratum that shows the active one when the active one does not.
void activateShown(Level& level);
// Writes new composed heights by putting the difference to `before` into the active stratum.
// Heights are held within [lowest, highest] of the level, which is a designer's choice of range and not an
// error. Both views cover `region`, which lies inside the level. Precondition: checkShapeable().
void writeGround(Level& level, const Region& region, View<const float> before, View<float> after);

// Altitude at world (x, z) on the triangles that are drawn: each cell is split from its north-west to its
// south-east corner. Outside the level the nearest edge counts.
double altitudeAt(const Level& level, double x, double z);

}  // namespace jam
