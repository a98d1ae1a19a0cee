#include "dress/cast.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "grow/recipe.h"

namespace jam {

namespace {

constexpr double kLongest = 6;     // times as long as it is tall, however low the sun
constexpr double kThrough = 0.35;  // share of the sun that leaves let through
constexpr double kCrownAt = 0.62;  // share of the height at which it is broadest
constexpr double kUnder = 0.3;     // share of the sky that it hides from the ground below it

// f(x, z, share) for the samples under an ellipse: 1 in its middle, softly 0 at its edge. In samples.
template <class F>
void eachUnder(const Level& level, double x, double z, double ax, double az, double longRadius, double wide, F f) {
    const double reach = std::max(longRadius, wide) + 1;
    const int x0 = std::max(static_cast<int>(std::floor(x - reach)), 0),
              x1 = std::min(static_cast<int>(std::ceil(x + reach)), level.columns - 1);
    const int z0 = std::max(static_cast<int>(std::floor(z - reach)), 0),
              z1 = std::min(static_cast<int>(std::ceil(z + reach)), level.rows - 1);
    // No narrower than a sample, and as much thinner then: coarse ground is darkened in the mean.
    const double w = std::max(wide, 0.7), l = std::max(longRadius, 0.7),
                 thinner = std::min(wide / w, 1.0) * std::min(longRadius / l, 1.0);
    for (int r = z0; r <= z1; ++r)
        for (int c = x0; c <= x1; ++c) {
            const double dx = c - x, dz = r - z, along = (dx * ax + dz * az) / l, across = (dx * az - dz * ax) / w;
            const double far = std::sqrt(along * along + across * across);
            if (far < 1) f(c, r, thinner * smoothstep((1 - far) * 1.8));
        }
}

}  // namespace

void castShade(const Plantings& all, const Sun& from, View<uint8_t> sun, View<uint8_t> open, const Context& context) {
    const Level& level = all.level();
    const double a = static_cast<double>(from.azimuth) * kRadians;
    const double ax = -std::sin(a), az = std::cos(a);  // away from the sun
    const double low = std::min(1 / std::tan(std::max(static_cast<double>(from.elevation), 1.0) * kRadians), kLongest);
    const auto darker = [](uint8_t& v, double by) { v = static_cast<uint8_t>(v * (1 - by) + 0.5); };
    for (size_t k = 0; k < level.kinds.size() && !context.cancelled(); ++k) {
        const auto grown = meshesOf(level.kinds[k]);
        for (int tz = 0; tz < all.tilesDown(); ++tz)
            for (int tx = 0; tx < all.tilesAcross(); ++tx) {
                const auto tile = all.known(k, tx, tz);
                if (!tile) continue;
                for (const Planting& p : *tile) {
                    const double tall = static_cast<double>(grown->height * p.size);
                    if (tall < static_cast<double>(kLeastCasting)) continue;
                    const double wide = 0.75 * static_cast<double>(grown->radius * p.size) / level.spacing,
                                 high = tall / level.spacing;
                    const double c = level.toColumn(p.x), r = level.toRow(p.z);
                    eachUnder(level, c + ax * low * kCrownAt * high, r + az * low * kCrownAt * high, ax, az,
                              wide + 0.3 * low * high, wide,
                              [&](int x, int z, double share) { darker(sun.at(x, z), share * (1 - kThrough)); });
                    eachUnder(level, c, r, 1, 0, 1.1 * wide, 1.1 * wide,
                              [&](int x, int z, double share) { darker(open.at(x, z), share * kUnder); });
                }
            }
    }
}

}  // namespace jam
