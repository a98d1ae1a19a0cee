#include "course/legs.h"

#include <algorithm>
#include <cmath>

namespace jam {

LegsBy::LegsBy(const std::vector<LinePoint>& line, double x0, double z0, double size, int across, int down,
               double reachBeyond)
    : line_(line), x0_(x0), z0_(z0), size_(size), across_(across), down_(down),
      legs_(static_cast<size_t>(across) * static_cast<size_t>(down)) {
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const LinePoint &a = line[i], &b = line[i + 1];
        const double reach = std::max(0.5 * a.width + (reachBeyond < 0 ? a.shoulder : reachBeyond),
                                      0.5 * b.width + (reachBeyond < 0 ? b.shoulder : reachBeyond));
        const auto square = [&](double v, double origin, int most) {
            return std::clamp(static_cast<int>(std::floor((v - origin) / size)), -1, most);
        };
        const int fx = std::max(square(std::min(a.x, b.x) - reach, x0, across), 0),
                  tx = std::min(square(std::max(a.x, b.x) + reach, x0, across), across - 1),
                  fz = std::max(square(std::min(a.z, b.z) - reach, z0, down), 0),
                  tz = std::min(square(std::max(a.z, b.z) + reach, z0, down), down - 1);
        for (int z = fz; z <= tz; ++z)
            for (int x = fx; x <= tx; ++x) legs_[index(x, z)].push_back(static_cast<uint32_t>(i));
    }
}

Near LegsBy::nearest(int x, int z, double px, double pz) const {
    Near best;
    for (const uint32_t i : legs_[index(x, z)]) {
        const LinePoint &a = line_[i], &b = line_[i + 1];
        const double dx = b.x - a.x, dz = b.z - a.z, square = dx * dx + dz * dz;
        const double t = square > 0 ? std::clamp(((px - a.x) * dx + (pz - a.z) * dz) / square, 0.0, 1.0) : 0;
        const double ox = px - a.x - t * dx, oz = pz - a.z - t * dz, away = std::hypot(ox, oz);
        if (away >= best.away) continue;
        const double length = std::sqrt(square);
        const auto between = [t](double u, double v) { return u + t * (v - u); };
        // To the right when looking along: south of a line that runs east.
        best = {away,
                length > 0 ? (dx * oz - dz * ox) / length : 0,
                between(a.height, b.height),
                between(a.width, b.width),
                between(a.shoulder, b.shoulder),
                between(a.banking, b.banking)};
    }
    return best;
}

}  // namespace jam
