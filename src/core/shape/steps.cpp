#include "shape/steps.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "shape/bands.h"

namespace jam {

Steps surveySteps(View<const float> g) {
    long long pairs = 0, same = 0;
    std::vector<float> rises;
    const int every = std::max(1, g.depth / 600);
    for (int z = 0; z < g.depth; z += every)
        for (int x = 0; x + 1 < g.width; ++x) {
            const float d = std::abs(g.at(x + 1, z) - g.at(x, z));
            ++pairs;
            if (d == 0) ++same;
            else rises.push_back(d);
        }
    Steps s;
    if (pairs) s.level = static_cast<double>(same) / static_cast<double>(pairs);
    if (!rises.empty()) {
        // The smallest difference but for a few per cent of odd ones.
        const auto at = rises.begin() + static_cast<long>(rises.size() / 50);
        std::nth_element(rises.begin(), at, rises.end());
        s.height = *at;
    }
    return s;
}

bool softenSteps(Raster<float>& ground, float step, const Context& context) {
    const Raster<float> before = ground;
    const int w = ground.width(), d = ground.depth();
    const float half = 0.5f * step;
    // Where the ground goes from one step to the next, its true height was half way between them. These heights are
    // known; what lies between is filled from them, from far to near, and then smoothed.
    Raster<float> known(w, d, 0.f), value(w, d, 0.f);
    const auto note = [&](int x, int z, float h) {
        known.at(x, z) += 1;
        value.at(x, z) += h;
    };
    const Context quiet{{}, context.cancel};  // parts too short to be told of
    if (!inBands(d, quiet, [&](int first, int end) {
            for (int z = first; z < end; ++z)
                for (int x = 0; x < w; ++x)
                    for (const auto& [nx, nz] : {std::pair{x + 1, z}, {x, z + 1}}) {
                        if (nx >= w || nz >= d) continue;
                        const float a = before.at(x, z), b = before.at(nx, nz), rise = std::abs(b - a);
                        if (rise < 0.25f * step || rise > 1.5f * step) continue;
                        note(x, z, 0.5f * (a + b));
                        note(nx, nz, 0.5f * (a + b));
                    }
        }))
        return false;
    const float fills[] = {48, 24, 12, 6, 3, 1.5f}, smooths[] = {5, 3, 3, 2, 2, 2, 2, 1.5f, 1.5f, 1.5f, 1.5f, 1, 1};
    const int parts = 2 * static_cast<int>(std::size(fills)) + static_cast<int>(std::size(smooths));
    int part = 0;
    const auto next = [&] {
        ++part;
        return partOf(context, (part - 1.0) / parts, static_cast<double>(part) / parts);
    };
    const auto near = [&](int x, int z, float h) {
        return std::clamp(h, before.at(x, z) - half, before.at(x, z) + half);
    };
    const auto each = [&](auto f) {
        return inBands(d, quiet, [&](int first, int end) {
            for (int z = first; z < end; ++z)
                for (int x = 0; x < w; ++x) ground.at(x, z) = near(x, z, f(x, z));
        });
    };
    for (const float sigma : fills) {
        Raster<float> weight = known, sum = value;
        if (!smoothAll(weight, sigma, next()) || !smoothAll(sum, sigma, next())) return false;
        // Near a known height the narrow mean is sure; far from all the wide one has to do.
        if (!each([&](int x, int z) {
                const float k = weight.at(x, z), h = ground.at(x, z);
                return k <= 1e-6f ? h : h + std::min(k * sigma * 4, 1.f) * (sum.at(x, z) / k - h);
            }))
            return false;
    }
    for (const float sigma : smooths) {
        if (!smoothAll(ground, sigma, next())) return false;
        // The known heights hold the shape while the ground between them is smoothed, but for the last touch.
        const bool last = part == parts;
        if (!each([&](int x, int z) {
                return !last && known.at(x, z) > 0 ? value.at(x, z) / known.at(x, z) : ground.at(x, z);
            }))
            return false;
    }
    return true;
}

bool removeSpikes(Raster<float>& ground, float spike, const Context& context) {
    const Raster<float> before = ground;
    return inBands(ground.depth(), context, [&](int first, int end) {
        const Raster<float> w = windowOf(before, first, end, 1);
        parallelFor(end - first, 16, [&](int a, int b) {
            for (int z = a; z < b; ++z)
                for (int x = 0; x < ground.width(); ++x) {
                    float near[8] = {w.at(x, z),         w.at(x + 1, z), w.at(x + 2, z),     w.at(x, z + 1),
                                     w.at(x + 2, z + 1), w.at(x, z + 2), w.at(x + 1, z + 2), w.at(x + 2, z + 2)};
                    std::sort(near, near + 8);
                    const float median = 0.5f * (near[3] + near[4]), h = w.at(x + 1, z + 1);
                    if (std::abs(h - median) > spike) ground.at(x, first + z) = median;
                }
        });
    });
}

}  // namespace jam
