// The lit map: what the ground looks like from afar, light included, with mipmaps. It stands in for the layers where
// they are not blended live. Up to 4097 samples a side it has a texel for each; beyond, for every second, fourth, ...
#pragma once

#include "bake.h"
#include "large_texture.h"

namespace jam {

class LitMap {
public:
    static constexpr int kMostTexels = 4200;      // a side
    static constexpr double kFinestMetres = 0.5;  // a texel: finer ones would not be seen where the map stands in

    explicit LitMap(GLint minify) : minify_(minify) {}

    GLint minify() const { return minify_; }
    // Begins to take room for a level of this size; what is in it is not told.
    void allocate(int columns, int rows, double spacing, const std::shared_ptr<RoomHelper>& helper);
    bool allocated() const { return texture_.begun(); }
    // Whether the room is there. Until then nothing can be uploaded.
    bool there() const { return texture_.there(); }
    // Ground samples from one texel to the next.
    int stride() const { return stride_; }
    static int strideFor(int columns, int rows, double spacing);
    int width() const { return width_; }
    int depth() const { return depth_; }
    const GlTexture& texture() const { return texture_.texture(); }

    // Takes in what was baked with this stride.
    void upload(const Baked& baked);
    // Fills the map with few colours, each standing for a square of `every` ground samples a side: something to see at
    // once, before anything finer is known. `every` is a whole multiple of the stride. One call fills some rows of one
    // mipmap, beginning with `step` 0; returns whether there is more to do.
    bool fill(const Raster<uint32_t>& colours, int every, int step);

private:
    void uploadCoarse(Region r);

    GLint minify_;
    int width_ = 0, depth_ = 0, stride_ = 1, levels_ = 0;
    // The mipmap in which a block has one texel. Finer ones follow from a block alone and are kept on the graphics side
    // only; this and coarser ones are kept here too.
    int coarseFrom_ = 0;
    std::vector<Raster<uint32_t>> coarse_;
    LargeTexture texture_;
};

}  // namespace jam
