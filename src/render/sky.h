// The sky behind everything: every pixel of it, or while the picture moves a raster of its colours, because a smooth
// sky needs no more.
#pragma once

#include <cstdint>
#include <vector>

#include "gl.h"
#include "ground_programs.h"

namespace jam {

class Sky {
public:
    Status build();
    // Where nothing was drawn yet. Precondition: the textures are bound.
    void draw(const View3& view, bool quick);

private:
    static std::vector<uint16_t> open(const View3& view);

    GlProgram full_, quick_;
    GlBuffer corners_;
    GlArray empty_, raster_;
};

}  // namespace jam
