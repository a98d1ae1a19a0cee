// Where in each row of a raster something is that is not 0.
#pragma once

#include <vector>

#include "grid/view.h"

namespace jam {

// What is worked out for a round dab need not go through the corners of the square that it lies in.
class Extents {
public:
    struct Span {
        int x0 = 0, x1 = 0;  // [x0, x1)
        int width() const { return x1 - x0; }
        bool empty() const { return x1 <= x0; }
        Span clipped(int from, int end) const { return {x0 > from ? x0 : from, x1 < end ? x1 : end}; }
    };

    explicit Extents(View<const float> of);

    // From the first to the last sample of a row that is not 0, whatever lies in between.
    Span row(int z) const { return rows_[static_cast<size_t>(z)]; }
    // All that lies at most `reach` samples from the extents of this row and those around it, along either axis.
    Span near(int z, int reach) const;

private:
    int width_;
    std::vector<Span> rows_;
};

}  // namespace jam
