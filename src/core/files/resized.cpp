#include "files/resized.h"

#include <algorithm>
#include <cmath>

namespace jam {

Pixels resized(const Pixels& in, int width, int height) {
    Pixels out{width, height, in.channels, in.bits, {}};
    out.samples.resize(static_cast<size_t>(width) * static_cast<size_t>(height) * static_cast<size_t>(in.channels));
    const double sx = static_cast<double>(in.width) / width, sy = static_cast<double>(in.height) / height;
    // Weights of the samples that one of the result is made of, along one axis.
    struct Tap {
        int at;
        double weight;
    };
    const auto tapsFor = [](int i, double scale, int n) {
        std::vector<Tap> taps;
        const double centre = (i + 0.5) * scale - 0.5, reach = std::max(scale, 1.0);
        double sum = 0;
        for (int k = static_cast<int>(std::ceil(centre - reach)); k <= static_cast<int>(std::floor(centre + reach));
             ++k) {
            const double w = 1 - std::abs(k - centre) / reach;
            if (w <= 0) continue;
            taps.push_back({std::clamp(k, 0, n - 1), w});
            sum += w;
        }
        for (Tap& t : taps) t.weight /= sum;
        return taps;
    };
    std::vector<std::vector<Tap>> columns;
    for (int x = 0; x < width; ++x) columns.push_back(tapsFor(x, sx, in.width));
    std::vector<double> row(static_cast<size_t>(in.width * in.channels));
    for (int y = 0; y < height; ++y) {
        std::fill(row.begin(), row.end(), 0.0);
        for (const Tap& t : tapsFor(y, sy, in.height))
            for (size_t i = 0; i < row.size(); ++i)
                row[i] += t.weight * in.samples[static_cast<size_t>(t.at) * row.size() + i];
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < in.channels; ++c) {
                double sum = 0;
                for (const Tap& t : columns[static_cast<size_t>(x)])
                    sum += t.weight * row[static_cast<size_t>(t.at * in.channels + c)];
                out.samples[static_cast<size_t>((y * width + x) * in.channels + c)] =
                    static_cast<uint16_t>(std::lround(sum));
            }
    }
    return out;
}

}  // namespace jam
