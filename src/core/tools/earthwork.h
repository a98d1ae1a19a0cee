// What Shift does to tools that fill or cut.
#pragma once

#include "brush/stroke.h"

namespace jam::tools {

inline void turnEarthwork(StrokeSettings& s) {
    if (s.earthwork != Earthwork::both) s.earthwork = s.earthwork == Earthwork::fill ? Earthwork::cut : Earthwork::fill;
}

}  // namespace jam::tools
