#include "shape/restore.h"

#include "brush/rows.h"

namespace jam {

Region restoreGround(const StampSite& site, const Dab& dab, float share, const Level* reference) {
    if (!reference) {
        const float start = site.level.startHeight;
        return sculpt(site, dab, {}, [=](const Sculpture& s, int first, int end) {
            eachMaskedRow(s, first, end, share, [&](int z, int x, int n, const float* mask) {
                rowKernels().flatten(s.after.row(z) + x, mask, n, start, true, true);
            });
        });
    }
    StampSite there = site;
    there.origin = reference;
    return sculpt(there, dab, {0, true},
                  [&](const Sculpture& s, int first, int end) { blendTowards(s, first, end, share, s.origin); });
}

}  // namespace jam
