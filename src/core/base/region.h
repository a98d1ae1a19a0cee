// Half-open rectangles of samples: columns [x0, x1), rows [z0, z1).
#pragma once

#include <algorithm>

namespace jam {

struct Region {
    int x0 = 0, z0 = 0, x1 = 0, z1 = 0;

    int width() const { return x1 - x0; }
    int depth() const { return z1 - z0; }
    bool empty() const { return x1 <= x0 || z1 <= z0; }
    long long area() const { return empty() ? 0 : 1LL * width() * depth(); }
    bool contains(int x, int z) const { return x >= x0 && x < x1 && z >= z0 && z < z1; }

    Region grown(int by) const { return {x0 - by, z0 - by, x1 + by, z1 + by}; }
    Region clipped(const Region& to) const {
        return {std::max(x0, to.x0), std::max(z0, to.z0), std::min(x1, to.x1), std::min(z1, to.z1)};
    }
    // Smallest region that holds both; an empty region adds nothing.
    Region joined(const Region& other) const {
        if (empty()) return other;
        if (other.empty()) return *this;
        return {std::min(x0, other.x0), std::min(z0, other.z0), std::max(x1, other.x1), std::max(z1, other.z1)};
    }
    bool operator==(const Region&) const = default;
};

}  // namespace jam
