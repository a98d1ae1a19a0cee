// The sky behind everything: every pixel of it, or while the picture moves a raster of its colours, because a smooth
// sky needs no more.
#pragma once

#include <cstdint>
#include <vector>

#include "gl.h"
#include "scene_view.h"

namespace jam {

class Sky {
public:
    Status build();
    // Where nothing was drawn yet. Precondition: the textures are bound.
    void draw(const SceneView& view, bool quick);

private:
    static std::vector<uint16_t> open(const SceneView& view);

    GlProgram full_, quick_;
    GlBuffer corners_;
    GlArray empty_, raster_;
};

}  // namespace jam
