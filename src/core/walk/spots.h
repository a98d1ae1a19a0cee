// What a designer does with spots and bodies.
#pragma once

#include "base/result.h"
#include "level/level.h"

namespace jam {

// The even ground under a spot.
struct Pad {
    float radius = 6;             // metres that are even, [0.1, 250]
    float rim = 6;                // metres over which it meets the ground around, [0, 500]
    std::optional<float> height;  // metres; without it, the ground's own at the middle, below the pad

    bool operator==(const Pad&) const = default;
};

// Errors: no name or one that another has, no kind, a place outside of the level or where there is no ground, numbers
// out of their ranges. `self` is the id of the one that it replaces, or 0.
Status checkSpot(const Level& level, const Spot& spot, uint32_t self = 0);
// What files ask of one: that there is ground is not among it, because a brush may take it away.
Status checkKeptSpot(const Level& level, const Spot& spot, uint32_t self = 0);
Status checkSpotName(const Level& level, const std::string& name, uint32_t self = 0);
// Errors: no name, numbers out of their ranges (level/spot.h).
Status checkBody(const Body& body);
Status checkPad(const Pad& pad);

// Adds one with an id of its own, and returns that. Errors: as above, too many.
Result<uint32_t> addSpot(Level& level, Spot spot);
// A name that no spot has: `wish`, or that with a number.
std::string freeSpotName(const Level& level, const std::string& wish);
// Its pad goes with it.
void removeSpot(Level& level, uint32_t id);
// Its pad's ground moves with it. Errors: there is no such spot; as checkSpot().
Status moveSpot(Level& level, uint32_t id, double x, double z);

// A pad is a course of one post: so it owns its ground, meets what lies around softly, moves with its post, and gives
// back to the bit what lies below when it goes. It lies under the courses that are there, so that roads lead onto it.
std::optional<Pad> padOf(const Level& level, const Spot& spot);
// Lays one under a spot, changes it, or takes it away. The ground follows with the commit. Errors: there is no such
// spot; as checkPad(); too many strata.
Status setPad(Level& level, uint32_t spot, const std::optional<Pad>& pad);

// Keeps a body under its name, in place of one of that name. Errors: as checkBody(); it is one of kBodies; too many.
Status keepBody(Level& level, const Body& body);

}  // namespace jam
