// Where there is no ground (level/opening.h), on the graphics side: one byte a ground sample, for the part of the level
// that has gaps alone.
#pragma once

#include "gl.h"
#include "grid/tile_set.h"
#include "level/level.h"

namespace jam {

class GapMap {
public:
    // Notes what a change of the gaps makes stale; `changed` may be more than that.
    void follow(const Level& level, const TileSet& changed);
    bool stale() const { return !stale_.empty(); }
    // Writes stale parts until it is so late; adds the ground that is drawn differently now.
    void bring(const Level& level, double until, TileSet& brought);

    // None while the level has ground everywhere.
    const GlTexture& texture() const { return texture_; }
    // The ground samples that it holds; all others have ground.
    const Region& where() const { return where_; }

private:
    GlTexture texture_;
    Region where_;
    TileSet stale_;
};

}  // namespace jam
