// Rectangles of a picture, in pixels.
#pragma once

#include <algorithm>

#include "camera.h"
#include "survey/pyramid.h"

namespace jam {

struct PixelRect {
    int x = 0, y = 0, width = 0, height = 0;  // from the top left
    bool empty() const { return width <= 0 || height <= 0; }
    bool meets(const PixelRect& o) const {
        return x < o.x + o.width && o.x < x + width && y < o.y + o.height && o.y < y + height;
    }
    PixelRect joined(const PixelRect& o) const {
        if (empty()) return o;
        if (o.empty()) return *this;
        const int x0 = std::min(x, o.x), y0 = std::min(y, o.y);
        return {x0, y0, std::max(x + width, o.x + o.width) - x0, std::max(y + height, o.y + o.height) - y0};
    }
};

// Pixels that these ground samples can cover while their heights lie in `span`; empty when none.
PixelRect pixelsOf(const Level& level, const Region& ground, HeightSpan span, const Camera& camera);

}  // namespace jam
