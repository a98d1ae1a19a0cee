// Cost: one mask and one blend per sample.
#include "shape/flatten.h"

#include "brush/rows.h"

namespace jam {

Region flattenGround(const Site& site, const Dab& dab, float share, float target, FlattenWay way) {
    const bool fill = way != FlattenWay::cut, cut = way != FlattenWay::fill;
    return sculpt(site, dab, {}, [=](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, share, [&](int z, int x, int n, const float* mask) {
            rowKernels().flatten(s.after.row(z) + x, mask, n, target, fill, cut);
        });
    });
}

}  // namespace jam
