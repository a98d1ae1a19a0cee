// Cost: one mask for the mean, one for the change.
#include "shape/even_out.h"

#include "grid/scratch.h"

namespace jam {

Region evenOutGround(const StampSite& site, const Dab& dab, float share, float keep) {
    const Scratch target(dab.region.width(), dab.region.depth());
    const auto prepare = [&](const Sculpture& s) {
        double sum = 0, weight = 0;
        eachMaskedRow(s, 0, s.after.depth, 1, [&](int z, int x, int n, const float* mask) {
            const float* h = s.origin.row(z) + x;
            for (int i = 0; i < n; ++i) sum += static_cast<double>(mask[i]) * h[i], weight += mask[i];
        });
        const auto mean = static_cast<float>(weight > 0 ? sum / weight : 0);
        for (int z = 0; z < s.after.depth; ++z)
            for (int x = 0; x < s.after.width; ++x) target.at(x, z) = mean + keep * (s.origin.at(x, z) - mean);
    };
    return sculpt(
        site, dab, {0, true},
        [&](const Sculpture& s, int first, int end) { blendTowards(s, first, end, share, target.view()); }, prepare);
}

}  // namespace jam
