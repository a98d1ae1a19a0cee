// Places stamps along a stroke: by distance while the hand moves, by time while it rests.
#pragma once

#include <vector>

#include "brush/stroke.h"

namespace jam {

constexpr double kStampSeconds = 0.05;  // a resting hand stamps this often
constexpr double kStampSpacing = 0.15;  // a moving hand stamps each time it went this share of the radius

struct Stamp {
    double x = 0, z = 0;   // metres, on a 1/1024 m raster
    float pressure = 1;
};

// A phase runs along the polyline of points, over each segment as fast as the quicker of the two rules asks;
// a stamp falls wherever it passes a whole number, and one at the first touch. A segment that is split into
// shorter ones gives the same stamps, so neither the frame rate nor the event rate matters. Positions are
// rounded to 1/1024 m to keep even the last bits equal.
class StampPlacer {
public:
    explicit StampPlacer(double radius) : step_(radius * kStampSpacing) {}

    // Takes the next point and appends the stamps that lie between the last one and it.
    void add(const StrokePoint& point, std::vector<Stamp>& stamps);

private:
    double step_;
    bool begun_ = false;
    StrokePoint last_;
    double phase_ = 0;  // since the last stamp, [0, 1)
};

}  // namespace jam
