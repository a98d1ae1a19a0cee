#include "shape/sculpt.h"

#include <cstring>

#include "base/parallel.h"
#include "level/ground.h"

namespace jam {

Region sculpt(Level& level, const Dab& dab, int halo,
              const std::function<void(const Sculpture&, int, int)>& kernel,
              const std::function<void(const Sculpture&)>& prepare) {
    const Region r = dab.region;
    if (r.empty()) return r;
    // One scratch per thread that strokes; it grows to the largest brush and is reused by every stamp.
    static thread_local Raster<float> beforeScratch, afterScratch;
    beforeScratch.reshape(r.width() + 2 * halo, r.depth() + 2 * halo);
    afterScratch.reshape(r.width(), r.depth());
    View<float> before = beforeScratch.view(), after = afterScratch.view();
    readGroundBeyond(level, r.grown(halo), before);
    const Sculpture s{dab, before, halo, after};
    if (prepare) prepare(s);
    const View<float> middle = before.part(halo, halo, r.width(), r.depth());
    parallelFor(r.depth(), kRowsPerThread, [&](int first, int end) {
        for (int z = first; z < end; ++z) std::memcpy(after.row(z), middle.row(z), sizeof(float) * r.width());
        kernel(s, first, end);
    });
    writeGround(level, r, middle, after);
    return r;
}

}  // namespace jam
