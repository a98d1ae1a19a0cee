// The edges of the land, dropping as cliffs (Level::cliff).
#pragma once

#include "gl.h"
#include "level/opening.h"
#include "scene_view.h"

namespace jam {

class Cliffs {
public:
    Status build();
    // Notes the edges that changed; the heights along them are looked up while drawing.
    void follow(const Level& level, const Change& change);
    // Preconditions: follow() was called with the level that is drawn, and the textures are bound.
    void draw();

private:
    GlProgram program_;
    GlBuffer buffer_;
    GlArray array_;
    std::vector<std::vector<EdgePiece>> tiles_;  // of each tile of the level, those of the land
    int across_ = 0, columns_ = 0, rows_ = 0;
    bool smooth_ = true, stale_ = false;
    int count_ = 0;
};

}  // namespace jam
