#include "walk/flights.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "walk/walker.h"

namespace jam {

double flightHeight(const Body& body, double far) {
    const double seconds = far / static_cast<double>(body.run), jump = body.jump;
    const double rising = std::sqrt(2 * jump / Walker::kGravity);  // until it is highest; it may wait there for the way
    const double falling = std::max(seconds - rising, 0.0);
    double height = jump - 0.5 * Walker::kGravity * falling * falling;
    if (far <= Walker::kStride) height = std::max<double>(height, body.step);
    return height;
}

Flights::Flights(const Body& body, double spacing, bool standing) {
    constexpr int kFar = kFarthestFlight;
    // Beyond where it has fallen that deep, it is left to the ground below.
    constexpr double kDeepest = 12;
    for (int r = -kFar; r <= kFar; ++r)
        for (int c = -kFar; c <= kFar; ++c) {
            const double far = spacing * std::sqrt(c * c + r * r);
            if ((c == 0 && r == 0) || c * c + r * r > kFar * kFar) continue;
            const double height = flightHeight(
                body, far + (standing && far > 1.5 * spacing ? 0.15 * static_cast<double>(body.run) : 0));
            if (height < -kDeepest && (std::abs(c) > 1 || std::abs(r) > 1)) continue;
            hops_.push_back(
                {static_cast<int8_t>(c), static_cast<int8_t>(r), static_cast<float>(height), static_cast<float>(far)});
        }
    std::sort(hops_.begin(), hops_.end(), [](const Hop& a, const Hop& b) {
        const int fa = a.dc * a.dc + a.dr * a.dr, fb = b.dc * b.dc + b.dr * b.dr;
        return std::tie(fa, a.dr, a.dc) < std::tie(fb, b.dr, b.dc);
    });
    std::map<std::pair<int, int>, uint16_t> places;
    for (size_t i = 0; i < hops_.size(); ++i) places[{hops_[i].dc, hops_[i].dr}] = static_cast<uint16_t>(i);
    std::vector<std::vector<uint16_t>> after(hops_.size());
    for (uint16_t i = kBeside; i < hops_.size(); ++i) {
        // The two samples on either side of the straight line back, one row or column nearer.
        const Hop& h = hops_[i];
        const double most = std::max(std::abs(h.dc), std::abs(h.dr)), share = (most - 1) / most;
        const double c = h.dc * share, r = h.dr * share;
        std::vector<uint16_t> before;
        for (const double side : {-1e-9, 1e-9}) {
            const auto at = places.find(
                {static_cast<int>(std::floor(c + 0.5 + side)), static_cast<int>(std::floor(r + 0.5 + side))});
            if (at != places.end() && (before.empty() || before[0] != at->second)) before.push_back(at->second);
        }
        for (const uint16_t b : before) after[b].push_back(i);
        if (!before.empty()) onwards_.push_back({i, {before.front(), before.back()}});
    }
    const auto ring = [&](const Onward& o) { return std::max(std::abs(hops_[o.hop].dc), std::abs(hops_[o.hop].dr)); };
    std::stable_sort(onwards_.begin(), onwards_.end(),
                     [&](const Onward& a, const Onward& b) { return ring(a) < ring(b); });
    begins_.push_back(0);
    for (const auto& list : after) {
        after_.insert(after_.end(), list.begin(), list.end());
        begins_.push_back(static_cast<uint32_t>(after_.size()));
    }
}

}  // namespace jam
