// Footprints: what stands by hand may bring the ground that it stands on. A footprint is a stratum that evens the
// ground under each single of one kind, as a pad does under its spot: so it owns that ground while they stand, moves
// with them, and gives back to the bit what lies below. Its opening, if it has one, is cut where they stand.
#pragma once

#include "base/result.h"
#include "level/changes.h"

namespace jam {

// One that stands higher above the ground than this stands on something else, and makes nothing of the ground.
constexpr float kStandsOnElse = 1;  // metres

// The place of a kind's footprint in the strata, or -1.
int footprintPlace(const Level& level, uint32_t kind);
// Lays one under the singles of a kind, changes it, or takes it away; below the courses that are there, so that they
// lead onto it. The ground follows with the commit. Errors: the kind is gone; a number out of its range; too many
// strata.
Status setFootprint(Level& level, uint32_t kind, const std::optional<Footprint>& footprint);
// Errors: numbers out of their ranges (kFootprintNumbers).
Status checkFootprint(const Footprint& footprint);

// The outline of a kind on the map at size 1, metres: from the west and north to the east and south end, as it is
// when it faces north.
struct Outlined {
    double west, north, east, south;
};
Outlined outlineOfKind(const Kind& kind);
// f(single) for those under which a footprint evens the ground, in their order.
template <class F>
void eachOnFootprint(const Level& level, const Footprint& footprint, F f) {
    for (const Single& s : level.singles)
        if (s.kind == footprint.kind && s.above <= kStandsOnElse) f(s);
}

// Adds to `change` the footprints of kinds that it names: what they stand on is other than before.
void nameFootprints(const Level& level, Change& change);
// Makes Level::hatches anew where `change` may concern them; the samples that differ.
TileSet refreshHatches(Level& level, const Change& change);
// Samples that that would look at, about; 0 when there is nothing to do.
long long hatchesWork(const Level& level, const Change& change);
// The same from nothing.
void refillHatches(Level& level);

}  // namespace jam
