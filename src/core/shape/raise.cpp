// Cost: one mask and one addition per sample.
#include "shape/raise.h"

#include "brush/rows.h"
#include "shape/sculpt.h"

namespace jam {

Region raiseGround(Level& level, const Dab& dab, float metres) {
    return sculpt(level, dab, 0, [metres](const Sculpture& s, int first, int end) {
        const Region r = s.dab.region;
        std::vector<float> mask(static_cast<size_t>(r.width()));
        for (int z = first; z < end; ++z) {
            const Region span = dabSpan(s.dab, r, r.z0 + z);
            if (span.empty()) continue;
            dabMask(s.dab, span.x0, span.z0, span.width(), metres, mask.data());
            rowKernels().raise(s.after.row(z) + (span.x0 - r.x0), mask.data(), span.width());
        }
    });
}

}  // namespace jam
