// Cost: one mask and one addition per sample.
#include "shape/raise.h"

#include "brush/rows.h"
#include "shape/sculpt.h"

namespace jam {

Region raiseGround(Level& level, const Dab& dab, float metres) {
    return sculpt(level, dab, 0, [metres](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, metres, [&](int z, int x, int n, const float* mask) { rowKernels().raise(s.after.row(z) + x, mask, n); });
    });
}

}  // namespace jam
