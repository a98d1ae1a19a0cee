// Cost: one mask and one blend per sample.
#include "shape/flatten.h"

#include "brush/rows.h"
#include "shape/sculpt.h"

namespace jam {

Region flattenGround(Level& level, const Dab& dab, float share, float target, FlattenWay way) {
    const bool fill = way != FlattenWay::cut, cut = way != FlattenWay::fill;
    return sculpt(level, dab, 0, [=](const Sculpture& s, int first, int end) {
        const Region r = s.dab.region;
        std::vector<float> mask(static_cast<size_t>(r.width()));
        for (int z = first; z < end; ++z) {
            const Region span = dabSpan(s.dab, r, r.z0 + z);
            if (span.empty()) continue;
            dabMask(s.dab, span.x0, span.z0, span.width(), share, mask.data());
            rowKernels().flatten(s.after.row(z) + (span.x0 - r.x0), mask.data(), span.width(), target, fill, cut);
        }
    });
}

}  // namespace jam
