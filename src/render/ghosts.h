// Border strips of the neighbouring levels, shown as ghosts: grey, thin, fading outwards.
#pragma once

#include <memory>

#include "gl.h"
#include "scene_view.h"

namespace jam {

class Ghosts {
public:
    Status build();
    // `strips[side]` is what of the neighbour on that side lies nearest to the border, or null; it is taken to lie
    // beside `level`, whatever its own place in the world.
    void set(const Level& level, const std::array<std::shared_ptr<const Level>, kLevelSides>& strips);
    void draw();

private:
    GlProgram program_;
    GlBuffer vertices_, indices_;
    GlArray array_;
    int count_ = 0;
};

}  // namespace jam
