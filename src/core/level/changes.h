// What differs between two levels, found by comparing tile pointers.
#pragma once

#include "grid/tile_set.h"
#include "level/level.h"
#include "level/rasters.h"

namespace jam {

// Samples that may have changed, as seen: of the composed ground, of the layers' weights, of the wash and of the gaps
// (which have the ground's samples); and the objects whose own values differ, came or went.
struct Change {
    TileSet ground = {}, cover = {}, wash = {}, gaps = {}, water = {};
    TileSet plantings = {};  // how densely kinds stand, in samples of the cover, and where singles do
    std::vector<uint32_t> strata = {}, layers = {}, kinds = {};  // ids
    std::vector<uint32_t> behind = {};  // of layers whose living rules were not followed before, because the layer was
                                        // protected or the first, and are now
    bool looks = false;                 // how a layer is drawn: its order, pictures, look, blend, whether it is hidden
    bool sun = false, name = false;
    bool waters = false;      // the pools and streams, whatever they make of the ground
    bool waterLooks = false;  // how one that was there before is drawn
    bool spots = false;       // the spots, the bodies, or which of them goes
    bool raster = false;      // all of it: other samples, in other places; all other fields tell of everything then
    bool fence = false;       // the fence, whether it is in force, or the list of those that are kept

    // The samples that rasters of a kind show; there are none for Shows::nothing.
    TileSet& of(Shows shows);
    const TileSet& of(Shows shows) const { return const_cast<Change*>(this)->of(shows); }

    bool samples() const;
    bool empty() const;
    void add(const Change& other);
};

// The tiles that hold anything but the default.
template <class T>
TileSet presentTiles(const TiledGrid<T>& grid) {
    TileSet all;
    if (grid.presentTiles() == 0) return all;
    for (int tz = 0; tz < grid.tilesDown(); ++tz)
        for (int tx = 0; tx < grid.tilesAcross(); ++tx)
            if (grid.tile(tx, tz)) all.add(grid.tileRegion(tx, tz));
    return all;
}

// Ground samples where what such rasters show changed; below cover, those nearer than one ground sample.
TileSet shownGround(const Level& level, const Change& change, Shows shows);
// The same for everything that shows.
TileSet touchedGround(const Level& level, const Change& change);

// Everything of a level, as a change: what may be other than before when another takes its place.
Change allOf(const Level& level);

// True when both have the same samples in the same places.
bool sameRaster(const Level& a, const Level& b);

// Everything that differs; samples are looked for inside `within` only when it is given, and objects not at all then.
// On another raster (sameRaster) everything may be other than before.
Change changesBetween(const Level& now, const Level& before, const Change* within = nullptr);

}  // namespace jam
