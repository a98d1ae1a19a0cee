// What differs between two levels, found by comparing tile pointers.
#pragma once

#include "level/level.h"

namespace jam {

// Samples that may have changed: of the ground, of the cover, and of the wash (which has the ground's samples).
struct Change {
    Region ground = {}, cover = {}, wash = {};

    bool empty() const { return ground.empty() && cover.empty() && wash.empty(); }
    Change joined(const Change& o) const { return {ground.joined(o.ground), cover.joined(o.cover), wash.joined(o.wash)}; }
};

// Ground samples that a change touches: its ground and wash, and the ground below its cover.
Region touchedGround(const Level& level, const Change& change);

// True when both have the same samples in the same places.
bool sameRaster(const Level& a, const Level& b);

// Samples whose composed height, weights or wash may differ, looked for inside `within` only when it is given.
// Precondition: sameRaster().
Change changesBetween(const Level& now, const Level& before, const Change* within = nullptr);

}  // namespace jam
