// Constants and curves that many places need.
#pragma once

#include <algorithm>
#include <numbers>

namespace jam {

constexpr double kPi = std::numbers::pi;
constexpr double kTurn = 2 * kPi;       // radians of a whole turn
constexpr double kDegrees = 180 / kPi;  // degrees in a radian
constexpr double kRadians = kPi / 180;  // radians in a degree

// The next whole number at or below v, for |v| < 2^31: a call less than std::floor where no processor level is asked
// for.
constexpr int wholeBelow(double v) {
    const int w = static_cast<int>(v);
    return w - (v < w);
}

// Between the entries of a square table that repeats, (u, v) in entries: read(index of an entry) gives its value.
// `side` is a power of two.
template <class Read>
float betweenRepeating(unsigned side, double u, double v, Read read) {
    const int iu = wholeBelow(u), iv = wholeBelow(v);
    const auto a = static_cast<float>(u - iu), b = static_cast<float>(v - iv);
    const unsigned left = static_cast<unsigned>(iu) & (side - 1), right = (left + 1) & (side - 1);
    const unsigned top = (static_cast<unsigned>(iv) & (side - 1)) * side, down = (top + side) & (side * side - 1);
    const float nw = read(top + left), ne = read(top + right), sw = read(down + left), se = read(down + right);
    const float upper = nw + a * (ne - nw), lower = sw + a * (se - sw);
    return upper + b * (lower - upper);
}

// 0 up to 0, 1 from 1, and a cubic in between that is level at both ends.
template <class T>
constexpr T smoothstep(T t) {
    t = std::clamp(t, T(0), T(1));
    return t * t * (3 - 2 * t);
}

}  // namespace jam
