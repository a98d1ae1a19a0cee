#include "gap_map.h"

#include "level/changes.h"
#include "level/opening.h"
#include "write_in_time.h"

namespace jam {

namespace {
constexpr int kMargin = 128;  // samples that gaps may grow until it is made anew
}

void GapMap::follow(const Level& level, const TileSet& changed) {
    if (changed.empty()) return;
    if (!hasGaps(level)) {
        *this = {};
        return;
    }
    const Region all = presentTiles(level.opening)
                           .bounds()
                           .joined(presentTiles(level.hatches).bounds())
                           .joined(presentTiles(level.noLand).bounds());
    if (all.clipped(where_) != all) {
        where_ = all.grown(kMargin).clipped(level.bounds());
        texture_ = {};
        stale_ = where_;
    }
    stale_.add(changed.clipped(where_));
}

void GapMap::bring(const Level& level, double until, TileSet& brought) {
    if (stale_.empty()) return;
    if (!texture_) {
        texture_ = makeTexture();
        glBindTexture(GL_TEXTURE_2D, texture_);
        setFilter(GL_TEXTURE_2D, GL_NEAREST, GL_NEAREST, GL_CLAMP_TO_EDGE, GL_CLAMP_TO_EDGE);
        takeRoom(GL_R8, where_.width(), where_.depth());
    }
    glBindTexture(GL_TEXTURE_2D, texture_);
    Raster<uint8_t> gaps;
    writeInTime(stale_, until, [&](const Region& part) {
        gaps.reshape(part.width(), part.depth());
        readGaps(level, part, gaps.view());
        glTexSubImage2D(GL_TEXTURE_2D, 0, part.x0 - where_.x0, part.z0 - where_.z0, part.width(), part.depth(), GL_RED,
                        GL_UNSIGNED_BYTE, gaps.view().data);
        // The edge of a tile's cells lies in the next one's samples.
        brought.add(part.grown(1).clipped(level.bounds()));
    });
}

}  // namespace jam
