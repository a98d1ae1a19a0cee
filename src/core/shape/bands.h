// Work on whole grounds goes by bands of rows, so that cancel and progress are looked at often.
#pragma once

#include <algorithm>

#include "base/context.h"
#include "grid/view.h"

namespace jam {

constexpr int kBand = 128;  // rows at a time

// f(first, end) over bands of rows; false when cancelled in between.
template <class F>
bool inBands(int rows, const Context& context, F f) {
    for (int z = 0; z < rows; z += kBand) {
        if (context.cancelled()) return false;
        context.report(static_cast<double>(z) / rows);
        f(z, std::min(z + kBand, rows));
    }
    return !context.cancelled();
}

// Part of a longer task: progress runs from `from` to `to`. Precondition: `whole` lives as long.
Context partOf(const Context& whole, double from, double to);

// Rows [first - halo, end + halo) with `halo` columns beside, the edges repeated.
Raster<float> windowOf(const Raster<float>& ground, int first, int end, int halo);

// Draws everything towards the mean around it, `sigma` samples wide; false when cancelled.
bool smoothAll(Raster<float>& ground, float sigma, const Context& context = {});

}  // namespace jam
