// Cost: one mask and one addition per sample.
#include "shape/raise.h"

#include "brush/rows.h"

namespace jam {

Region raiseGround(const Site& site, const Dab& dab, float metres) {
    return sculpt(site, dab, {}, [metres](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, metres, [&](int z, int x, int n, const float* mask) { rowKernels().raise(s.after.row(z) + x, mask, n); });
    });
}

}  // namespace jam
