// What differs between two levels, found by comparing tile pointers.
#pragma once

#include "level/level.h"

namespace jam {

// Ground and cover samples that may have changed.
struct Change {
    Region ground, cover;

    bool empty() const { return ground.empty() && cover.empty(); }
    Change joined(const Change& o) const { return {ground.joined(o.ground), cover.joined(o.cover)}; }
};

// Ground samples that a change touches: its ground, and the ground below its cover.
Region touchedGround(const Level& level, const Change& change);

// True when both have the same samples in the same places.
bool sameRaster(const Level& a, const Level& b);

// Samples whose composed height or weights may differ, looked for inside `within` only when it is given.
// Precondition: sameRaster().
Change changesBetween(const Level& now, const Level& before, const Change* within = nullptr);

}  // namespace jam
