// Writing parts of a texture until it is late.
#pragma once

#include <chrono>

#include "gl.h"
#include "grid/tile_set.h"

namespace jam {

inline double nowMs() {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

// Writes stale parts of the bound texture until it is late: put(part). What is left stays stale.
template <class Put>
void writeInTime(TileSet& stale, double until, Put put) {
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    TileSet rest;
    bool late = false;
    stale.each([&](int, int, const Region& part) {
        if (late) return rest.add(part);
        put(part);
        late = nowMs() >= until;
    });
    stale = std::move(rest);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
}

}  // namespace jam
