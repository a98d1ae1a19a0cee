#include "shape/bands.h"

#include "shape/smooth.h"

namespace jam {

Context partOf(const Context& whole, double from, double to) {
    Context part = whole;
    part.progress = [&whole, from, to](double share) { whole.report(from + share * (to - from)); };
    return part;
}

Raster<float> windowOf(const Raster<float>& ground, int first, int end, int halo) {
    Raster<float> window(ground.width() + 2 * halo, end - first + 2 * halo);
    for (int z = 0; z < window.depth(); ++z) {
        const float* from = ground.view().row(std::clamp(first - halo + z, 0, ground.depth() - 1));
        float* to = window.view().row(z);
        std::fill_n(to, halo, from[0]);
        std::copy_n(from, ground.width(), to + halo);
        std::fill_n(to + halo + ground.width(), halo, from[ground.width() - 1]);
    }
    return window;
}

bool smoothAll(Raster<float>& ground, float sigma, const Context& context) {
    const Raster<float> before = ground;
    const float used = std::max(sigma, 0.4f);
    const int halo = boxReach(used);
    return inBands(ground.depth(), context, [&](int first, int end) {
        boxMean(windowOf(before, first, end, halo).view(), halo, used,
                ground.view().part(0, first, ground.width(), end - first));
    });
}

}  // namespace jam
