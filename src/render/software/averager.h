// The mean of several pictures of one view that lie apart by parts of a pixel (Pass), piece by piece: pixels that were
// drawn anew begin again while the others go on.
#pragma once

#include <cstdint>
#include <vector>

#include "render/pixel_rect.h"
#include "render/quality.h"

namespace jam {

class Averager {
public:
    void resize(int width, int height);
    // These show something else; nothing of them was averaged.
    void forget(const PixelRect& part);

    // Takes a pass of a piece, `bgra` rows from the top, and puts the mean so far into `picture`, whose rows are as
    // long as this is wide. The picture that stood there counts as one until four passes have come; what has had
    // kPasses, or was finished, stays. The most that a channel of it changed by.
    int add(const PixelRect& part, const uint8_t* bgra, int bytesPerRow, uint32_t* picture);
    // What needs no more passes.
    void finish(const PixelRect& part);
    // Whether any pixel of a piece has had fewer than so many passes.
    bool wants(const PixelRect& part, int passes) const;

private:
    struct Sum {
        uint16_t blue = 0, green = 0, red = 0, passes = 0;
    };
    size_t at(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(width_) + static_cast<size_t>(x);
    }

    int width_ = 0;
    bool any_ = false;  // passes were taken
    std::vector<Sum> sums_;
    std::vector<uint32_t> first_;  // what stood there before the first pass
};

}  // namespace jam
