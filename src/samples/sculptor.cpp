#include "sculptor.h"

#include "base/maths.h"

namespace jam::samples {

// Smooth curve through the given places (Catmull-Rom), a point about every 4 m.
Path curve(const Path& through) {
    Path out;
    for (size_t i = 0; i + 1 < through.size(); ++i) {
        const Place a = through[i ? i - 1 : 0], b = through[i], c = through[i + 1],
                    d = through[std::min(i + 2, through.size() - 1)];
        const int steps = std::max(2, static_cast<int>(std::hypot(c.x - b.x, c.z - b.z) / 4));
        for (int k = 0; k < steps; ++k) {
            const double t = static_cast<double>(k) / steps, t2 = t * t, t3 = t2 * t;
            const auto blend = [&](double p, double q, double r, double s) {
                return 0.5 * (2 * q + (r - p) * t + (2 * p - 5 * q + 4 * r - s) * t2 + (3 * q - p - 3 * r + s) * t3);
            };
            out.push_back({blend(a.x, b.x, c.x, d.x), blend(a.z, b.z, c.z, d.z)});
        }
    }
    out.push_back(through.back());
    return out;
}

Path ring(Place centre, double radius, double from, double to) {
    Path out;
    const int steps = std::max(4, static_cast<int>(radius * std::abs(to - from) / 57.3 / 5));
    for (int i = 0; i <= steps; ++i) {
        const double a = (from + (to - from) * i / steps) / kDegrees;
        out.push_back({centre.x + radius * std::sin(a), centre.z - radius * std::cos(a)});
    }
    return out;
}

// Moves a path sideways by `metres` (to the right of the way it goes).
Path beside(const Path& path, double metres) {
    Path out;
    for (size_t i = 0; i < path.size(); ++i) {
        const Place a = path[i ? i - 1 : 0], b = path[std::min(i + 1, path.size() - 1)];
        const double dx = b.x - a.x, dz = b.z - a.z, length = std::max(std::hypot(dx, dz), 1e-9);
        out.push_back({path[i].x - dz / length * metres, path[i].z + dx / length * metres});
    }
    return out;
}

}  // namespace jam::samples
