// Cost: one falloff and one addition per sample.
#include "shape/raise.h"

#include "brush/rows.h"

namespace jam {

Region raiseGround(const StampSite& site, const Dab& dab, float metres) {
    // A plain round brush needs no mask; the arithmetic is the same.
    const bool plain = dab.shape == TipShape::round && !dab.shares && !dab.fence && dab.falloff.softness == 1 &&
                       !needsRoot(dab.falloff.curve);
    return sculpt(site, dab, {}, [metres, plain](const Sculpture& s, int first, int end) {
        const Region r = s.dab.region;
        for (int z = first; plain && z < end; ++z)
            if (const Region span = dabSpan(s.dab, r, r.z0 + z); !span.empty())
                rowKernels().raiseRound(
                    s.after.row(z) + (span.x0 - r.x0), span.width(), static_cast<float>(span.x0 - s.dab.column),
                    static_cast<float>(span.z0 - s.dab.row), s.dab.radius, s.dab.falloff.curve, metres);
        if (plain) return;
        eachMaskedRow(s, first, end, metres,
                      [&](int z, int x, int n, const float* mask) { rowKernels().raise(s.after.row(z) + x, mask, n); });
    });
}

}  // namespace jam
