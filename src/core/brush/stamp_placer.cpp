#include "brush/stamp_placer.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {

double onRaster(double metres) { return std::round(metres * 1024) / 1024; }

Stamp between(const StrokePoint& a, const StrokePoint& b, double share) {
    return {onRaster(a.x + share * (b.x - a.x)), onRaster(a.z + share * (b.z - a.z)),
            std::round(static_cast<float>(a.pressure + share * (b.pressure - a.pressure)) * 4096) / 4096};
}

}  // namespace

void StampPlacer::add(const StrokePoint& point, std::vector<Stamp>& stamps) {
    if (!begun_) {
        begun_ = true;
        last_ = point;
        stamps.push_back(between(point, point, 0));
        return;
    }
    const double byDistance = std::hypot(point.x - last_.x, point.z - last_.z) / step_;
    const double byTime = (point.time - last_.time) / kStampSeconds;
    const double length = std::max(byDistance, byTime);
    // A hair before the whole number counts, so that rounding cannot move a stamp to the next segment.
    constexpr double kHair = 1e-9;
    double passed = 0;
    while (phase_ + (length - passed) >= 1 - kHair) {
        passed += 1 - phase_;
        phase_ = 0;
        stamps.push_back(between(last_, point, std::min(passed / length, 1.0)));
    }
    phase_ += length - passed;
    last_ = point;
}

}  // namespace jam
