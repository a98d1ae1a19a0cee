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
            dabMask(s.dab, r.x0, r.z0 + z, r.width(), metres, mask.data());
            rowKernels().raise(s.after.row(z), mask.data(), r.width());
        }
    });
}

}  // namespace jam
