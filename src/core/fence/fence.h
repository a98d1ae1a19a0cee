// Making fences: where they lie (sources), how a source meets the fence there is, and how a fence is changed.
// Metres are metres on the map. Drawn edges are sheer, from one
// sample to the next, until they are feathered.
#pragma once

#include <array>
#include <functional>
#include <vector>

#include "base/context.h"
#include "level/level.h"

namespace jam {

// How much ground counts.
struct FenceSource {
    // How much each ground sample of a region counts, [0, 1].
    std::function<void(const Region& region, View<float> out)> read;
    Region reach = kEverywhere;  // beyond it nothing counts; may leave the level
    double visits = 1e12;        // about how many samples are looked at to read all of it

    static constexpr Region kEverywhere{-(1 << 28), -(1 << 28), 1 << 28, 1 << 28};
};

struct MapPlace {
    double x, z;  // metres
};

// --- sources; each holds what it needs, with a copy of the level where it looks at one -------------------------------
// The inside of a polygon, by the even-odd rule. Precondition: at least 3 corners.
FenceSource insidePolygon(const Level& level, std::vector<MapPlace> corners);
// Nearer than half of `width` to a line; from there to the line itself it grows as `softness` says, [0, 1]: 0 is sheer,
// 1 begins at the line. Precondition: at least one place.
FenceSource alongLine(const Level& level, std::vector<MapPlace> places, double width, float softness);
// As much as a layer shows.
FenceSource whereLayer(const Level& level, uint32_t layer);
// The ground around a place that is connected to it by the layer that shows most there, over the edges of the drawn
// triangles; nothing when the place lies outside. Unspecified when cancelled.
FenceSource connectedLayer(const Level& level, double x, double z, const Context& context = {});
// What one rule gives: slope, altitude, curvature, facing, nearness to a layer or to low ground, noise.
FenceSource byRule(const Level& level, const Rule& rule);
// Nearer than `metres` to the level's edge.
FenceSource nearEdge(const Level& level, double metres);
// Nearer than `metres` to what a course owns.
FenceSource nearCourse(const Level& level, uint32_t stratum, double metres);
// A fence that was kept.
FenceSource keptFence(const Level& level, uint32_t id);

// --- the fence of a level --------------------------------------------------------------------------------------------
enum class FenceJoin { replace, add, takeAway, meet };
// Joins a source to the fence, which is in force then. A fence that is not in force counts as none.
// False when cancelled; the level is half done then.
bool joinFence(Level& level, const FenceSource& source, FenceJoin join, const Context& context = {});
bool invertFence(Level& level, const Context& context = {});
// Moves the edge outwards by so many metres (negative: inwards). Its softness goes: the edge is where it is half.
bool growFence(Level& level, double metres, const Context& context = {});
// Softens the edge over so many metres on either side.
bool featherFence(Level& level, double metres, const Context& context = {});
// True when nothing lies inside.
bool fenceEmpty(const Level& level);
// Square metres inside, soft places in part.
double fenceArea(const Level& level);

// Keeps the fence under a name, in place of another of that name; returns its id.
// Precondition: fewer than kMaxFences, or one of that name.
uint32_t keepFence(Level& level, const std::string& name);

}  // namespace jam
