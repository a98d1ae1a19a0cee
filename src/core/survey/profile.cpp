#include "survey/profile.h"

#include <limits>

#include "level/ground.h"
#include "level/opening.h"

namespace jam {

std::vector<float> groundProfile(const Level& level, double x0, double z0, double x1, double z1, int count) {
    std::vector<float> out(static_cast<size_t>(count));
    for (int i = 0; i < count; ++i) {
        const double t = static_cast<double>(i) / (count - 1);
        const double x = x0 + t * (x1 - x0), z = z0 + t * (z1 - z0);
        out[static_cast<size_t>(i)] = groundAt(level, x, z) ? static_cast<float>(altitudeAt(level, x, z))
                                                            : std::numeric_limits<float>::quiet_NaN();
    }
    return out;
}

}  // namespace jam
