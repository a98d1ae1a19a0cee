#include "relief.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstddef>
#include <cstdint>

#include "base/maths.h"
#include "row_loops.h"

namespace jam {

namespace {

constexpr double kNear = 2, kWide = 8;  // metres
constexpr int kMostWide = 24;           // samples; keeps what a change redraws small
// Two lights beside the sun, unevenly strong, so that neither slopes along it nor across it stay dark.
constexpr double kAside[] = {50, -70};
constexpr float kShares[] = {0.65f, 0.35f};

// Keeps small values apart and great ones in bounds, (-1, 1).
float soft(float v) { return v / (1 + std::abs(v)); }

// 2 to the power of v, -100 < v < 100, to a millionth: a polynomial for what is left of the whole part, which compilers
// turn into vectors.
float powerOfTwo(float v) {
    const int32_t whole = static_cast<int32_t>(v + 128) - 128;  // rounded down
    const float f = v - static_cast<float>(whole);
    const float share =
        1 + f * (0.69315308f + f * (0.24015361f + f * (0.055826318f + f * (0.0089893397f + f * 0.0018775767f))));
    return share * std::bit_cast<float>((whole + 127) << 23);
}

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

void Relief::multiply(View<const float> h, int x, int z, int every, std::vector<float>& light) const {
    if (look_.lift <= 0) return;
    const float *row = h.row(z) + x, *north = h.row(z - near_) + x, *south = h.row(z + near_) + x,
                *farNorth = h.row(z - wide_) + x, *farSouth = h.row(z + wide_) + x;
    float* out = light.data();
    const float lift = look_.lift, perNear = perNear_, perWide = perWide_;
    const Light first = lights_[0], second = lights_[1];
    const ptrdiff_t near = near_, wide = wide_;
    withStep(every, [&](auto step) {
        for (ptrdiff_t i = 0; i < static_cast<ptrdiff_t>(light.size()); ++i) {
            const ptrdiff_t k = i * static_cast<ptrdiff_t>(step);
            const float rises = (row[k + near] - row[k - near]) * perNear, falls = (south[k] - north[k]) * perNear;
            const float lit = first.share * soft(-4 * (rises * first.east + falls * first.south)) +
                              second.share * soft(-4 * (rises * second.east + falls * second.south));
            const float around = 0.25f * (row[k + wide] + row[k - wide] + farSouth[k] + farNorth[k]);
            const float crest = soft(6 * (row[k] - around) * perWide);
            out[i] *= std::clamp(powerOfTwo(lift * (1.5f * lit + crest)), 0.3f, kMostRelief);
        }
    });
}

}  // namespace jam
