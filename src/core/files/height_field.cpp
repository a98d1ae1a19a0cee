#include "files/height_field.h"

#include <algorithm>
#include <cmath>

#include "level/level.h"

namespace jam {

namespace {

constexpr int kSweeps = 12;

// The mean of what is there in each two by two.
Raster<float> halved(const Raster<float>& from) {
    Raster<float> to((from.width() + 1) / 2, (from.depth() + 1) / 2);
    for (int z = 0; z < to.depth(); ++z)
        for (int x = 0; x < to.width(); ++x) {
            double sum = 0;
            int count = 0;
            for (int v = 2 * z; v < std::min(2 * z + 2, from.depth()); ++v)
                for (int u = 2 * x; u < std::min(2 * x + 2, from.width()); ++u)
                    if (const float h = from.at(u, v); !std::isnan(h)) sum += h, ++count;
            to.at(x, z) = count ? static_cast<float>(sum / count) : NAN;
        }
    return to;
}

float between(const Raster<float>& coarse, int x, int z) {
    const float cx = std::clamp((static_cast<float>(x) - 0.5f) / 2, 0.f, static_cast<float>(coarse.width() - 1)),
                cz = std::clamp((static_cast<float>(z) - 0.5f) / 2, 0.f, static_cast<float>(coarse.depth() - 1));
    const int c = static_cast<int>(cx), r = static_cast<int>(cz), c1 = std::min(c + 1, coarse.width() - 1),
              r1 = std::min(r + 1, coarse.depth() - 1);
    const float u = cx - static_cast<float>(c), v = cz - static_cast<float>(r);
    return (coarse.at(c, r) * (1 - u) + coarse.at(c1, r) * u) * (1 - v) +
           (coarse.at(c, r1) * (1 - u) + coarse.at(c1, r1) * u) * v;
}

}  // namespace

Status checkFieldSize(const std::string& name, long long width, long long depth) {
    if (width >= kMinSamples && depth >= kMinSamples && width <= kMostFieldSamples && depth <= kMostFieldSamples)
        return {};
    return Error{name, "size", "it is " + std::to_string(width) + " x " + std::to_string(depth),
                 "use " + std::to_string(kMinSamples) + " to " + std::to_string(kMostFieldSamples) + " samples a side"};
}

bool meansNothing(double value) { return value <= -1e30 || value == -9999 || value == -32768 || value == -32767; }

long long fillHoles(Raster<float>& values) {
    struct Hole {
        int x, z;
    };
    std::vector<Hole> holes;
    for (int z = 0; z < values.depth(); ++z)
        for (int x = 0; x < values.width(); ++x)
            if (std::isnan(values.at(x, z))) holes.push_back({x, z});
    const auto count = static_cast<long long>(holes.size());
    if (count == 0 || count == static_cast<long long>(values.width()) * values.depth()) return count;
    Raster<float> coarse = halved(values);
    fillHoles(coarse);
    for (const Hole& h : holes) values.at(h.x, h.z) = between(coarse, h.x, h.z);
    // There and back again, so that neither corner leads.
    const auto relax = [&](const Hole& h) {
        const int x = h.x, z = h.z, w = values.width() - 1, d = values.depth() - 1;
        values.at(x, z) = (values.at(std::max(x - 1, 0), z) + values.at(std::min(x + 1, w), z) +
                           values.at(x, std::max(z - 1, 0)) + values.at(x, std::min(z + 1, d))) /
                          4;
    };
    for (int i = 0; i < kSweeps; ++i)
        if (i % 2 == 0) std::for_each(holes.begin(), holes.end(), relax);
        else std::for_each(holes.rbegin(), holes.rend(), relax);
    return count;
}

}  // namespace jam
