// What pools and streams make of the ground: where water stands and runs, and how high.
#pragma once

#include "base/context.h"
#include "course/line.h"
#include "grid/bits.h"
#include "level/changes.h"

namespace jam {

// Where a pool stands: over all ground below its surface that is joined to its place. It leaks when that reaches the
// level's edge, an opening, or dry ground lower than its place (by kLeastHollow at least; ground that another pool
// covers is not dry). Then it stands as far as its own hollow reaches, not where ground drains lower than its brim, and
// ends in a wall of water at the place where it runs out. A sea leaks through openings alone, and stands over what is
// no land too.
struct Extent {
    BitTiles wet;    // ground samples that lie below the surface
    BitTiles drain;  // of one that leaks: ground by which it runs out
    BitTiles to;     // and where it is lost
    bool leaks = false;
};
Extent extentOf(const Level& level, const Pool& pool, const Context& context = {});
// Brings `water` up to date after `change`: streams run over their beds, pools refill; where two meet, the higher
// surface counts, and of equal ones the first pool. The place of a pool moves to the deepest of the samples that it
// covered before and still does; whether it leaks is noted in it. Returns the ground samples whose water differs.
TileSet refreshWater(Level& level, const Change& change, const Context& context = {});
// Makes all of it anew, for a level that comes from elsewhere.
void refillWater(Level& level, const Context& context = {});
// Ground samples that refreshWater() would have to look at, about; 0 when nothing concerns it.
long long waterWork(const Level& level, const Change& change);

// Errors: no name or one that another has, a height beyond the level's range, a place outside of the level, numbers out
// of their ranges. `self` is the id of the one that it replaces, or 0.
Status checkPool(const Level& level, const Pool& pool, uint32_t self = 0);
// The same, and for a new one: the course is none that carves, it would have to run uphill, another stream has it.
Status checkStream(const Level& level, const Stream& stream, uint32_t self = 0);

// The parts of that which files ask for by themselves. Errors: no name or one that another has; no room for one more.
Status checkWaterName(const Level& level, const std::string& name, uint32_t self = 0);
Status checkWaterRoom(const Level& level);

// Add one, with an id of its own, and return that. The water follows with the commit. Errors: as above, too many.
Result<uint32_t> addPool(Level& level, Pool pool);
Result<uint32_t> addStream(Level& level, Stream stream);
void removeWater(Level& level, uint32_t id);
// A name that no pool or stream has: `wish`, or that with a number.
std::string freeWaterName(const Level& level, const std::string& wish);

// A pool that fills the hollow at world (x, z) to its brim: the smallest whose brim lies higher than the water that
// stands there now (water/rise.h), with its place at the deepest sample. Errors: nothing holds water there, or it runs
// off to a hollow elsewhere; cancelled.
Result<Pool> poolAt(const Level& level, double x, double z, const Context& context = {});

// A pool of a given height over world (x, z), whether that holds it or not, with its place at the bottom of the hollow
// that it fills there. Errors: outside of the level.
Result<Pool> poolStanding(const Level& level, double x, double z, float height, const Context& context = {});

// The water over world (x, z): the sample's when all of its triangle's lie in the same body, or any that stands over
// the ground there. Dry outside of the level.
Wet waterAt(const Level& level, double x, double z);
// Metres of water over world (x, z), 0 where it is dry.
double depthAt(const Level& level, double x, double z);

// The line of a stream's surface, along its course: heights are those of its surface, joined to the pools that it runs
// into; widths those of the bed.
std::vector<LinePoint> streamLine(const Level& level, const Stream& stream);

}  // namespace jam
