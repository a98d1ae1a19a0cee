// The colours of the tiles that a hand sculpts, from one dab to the next.
#pragma once

#include <map>
#include <utility>

#include "bake.h"
#include "grid/tile_set.h"

namespace jam {

class KeptColours {
public:
    // Of a tile; what is not known of it yet is to be added. Stays valid until others are asked for in another turn.
    TileColours& of(int tx, int tz) { return tiles_[{tx, tz}]; }
    // Before tiles are asked for that are worked on together: makes room when there are too many.
    void beginTurn() {
        if (tiles_.size() > kMost) tiles_.clear();
    }
    // Paint or layers changed there, or everywhere.
    void forget(const TileSet& ground) {
        if (!tiles_.empty()) ground.each([this](int tx, int tz, const Region&) { tiles_.erase({tx, tz}); });
    }
    void forget() { tiles_.clear(); }

private:
    static constexpr size_t kMost = 64;  // 80 kB each
    std::map<std::pair<int, int>, TileColours> tiles_;
};

}  // namespace jam
