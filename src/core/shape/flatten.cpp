// Cost: one mask and one blend per sample.
#include "shape/flatten.h"

#include "brush/rows.h"

namespace jam {

Region flattenGround(const StampSite& site, const Dab& dab, float share, float target, Earthwork way) {
    const bool fill = way != Earthwork::cut, cut = way != Earthwork::fill;
    return sculpt(site, dab, {}, [=](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, share, [&](int z, int x, int n, const float* mask) {
            rowKernels().flatten(s.after.row(z) + x, mask, n, target, fill, cut);
        });
    });
}

}  // namespace jam
