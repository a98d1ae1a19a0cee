// Flows between two samples are computed by both, in the same arithmetic with opposite sign: no order, no loss.
#include "shape/crumble.h"

#include <cmath>

#include "base/maths.h"
#include "base/parallel.h"
#include "brush/rows.h"

namespace jam {

namespace {
constexpr float kRate = 1.0f /
                        9;  // of what is too steep, to each of eight neighbours; 1/8 would be the brink of stability

struct Rest {
    Rest(double spacing, float degrees)
        : side(static_cast<float>(spacing * std::tan(degrees * kRadians))), corner(side * 1.41421356f) {}
    float side, corner;
};
}  // namespace

Region crumbleGround(const StampSite& site, const Dab& dab, float share, float degrees) {
    // Two rasters with a border of one, which nothing crosses, because the mask is 0 there.
    Raster<float> mask, one, two;
    const auto prepare = [&](const Sculpture& s) {
        const int w = s.after.width, d = s.after.depth;
        borderedMask(s, share, mask);
        one = Raster<float>(w + 2, d + 2);
        for (int z = 0; z < d + 2; ++z) std::copy_n(s.before.row(z), w + 2, one.view().row(z));
        two = one;
        const Rest rest(s.spacing, degrees);
        for (int pass = 0; pass < kCrumblePasses; ++pass) {
            const View<const float> from = one.view(), m = mask.view();
            parallelFor(d, kRowsPerThread, [&](int first, int end) {
                for (int z = first + 1; z < end + 1; ++z)
                    rowKernels().crumbleMasked(two.view().row(z) + 1, from.row(z - 1) + 1, from.row(z) + 1,
                                               from.row(z + 1) + 1, m.row(z - 1) + 1, m.row(z) + 1, m.row(z + 1) + 1, w,
                                               rest.side, rest.corner, kRate);
            });
            std::swap(one, two);
        }
    };
    return sculpt(
        site, dab, {1},
        [&](const Sculpture& s, int first, int end) {
            for (int z = first; z < end; ++z) std::copy_n(one.view().row(z + 1) + 1, s.after.width, s.after.row(z));
        },
        prepare);
}

bool crumbleAll(Raster<float>& ground, double spacing, float degrees, int passes, const Context& context) {
    const int w = ground.width(), d = ground.depth();
    const Rest rest(spacing, degrees);
    // A border of one that nothing crosses: samples beside it are computed through a mask that is 0 there.
    Raster<float> one(w + 2, d + 2, 0.f), two(w + 2, d + 2, 0.f);
    std::vector<float> in(static_cast<size_t>(w) + 2, 1.f), out(static_cast<size_t>(w) + 2, 0.f);
    in.front() = in.back() = 0;
    for (int z = 0; z < d; ++z) std::copy_n(ground.view().row(z), w, one.view().row(z + 1) + 1);
    for (int pass = 0; pass < passes; ++pass) {
        if (context.cancelled()) return false;
        context.report(static_cast<double>(pass) / passes);
        const View<const float> from = one.view();
        parallelFor(d, 32, [&](int first, int end) {
            for (int z = first + 1; z < end + 1 && !context.cancelled(); ++z) {
                const float *above = from.row(z - 1), *here = from.row(z), *below = from.row(z + 1);
                float* to = two.view().row(z);
                const auto masked = [&](int x, int n) {
                    const float *ma = z == 1 ? out.data() : in.data(), *mb = z == d ? out.data() : in.data();
                    rowKernels().crumbleMasked(to + x, above + x, here + x, below + x, ma + x, in.data() + x, mb + x, n,
                                               rest.side, rest.corner, kRate);
                };
                if (z == 1 || z == d || w < 3) {
                    masked(1, w);
                } else {
                    masked(1, 1);
                    rowKernels().crumble(to + 2, above + 2, here + 2, below + 2, w - 2, rest.side, rest.corner, kRate);
                    masked(w, 1);
                }
            }
        });
        std::swap(one, two);
    }
    if (context.cancelled()) return false;
    for (int z = 0; z < d; ++z) std::copy_n(one.view().row(z + 1) + 1, w, ground.view().row(z));
    return true;
}

}  // namespace jam
