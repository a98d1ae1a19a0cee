// The frame that every height kernel runs in: compose the ground, let the kernel work on it, put the
// difference into the active stratum. Kernels therefore never know of strata, tiles or mirrors.
#pragma once

#include <functional>

#include "brush/dab.h"

namespace jam {

// Changes of height that images of one stamp make where they overlap: the greatest one counts, so that the outcome
// does not depend on their order and a mirrored stroke stays exactly mirrored.
class Overlap {
public:
    Overlap(const Level& level, const Region& region);
    void add(const Symmetry& frame, const Region& region, View<const float> before, View<const float> after);
    void write(Level& level);

private:
    Region region_;
    Raster<float> before_, change_;
};

// Where kernels work.
struct StampSite {
    StampSite(Level& l) : level(l) {}  // implicit: most work has nothing else to say
    Level& level;
    const Level* origin = nullptr;  // the level as it was when the stroke began; without it, `level` itself
    HeightLimits limits;
    Overlap* overlap = nullptr;  // when given, receives the changes instead of the level
};

// What a kernel sees. Rows and columns count from the dab's region, which may lie in a mirrored frame.
struct Sculpture {
    const Dab& dab;
    double spacing;            // metres between samples
    View<const float> before;  // grown by `halo` on every side; before.at(x + halo, z + halo) is sample (x, z)
    View<const float> origin;  // the ground as the stroke found it, like `before`; empty unless asked for
    int halo;
    View<float> after;  // starts as a copy of `before` without its halo

    View<const float> middle() const { return before.part(halo, halo, after.width, after.depth); }
};

struct Needs {
    int halo = 0;         // samples around the dab
    bool origin = false;  // the ground as the stroke found it
};

// Runs kernel(sculpture, firstRow, endRow) over bands of rows, on several threads when the dab is big, after
// prepare(sculpture), when there is one, has run once; it may change `after` itself. Returns the samples of the level
// it may have changed.
Region sculpt(const StampSite& site, const Dab& dab, const Needs& needs,
              const std::function<void(const Sculpture&, int firstRow, int endRow)>& kernel,
              const std::function<void(const Sculpture&)>& prepare = {});

// For kernels: f(z, x, n, mask) for each of the rows [firstRow, endRow), where the dab reaches the n samples from
// column x of the sculpture, with mask[i] = strength * falloff.
template <class F>
void eachMaskedRow(const Sculpture& s, int firstRow, int endRow, float strength, F f) {
    const Region r = s.dab.region;
    const DabRows rows(s.dab);
    std::vector<float> mask(static_cast<size_t>(r.width()));
    for (int z = firstRow; z < endRow; ++z) {
        const Region span = dabSpan(s.dab, r, r.z0 + z);
        if (span.empty()) continue;
        rows.mask(span.x0, span.z0, span.width(), strength, mask.data());
        f(z, span.x0 - r.x0, span.width(), mask.data());
    }
}

// Most kernels in short: moves each sample of the dab by share * falloff of its way to target's value, a raster over
// the dab's region.
void blendTowards(const Sculpture& s, int firstRow, int endRow, float share, View<const float> target);

// The mask of the whole dab, 0 where it does not reach. `mask` is as large as the dab's region.
void readMask(const Sculpture& s, float strength, View<float> mask);
// The same with a border of one sample of nothing around it.
void borderedMask(const Sculpture& s, float strength, Raster<float>& mask);

}  // namespace jam
