// Places stamps along a stroke: by distance while the hand moves, by time while it rests.
#pragma once

#include <vector>

#include "brush/stroke.h"

namespace jam {

constexpr double kStampSeconds = 0.05;  // a resting hand stamps this often
// A hand that has moved may pause this long before it flows again: letting go at the end of a stroke leaves no dot.
constexpr double kPauseSeconds = 0.15;

struct Stamp {
    double x = 0, z = 0;  // metres, on a 1/1024 m raster
    float pressure = 1;
    float heading = 0;  // degrees clockwise from east that the stroke runs here, for tips that follow it
    int index = 0;      // counts from 0
};

// A phase runs along the polyline of points, over each segment as fast as the quicker of the two rules asks;
// a stamp falls wherever it passes a whole number, and one at the first touch. A segment that is split into
// shorter ones gives the same stamps, so neither the frame rate nor the event rate matters. Positions are
// rounded to 1/1024 m to keep even the last bits equal.
class StampPlacer {
public:
    explicit StampPlacer(const StrokeSettings& settings)
        : step_(settings.radius * settings.spacing), flow_(settings.flow), waits_(settings.tip.follow) {}

    // Takes the next point and appends the stamps that lie between the last one and it.
    void add(const StrokePoint& point, std::vector<Stamp>& stamps);
    // The hand is lifted: a first touch that still waited for a direction is placed.
    void finish(std::vector<Stamp>& stamps);

private:
    void place(const StrokePoint& a, const StrokePoint& b, double share, std::vector<Stamp>& stamps);

    double step_;
    bool flow_;
    bool waits_;  // the first stamp wants to know where the stroke goes
    bool begun_ = false, moved_ = false;
    StrokePoint last_;
    double phase_ = 0;  // since the last stamp, [0, 1)
    double rest_ = 0;   // seconds since the hand last moved
    float heading_ = 0;
    int count_ = 0;
};

}  // namespace jam
