// Where there is no ground: openings, which are holes in the land (cave mouths, cellars, whether painted or under what
// stands), and what is no land at all (islands, coasts). One definition for everything that asks: drawing, picking,
// walking, profiles, surveys, exports.
#pragma once

#include "level/level.h"

namespace jam {

// A level without any has ground everywhere, which is known at once.
bool hasGaps(const Level& level);
// The same of openings alone, whether a hand made them or they came with what stands.
bool hasOpenings(const Level& level);
// Errors: openings leave no ground at all where there is land.
Status checkGroundLeft(const Level& level);
// Whether any ground sample of a region may lie in a gap; found by tiles alone.
bool mayHaveGaps(const Level& level, const Region& ground);

// How far a sample is from having ground, 0 to 255: the greatest of opening, hatches and noLand.
uint8_t gapSample(const Level& level, int column, int row);
// The same of openings alone.
uint8_t openingSample(const Level& level, int column, int row);
// Gaps of a region, which lies inside the level.
void readGaps(const Level& level, const Region& region, View<uint8_t> out);

// The ground ends where this passes kGapEdge. Cut smoothly, it runs evenly over the same triangles as the ground
// (altitudeAt); following the cells, it is the mean of a cell's four corners. (column, row) are fractions of samples
// inside the level.
constexpr float kGapEdge = 127.5f;
float gapBetween(const Level& level, double column, double row);

// Whether there is ground at world (x, z); false outside of the level.
bool groundAt(const Level& level, double x, double z);

// A piece of the edge of the ground: from one point to the other with the ground on the left, looking along, in ground
// samples. `land`: the land ends there; otherwise it is an opening's rim.
struct EdgePiece {
    float c0, r0, c1, r1;
    bool land;
};
// All that lie in the cells of a region (counted by their north-west samples; it lies inside the level).
void edgesOf(const Level& level, const Region& cells, std::vector<EdgePiece>& out);

}  // namespace jam
