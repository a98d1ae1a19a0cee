// sRGB and linear light (IEC 61966-2-1), both [0, 1].
#pragma once

#include <cmath>

namespace jam {

inline float linearLight(float srgb) {
    return srgb <= 0.04045f ? srgb / 12.92f : std::pow((srgb + 0.055f) / 1.055f, 2.4f);
}
inline float srgbOf(float linear) {
    return linear <= 0.0031308f ? 12.92f * linear : 1.055f * std::pow(linear, 1 / 2.4f) - 0.055f;
}

}  // namespace jam
