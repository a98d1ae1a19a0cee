// A picture that is drawn into, with its depth.
#pragma once

#include <cstdint>
#include <vector>

#include "gl.h"
#include "renderer.h"

namespace jam {

struct Canvas {
    GlFrame frame;
    GlTexture colour, depth;
    int width = 0, height = 0;

    void resize(int w, int h);
    // Grows to this size at least, in steps, so that room is not made anew for every few pixels more.
    void makeRoom(int w, int h);
    // BGRA rows from the bottom.
    void fetch(const PixelRect& part, std::vector<uint32_t>& out) const;
};

}  // namespace jam
