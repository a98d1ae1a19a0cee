// Cost: one falloff and one addition per sample.
#include "shape/raise.h"

#include "brush/rows.h"

namespace jam {

Region raiseGround(const StampSite& site, const Dab& dab, float metres) {
    const DabRows rows(dab);
    return sculpt(site, dab, {}, [metres, &rows](const Sculpture& s, int first, int end) {
        const Region r = s.dab.region;
        for (int z = first; rows.plain() && z < end; ++z)
            if (const Region span = rows.span(r, r.z0 + z); !span.empty())
                rows.raise(span.x0, span.z0, span.width(), metres, s.after.row(z) + (span.x0 - r.x0));
        if (rows.plain()) return;
        eachMaskedRow(s, first, end, metres,
                      [&](int z, int x, int n, const float* mask) { rowKernels().raise(s.after.row(z) + x, mask, n); });
    });
}

}  // namespace jam
