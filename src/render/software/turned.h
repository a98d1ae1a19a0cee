// A picture as a camera sees it that was turned on the spot. Nothing moves against anything else then, so that every
// pixel of the one is a place of the other, by a homography (Hartley and Zisserman, Multiple View Geometry in Computer
// Vision, 2nd ed., section 8.4.2): that a picture turns costs a look at each pixel and no ground at all.
#pragma once

#include <cstdint>
#include <glm/mat3x3.hpp>

#include "render/pixel_rect.h"

namespace jam {

class Turned {
public:
    // Of the picture of `from` only `part` is there. Precondition: both stand at the same place.
    Turned(const Camera& from, const PixelRect& part, const Camera& to);

    struct Span {
        int first = 0, end = 0;  // half open
        bool empty() const { return first >= end; }
    };
    // Pixels of row y of `to` that lie on the part and at least `margin` pixels away from the middles of its outermost
    // ones; a negative margin reaches beyond them.
    Span span(int y, double margin) const;
    // Draws those pixels of row y, each as a mean of the four about its place. `pixels`: rows of the part from the top,
    // four bytes a pixel, at least 2 x 2. `out` is the first of them. Precondition: a span told with a margin of -0.5
    // or more.
    void draw(int y, const Span& span, const uint32_t* pixels, uint32_t* out) const;
    // The same of pixels that may lie beyond the part as well, where nothing is drawn; towards its edges it fades into
    // what `out` shows, over `fade` pixels.
    void fade(int y, const Span& span, const uint32_t* pixels, int fade, uint32_t* out) const;

private:
    struct Places;
    void places(int y, int first, int n, Places& out) const;
    glm::dmat3 places_;  // takes (x, y, 1) of `to` to (x, y, 1) of the part, times a number above 0 before the eye
    int width_, height_, shown_;  // of the part; the width of `to`
};

}  // namespace jam
