#include "grid/resample.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"

namespace jam {

namespace {

double weightOf(Kernel kernel, double t) {
    t = std::abs(t);
    if (kernel == Kernel::linear) return t < 1 ? 1 - t : 0;
    if (t < 1) return (1.5 * t - 2.5) * t * t + 1;
    if (t < 2) return ((-0.5 * t + 2.5) * t - 4) * t + 2;
    return 0;
}

}  // namespace

std::vector<Taps> tapsFor(int from, int to, double ratio, double offset, Kernel kernel) {
    const double wide = std::max(ratio, 1.0), reach = (kernel == Kernel::cubic ? 2 : 1) * wide;
    std::vector<Taps> all(static_cast<size_t>(to));
    for (int i = 0; i < to; ++i) {
        const double at = offset + i * ratio;
        Taps& t = all[static_cast<size_t>(i)];
        if (kernel == Kernel::nearest) {
            t.first = std::clamp(static_cast<int>(std::lround(at)), 0, from - 1);
            t.weights = {1};
            continue;
        }
        const int first = static_cast<int>(std::ceil(at - reach)), last = static_cast<int>(std::floor(at + reach));
        // The edge is repeated: weights beyond it fall on it.
        t.first = std::clamp(first, 0, from - 1);
        const int end = std::clamp(last, 0, from - 1);
        t.weights.assign(static_cast<size_t>(end - t.first + 1), 0.f);
        double sum = 0;
        for (int k = first; k <= last; ++k) sum += weightOf(kernel, (k - at) / wide);
        for (int k = first; k <= last; ++k)
            t.weights[static_cast<size_t>(std::clamp(k, t.first, end) - t.first)] +=
                static_cast<float>(weightOf(kernel, (k - at) / wide) / sum);
    }
    return all;
}

bool resampleRaster(View<const float> from, View<float> to, double ratioX, double ratioZ, double offsetX,
                    double offsetZ, Kernel kernel, const Context& context) {
    const std::vector<Taps> across = tapsFor(from.width, to.width, ratioX, offsetX, kernel),
                            down = tapsFor(from.depth, to.depth, ratioZ, offsetZ, kernel);
    constexpr int kBand = 64;
    for (int z0 = 0; z0 < to.depth; z0 += kBand) {
        if (context.cancelled()) return false;
        context.report(static_cast<double>(z0) / to.depth);
        const int z1 = std::min(z0 + kBand, to.depth);
        int first = from.depth, end = 0;
        for (int z = z0; z < z1; ++z) {
            const Taps& t = down[static_cast<size_t>(z)];
            first = std::min(first, t.first);
            end = std::max(end, t.first + static_cast<int>(t.weights.size()));
        }
        Raster<float> narrow(to.width, end - first);
        parallelFor(end - first, 8, [&](int a, int b) {
            for (int z = a; z < b; ++z)
                for (int x = 0; x < to.width; ++x) {
                    const Taps& t = across[static_cast<size_t>(x)];
                    const float* row = from.row(first + z) + t.first;
                    float sum = 0;
                    for (size_t k = 0; k < t.weights.size(); ++k) sum += t.weights[k] * row[k];
                    narrow.at(x, z) = sum;
                }
        });
        parallelFor(z1 - z0, 8, [&](int a, int b) {
            for (int z = z0 + a; z < z0 + b; ++z) {
                const Taps& t = down[static_cast<size_t>(z)];
                float* row = to.row(z);
                std::fill_n(row, to.width, 0.f);
                for (size_t k = 0; k < t.weights.size(); ++k) {
                    const float* in = narrow.view().row(t.first + static_cast<int>(k) - first);
                    for (int x = 0; x < to.width; ++x) row[x] += t.weights[k] * in[x];
                }
            }
        });
    }
    return !context.cancelled();
}

}  // namespace jam
