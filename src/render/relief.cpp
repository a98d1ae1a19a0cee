#include "relief.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"

namespace jam {

namespace {

constexpr double kNear = 2, kWide = 8;  // metres
constexpr int kMostWide = 24;           // samples; keeps what a change redraws small
// Two lights beside the sun, unevenly strong, so that neither slopes along it nor across it stay dark.
constexpr double kAside[] = {50, -70};
constexpr float kShares[] = {0.65f, 0.35f};

// Keeps small values apart and great ones in bounds, (-1, 1).
float soft(float v) { return v / (1 + std::abs(v)); }

}  // namespace

Relief::Relief(const Level& level, const ReliefLook& look, double sunAzimuth) : look_(look) {
    const auto samples = [&](double metres) {
        return std::clamp(static_cast<int>(std::lround(metres / level.spacing)), 1, kMostWide);
    };
    near_ = samples(kNear);
    wide_ = std::max(samples(kWide), near_ + 1);
    perNear_ = static_cast<float>(1 / (2 * near_ * level.spacing));
    perWide_ = static_cast<float>(1 / (wide_ * level.spacing));
    for (int i = 0; i < 2; ++i) {
        const double azimuth = (sunAzimuth + kAside[i]) * kRadians;  // clockwise from north
        lights_[i] = {static_cast<float>(std::sin(azimuth)), static_cast<float>(-std::cos(azimuth)), kShares[i]};
    }
}

float Relief::at(View<const float> h, int x, int z) const {
    if (look_.lift <= 0) return 1;
    const float east = (h.at(x + near_, z) - h.at(x - near_, z)) * perNear_,
                south = (h.at(x, z + near_) - h.at(x, z - near_)) * perNear_;
    float lit = 0;
    for (const Light& l : lights_) lit += l.share * soft(-4 * (east * l.east + south * l.south));
    const float around = 0.25f * (h.at(x + wide_, z) + h.at(x - wide_, z) + h.at(x, z + wide_) + h.at(x, z - wide_));
    const float crest = soft(6 * (h.at(x, z) - around) * perWide_);
    return std::clamp(std::exp2(look_.lift * (1.5f * lit + crest)), 0.3f, kMostRelief);
}

}  // namespace jam
