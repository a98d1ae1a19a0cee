// The shortest way from one place to another for a body, and what is hard about it.
#pragma once

#include <optional>

#include "walk/reach.h"

namespace jam {

enum class Stretch : uint8_t { walk, swim, leap, drop };  // leap: a step or a jump, up or across

struct WayPoint {
    double x = 0, y = 0, z = 0;  // metres
    Stretch by = Stretch::walk;  // how it was come to from the one before
};

struct Way {
    std::vector<WayPoint> points;
    double length = 0;           // metres, along the ground
    double seconds = 0;          // at a run
    double climb = 0, fall = 0;  // metres, both >= 0
    double steepest = 0;         // degrees, of what is walked, up or down
    double steepX = 0, steepZ = 0;
    double deepest = 0;  // metres of water
    int leaps = 0, drops = 0;
    bool feat = false;  // some leap takes a run before it, or all of its height
};

// A quick way that keeps off walls, brinks and leaps where it can, over the ground that a survey saw (Dijkstra, 1959,
// drawn towards the goal: Hart, Nilsson and Raphael, 1968), pulled straight where the ground lets it. None when there
// is none, or cancelled.
std::optional<Way> wayBetween(const Level& level, const ReachGround& ground, double fromX, double fromZ, double toX,
                              double toZ, const Context& context = {});

}  // namespace jam
