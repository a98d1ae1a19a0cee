#include "shape/terrace.h"

#include <cmath>

namespace jam {

float terraced(float height, const Terraces& t) {
    const float at = height / t.step + 0.5f, tread = std::floor(at), share = at - tread;
    // Treads lie around whole multiples; the riser is centred between two of them.
    if (t.riser <= 0) return t.step * tread;
    // share 0 and 1 are the middles of risers, 0.5 the middle of the tread.
    const float half = t.riser / 2;
    const auto rise = [](float u) { return u * u * (3 - 2 * u); };
    float up = 0;
    if (share < half) up = rise(0.5f + share / t.riser) - 1;
    else if (share > 1 - half) up = rise((share - (1 - half)) / t.riser);
    return t.step * (tread + up);
}

Region terraceGround(const StampSite& site, const Dab& dab, float share, const Terraces& terraces) {
    return sculpt(site, dab, {0, true}, [&](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, share, [&](int z, int x, int n, const float* mask) {
            const float* origin = s.origin.row(z) + x;
            float* after = s.after.row(z) + x;
            for (int i = 0; i < n; ++i) after[i] += mask[i] * (terraced(origin[i], terraces) - after[i]);
        });
    });
}

}  // namespace jam
