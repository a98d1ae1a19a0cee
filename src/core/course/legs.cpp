#include "course/legs.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace jam {

LegsBy::LegsBy(const std::vector<LinePoint>& line, double x0, double z0, double size, int across, int down,
               double reachBeyond)
    : line_(line), x0_(x0), z0_(z0), size_(size), across_(across), down_(down),
      legs_(static_cast<size_t>(across) * static_cast<size_t>(down)), reached_(legs_.size()) {
    const auto reachOf = [&](const LinePoint& p) {
        return 0.5 * p.width + (reachBeyond < 0 ? p.shoulder : reachBeyond);
    };
    double farthest = 0;
    for (const LinePoint& p : line) farthest = std::max(farthest, reachOf(p));
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const LinePoint &a = line[i], &b = line[i + 1];
        const double dx = b.x - a.x, dz = b.z - a.z, far = dx * dx + dz * dz;
        const double reach = std::max(reachOf(a), reachOf(b));
        flat_.push_back({a.x, a.z, dx, dz, far > 0 ? 1 / far : 0, reach});
        if (b.starts) continue;
        const auto square = [&](double v, double origin, int most) {
            return std::clamp(static_cast<int>(std::floor((v - origin) / size)), -1, most);
        };
        // f(index) for the squares within so many metres of the leg.
        const auto around = [&](double metres, auto f) {
            const int fx = std::max(square(std::min(a.x, b.x) - metres, x0, across), 0),
                      tx = std::min(square(std::max(a.x, b.x) + metres, x0, across), across - 1),
                      fz = std::max(square(std::min(a.z, b.z) - metres, z0, down), 0),
                      tz = std::min(square(std::max(a.z, b.z) + metres, z0, down), down - 1);
            for (int z = fz; z <= tz; ++z)
                for (int x = fx; x <= tx; ++x) f(index(x, z));
        };
        around(reach, [&](size_t s) { reached_[s] = true; });
        // What lies nearer than one that reaches is no farther than the one that reaches farthest.
        around(farthest, [&](size_t s) { legs_[s].push_back(static_cast<uint32_t>(i)); });
    }
}

bool LegsBy::reach(int x, int z, double west, double north, double east, double south) const {
    return std::any_of(legs_[index(x, z)].begin(), legs_[index(x, z)].end(), [&](uint32_t i) {
        const Leg& l = flat_[i];
        return std::min(l.x, l.x + l.dx) - l.reach <= east && std::max(l.x, l.x + l.dx) + l.reach >= west &&
               std::min(l.z, l.z + l.dz) - l.reach <= south && std::max(l.z, l.z + l.dz) + l.reach >= north;
    });
}

void LegsBy::among(int x, int z, double px, double pz, double radius, std::vector<uint32_t>& out) const {
    out = legs_[index(x, z)];
    const auto away = [&](uint32_t i) { return std::sqrt(flat_[i].square(px, pz, flat_[i].at(px, pz))); };
    double least = std::numeric_limits<double>::infinity();
    for (const uint32_t i : out) least = std::min(least, away(i));
    // Within the radius no leg comes closer, or gets farther away, by more than that.
    std::erase_if(out, [&](uint32_t i) { return away(i) > least + 2 * radius; });
}

Near LegsBy::nearest(const std::vector<uint32_t>& legs, double px, double pz) const {
    // Squares alone while the nearest is looked for.
    double best = std::numeric_limits<double>::infinity(), at = 0;
    uint32_t leg = 0;
    for (const uint32_t i : legs) {
        const Leg& l = flat_[i];
        const double t = l.at(px, pz), square = l.square(px, pz, t);
        if (square < best) best = square, leg = i, at = t;
    }
    if (std::isinf(best)) return {};
    const LinePoint &a = line_[leg], &b = line_[leg + 1];
    const Leg& l = flat_[leg];
    const double ox = px - l.x - at * l.dx, oz = pz - l.z - at * l.dz, length = std::sqrt(l.dx * l.dx + l.dz * l.dz);
    const auto between = [at](double u, double v) { return u + at * (v - u); };
    // To the right when looking along: south of a line that runs east.
    return {std::sqrt(best),
            length > 0 ? (l.dx * oz - l.dz * ox) / length : 0,
            between(a.height, b.height),
            between(a.width, b.width),
            between(a.shoulder, b.shoulder),
            between(a.banking, b.banking)};
}

}  // namespace jam
