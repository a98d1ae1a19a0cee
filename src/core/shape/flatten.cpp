// Cost: one mask and one blend per sample.
#include "shape/flatten.h"

#include "brush/rows.h"
#include "shape/sculpt.h"

namespace jam {

Region flattenGround(Level& level, const Dab& dab, float share, float target, FlattenWay way) {
    const bool fill = way != FlattenWay::cut, cut = way != FlattenWay::fill;
    return sculpt(level, dab, 0, [=](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, share, [&](int z, int x, int n, const float* mask) {
            rowKernels().flatten(s.after.row(z) + x, mask, n, target, fill, cut);
        });
    });
}

}  // namespace jam
