// The surfaces of pools and streams.
#pragma once

#include "gl.h"
#include "scene_view.h"
#include "stream_strips.h"

namespace jam {

class Waters {
public:
    Status build();
    // Notes what changed of the water; the ground below is looked up while drawing.
    void follow(const Level& level, const Change& change);
    // Blends it with the picture. Preconditions: follow() was called with the view's level, the textures are bound, and
    // everything else that is seen through it is drawn.
    void draw(const SceneView& view);
    bool any() const { return any_; }

private:
    enum Kind { kPool, kStream, kSides };
    static constexpr int kKinds = 3, kLooks = 4;  // looks: full, quick, depth, from below

    void upload(const Level& level, const TileSet& changed);
    void buildTiles(const Level& level);
    const GlProgram& take(Kind kind, int look, const SceneView& view);

    GlProgram programs_[kKinds][kLooks];
    StreamStrips streams_;
    GlBuffer tiles_;
    GlArray tileArray_, emptyArray_;
    GlTexture texture_;  // number of the body over each sample of `held_`, 0 where it is dry
    Region held_;
    std::vector<uint64_t> bodies_;  // of each tile of the level, by cells: those that stand over any of their corners
    std::vector<uint32_t> ids_;     // by number - 1
    int columns_ = 0, rows_ = 0, across_ = 0, tileCount_ = 0;
    float deepest_ = 1;
    bool any_ = false, atEdge_ = false, strips_ = true;  // the strips have to be made anew
};

}  // namespace jam
