#include "quality.h"

#include <array>
#include <cmath>

namespace jam {

namespace {

constexpr float quarter(int i) { return (static_cast<float>(i) - 1.5f) / 4; }

}  // namespace

Pass passOf(int k) {
    if (k == 0) return {};
    if (k > kPasses) {
        // The additive recurrence R2 (Roberts, "The Unreasonable Effectiveness of Quasirandom Sequences", 2018).
        constexpr double kAcross = 0.7548776662466927, kDown = 0.5698402909980532, kDeep = 0.6180339887498949;
        const auto at = [k](double step) { return static_cast<float>(std::fmod(0.5 + k * step, 1.0) - 0.5); };
        return {at(kAcross), at(kDown), kFiner, at(kDeep)};
    }
    // Rooks on a board of 4 x 4: every four passes lie in all columns and rows and about the middle, and no two of
    // sixteen alike.
    constexpr std::array kRows{1, 3, 0, 2}, kLevels{2, 0, 3, 1};
    const int column = (k - 1) % 4, turn = (k - 1) / 4;
    const auto row = [&](const std::array<int, 4>& of) {
        return quarter((of[static_cast<size_t>(column)] + turn) % 4);
    };
    return {quarter(column), row(kRows), turn == 0 ? kFinerOfFour : kFiner, row(kLevels)};
}

}  // namespace jam
