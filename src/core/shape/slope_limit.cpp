// Cost: two sweeps over the window for each envelope, whatever the slope.
#include "shape/slope_limit.h"

#include "base/maths.h"

#include <cmath>

namespace jam {

namespace {

struct Move {
    int x, z;
    float rise;
};

// One sweep, forwards (sign 1) or backwards (-1); lowers each sample to what its neighbours allow.
void sweep(View<float> g, const Move* moves, int count, int sign) {
    const int w = g.width, d = g.depth;
    for (int k = 0; k < d; ++k) {
        const int z = sign > 0 ? k : d - 1 - k;
        for (int j = 0; j < w; ++j) {
            const int x = sign > 0 ? j : w - 1 - j;
            float least = g.at(x, z);
            for (int m = 0; m < count; ++m) {
                const int nx = x + sign * moves[m].x, nz = z + sign * moves[m].z;
                if (nx >= 0 && nx < w && nz >= 0 && nz < d) least = std::min(least, g.at(nx, nz) + moves[m].rise);
            }
            g.at(x, z) = least;
        }
    }
}

}  // namespace

void slopeEnvelope(View<float> ground, double spacing, double tangent, bool above) {
    const double side = spacing * tangent * 0.973;
    const auto r1 = static_cast<float>(side), r2 = static_cast<float>(side * std::sqrt(2.0)),
               r5 = static_cast<float>(side * std::sqrt(5.0));
    const Move moves[8] = {{-1, 0, r1},  {0, -1, r1}, {-1, -1, r2}, {1, -1, r2},
                           {-2, -1, r5}, {2, -1, r5}, {-1, -2, r5}, {1, -2, r5}};
    const auto flip = [&] {
        for (int z = 0; z < ground.depth; ++z)
            for (int x = 0; x < ground.width; ++x) ground.at(x, z) = -ground.at(x, z);
    };
    if (above) flip();
    sweep(ground, moves, 8, 1);
    sweep(ground, moves, 8, -1);
    if (above) flip();
}

Region limitSlope(const StampSite& site, const Dab& dab, float share, float degrees, Earthwork way) {
    Raster<float> target(dab.region.width(), dab.region.depth());
    const double tangent = std::tan(degrees * kRadians);
    const auto prepare = [&](const Sculpture& s) {
        Raster<float> cut, fill;
        const auto envelope = [&](Raster<float>& raster, bool above) {
            raster = Raster<float>(s.after.width, s.after.depth);
            for (int z = 0; z < s.after.depth; ++z) std::copy_n(s.middle().row(z), s.after.width, raster.view().row(z));
            slopeEnvelope(raster.view(), s.spacing, tangent, above);
        };
        if (way != Earthwork::fill) envelope(cut, false);
        if (way != Earthwork::cut) envelope(fill, true);
        if (way == Earthwork::cut) return void(target = std::move(cut));
        if (way == Earthwork::fill) return void(target = std::move(fill));
        for (int z = 0; z < s.after.depth; ++z)
            for (int x = 0; x < s.after.width; ++x) target.at(x, z) = 0.5f * (cut.at(x, z) + fill.at(x, z));
    };
    return sculpt(
        site, dab, {},
        [&](const Sculpture& s, int first, int end) { blendTowards(s, first, end, share, target.view()); }, prepare);
}

}  // namespace jam
