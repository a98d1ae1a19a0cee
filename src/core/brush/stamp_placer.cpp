#include "brush/stamp_placer.h"

#include "base/maths.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {
double onRaster(double metres) { return std::round(metres * 1024) / 1024; }
}  // namespace

void StampPlacer::place(const StrokePoint& a, const StrokePoint& b, double share, std::vector<Stamp>& stamps) {
    const auto pressure = static_cast<float>(a.pressure + share * (b.pressure - a.pressure));
    stamps.push_back({onRaster(a.x + share * (b.x - a.x)), onRaster(a.z + share * (b.z - a.z)),
                      std::round(pressure * 4096) / 4096, heading_, count_++});
}

void StampPlacer::add(const StrokePoint& point, std::vector<Stamp>& stamps) {
    if (!begun_) {
        begun_ = true;
        last_ = point;
        if (!waits_) place(point, point, 0, stamps);
        return;
    }
    const double dx = point.x - last_.x, dz = point.z - last_.z, metres = std::hypot(dx, dz);
    double seconds = point.time - last_.time;
    if (metres > 0) {
        // Whole degrees: directions of the parts of a split segment differ in their last bits.
        heading_ = static_cast<float>(std::round(std::atan2(dz, dx) * kDegrees));
        if (waits_) {
            waits_ = false;
            place(last_, last_, 0, stamps);
        }
        moved_ = true;
        rest_ = 0;
    } else if (moved_) {
        const double before = rest_;
        rest_ += seconds;
        seconds = std::max(rest_ - std::max(before, kPauseSeconds), 0.0);
    }
    if (waits_) {
        last_.time = point.time;
        return;
    }
    const double length = std::max(metres / step_, flow_ ? seconds / kStampSeconds : 0.0);
    // A hair before the whole number counts, so that rounding cannot move a stamp to the next segment.
    constexpr double kHair = 1e-9;
    double passed = 0;
    while (phase_ + (length - passed) >= 1 - kHair) {
        passed += 1 - phase_;
        phase_ = 0;
        place(last_, point, std::min(passed / length, 1.0), stamps);
    }
    phase_ += length - passed;
    last_ = point;
}

void StampPlacer::finish(std::vector<Stamp>& stamps) {
    if (begun_ && waits_) {
        waits_ = false;
        place(last_, last_, 0, stamps);
    }
}

}  // namespace jam
