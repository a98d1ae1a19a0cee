// Constants and curves that many places need.
#pragma once

#include <algorithm>
#include <numbers>

namespace jam {

constexpr double kPi = std::numbers::pi;
constexpr double kTurn = 2 * kPi;       // radians of a whole turn
constexpr double kDegrees = 180 / kPi;  // degrees in a radian
constexpr double kRadians = kPi / 180;  // radians in a degree

// 0 up to 0, 1 from 1, and a cubic in between that is level at both ends.
template <class T>
constexpr T smoothstep(T t) {
    t = std::clamp(t, T(0), T(1));
    return t * t * (3 - 2 * t);
}

}  // namespace jam
