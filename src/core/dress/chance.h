// Numbers that belong to a place of the pattern, or to a single.
#pragma once

#include <array>
#include <cstdint>

#include "base/noise.h"
#include "level/kind.h"

namespace jam {

// Numbers in [0, 1) that belong to a place of the pattern.
class Chance {
public:
    Chance(uint64_t place, uint32_t seed)
        : a_(static_cast<int>(place >> 32)), b_(static_cast<int>(place & 0xffffffff)), seed_(seed) {}
    double of(uint32_t what) const { return static_cast<double>(hashUnit(a_, b_, seed_ * 31 + what)); }

private:
    int a_, b_;
    uint32_t seed_;
};

// The tint of one of a kind, by a number of its own in [0, 1).
inline std::array<float, 3> tintOf(const Kind& kind, double chance) {
    std::array<float, 3> tint;
    for (size_t n = 0; n < 3; ++n)
        tint[n] = kind.tintFrom[n] + (kind.tintTo[n] - kind.tintFrom[n]) * static_cast<float>(chance);
    return tint;
}

}  // namespace jam
