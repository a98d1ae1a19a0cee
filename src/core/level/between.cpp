#include "level/between.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {

// The four nearest samples of a place and how much each counts.
struct Four {
    int x, z;
    double u, v;

    template <class T>
    Four(const TiledGrid<T>& grid, double column, double row) {
        const double c = std::clamp(column, 0.0, grid.columns() - 1.0), r = std::clamp(row, 0.0, grid.rows() - 1.0);
        x = std::min(static_cast<int>(c), grid.columns() - 2);
        z = std::min(static_cast<int>(r), grid.rows() - 2);
        u = c - x, v = r - z;
    }
    double share(int k) const { return (k % 2 ? u : 1 - u) * (k / 2 ? v : 1 - v); }
};

template <class T>
T between(const TiledGrid<T>& grid, double column, double row) {
    const Four four(grid, column, row);
    double sum = 0;
    for (int k = 0; k < 4; ++k)
        if (four.share(k) > 0) sum += four.share(k) * grid.at(four.x + k % 2, four.z + k / 2);
    return static_cast<T>(std::lround(sum));
}

}  // namespace

float mixed(float a, float b, float share) { return a + (b - a) * share; }
uint16_t mixed(uint16_t a, uint16_t b, float share) {
    return static_cast<uint16_t>(std::lround(mixed(static_cast<float>(a), static_cast<float>(b), share)));
}
uint8_t mixed(uint8_t a, uint8_t b, float share) {
    return static_cast<uint8_t>(std::lround(mixed(static_cast<float>(a), static_cast<float>(b), share)));
}
Wash mixed(const Wash& a, const Wash& b, float share) {
    return {mixed(a.red, b.red, share), mixed(a.green, b.green, share), mixed(a.blue, b.blue, share),
            mixed(a.strength, b.strength, share)};
}

uint16_t shareBetween(const TiledGrid<uint16_t>& grid, double column, double row) { return between(grid, column, row); }
uint8_t shareBetween(const TiledGrid<uint8_t>& grid, double column, double row) { return between(grid, column, row); }

Wash washBetween(const TiledGrid<Wash>& grid, double column, double row) {
    const Four four(grid, column, row);
    double sums[3] = {}, strength = 0;
    for (int k = 0; k < 4; ++k) {
        const Wash w = grid.at(four.x + k % 2, four.z + k / 2);
        const double share = four.share(k) * w.strength;
        sums[0] += share * w.red, sums[1] += share * w.green, sums[2] += share * w.blue;
        strength += share;
    }
    if (strength < 0.5) return {};
    const auto stored = [](double v) { return static_cast<uint16_t>(std::lround(v)); };
    return {stored(sums[0] / strength), stored(sums[1] / strength), stored(sums[2] / strength), stored(strength)};
}

}  // namespace jam
