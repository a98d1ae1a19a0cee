// The frame that every height kernel runs in: compose the ground, let the kernel work on it, put the
// difference into the active stratum. Kernels therefore never know of strata or tiles.
#pragma once

#include <functional>

#include "brush/dab.h"

namespace jam {

// What a kernel sees. Rows and columns count from the dab's region.
struct Sculpture {
    const Dab& dab;
    View<const float> before;  // grown by `halo` on every side; before.at(x + halo, z + halo) is sample (x, z)
    int halo;
    View<float> after;         // starts as a copy of `before` without its halo
};

// Runs kernel(sculpture, firstRow, endRow) over bands of rows, on several threads when the dab is big, after
// prepare(sculpture), when there is one, has run once. Returns the region of the dab.
// Threads: not to be called from inside parallelFor, because scratch is kept per thread.
Region sculpt(Level& level, const Dab& dab, int halo,
              const std::function<void(const Sculpture&, int firstRow, int endRow)>& kernel,
              const std::function<void(const Sculpture&)>& prepare = {});

// For kernels: f(z, x, n, mask) for each of the rows [firstRow, endRow), where the dab reaches the n samples from
// column x of the sculpture, with mask[i] = strength * falloff.
template <class F>
void eachMaskedRow(const Sculpture& s, int firstRow, int endRow, float strength, F f) {
    const Region r = s.dab.region;
    std::vector<float> mask(static_cast<size_t>(r.width()));
    for (int z = firstRow; z < endRow; ++z) {
        const Region span = dabSpan(s.dab, r, r.z0 + z);
        if (span.empty()) continue;
        dabMask(s.dab, span.x0, span.z0, span.width(), strength, mask.data());
        f(z, span.x0 - r.x0, span.width(), mask.data());
    }
}

}  // namespace jam
