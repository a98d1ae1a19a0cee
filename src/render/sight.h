// What is shown of a level, beside what lies there.
#pragma once

#include <array>
#include <glm/vec3.hpp>

#include "level/level.h"
#include "relief.h"

namespace jam {

// Something computed about the ground and shown on it.
enum class Overlay { none, steepness, altitude, curvature, coverage, stretch, depth, reach };

// The eye is under water.
struct UnderWater {
    float metres = 0;               // through which a third of the light comes; 0: it is not
    float deep = 0;                 // metres below the surface
    std::array<float, 3> colour{};  // sRGB, of deep water
    bool operator==(const UnderWater&) const = default;
};

struct Sight {
    bool contours = false;
    float contourStep = 5;  // metres
    Overlay overlay = Overlay::none;
    float walkable = 35;  // degrees: the steepest that a player can walk
    int soloLayer = 0;    // index of the layer whose coverage is shown
    float bandStep = 10;  // metres from one altitude band to the next
    ReliefLook relief;
    bool hatch = true;  // the ground inside the fence
    bool grid = false, mesh = false;
    float gridStep = 10;     // metres
    float liveMetres = 450;  // how far layers are blended live: the one quality knob
    float quadPixels = 10;   // size of the mesh on the picture

    UnderWater under;
    float waterTime = 0;  // seconds; water stands still while it does

    bool operator==(const Sight&) const = default;
};

// The colours of an overlay, sRGB 0..1, for its legend; `share` runs along its scale: steepness from 0 to 90 degrees,
// altitude from the lowest to the highest ground, curvature from hollow to crest,
// coverage from nothing to all, stretch from none to kStretchShown, depth from the shore to the deepest water.
glm::vec3 overlayColour(Overlay overlay, float share, float walkable);
constexpr float kStretchShown = 2;  // pictures three times as long as they should be
// Metres from one line of equal depth to the next, where water is so deep at most: 0.1, 0.25, 0.5, 1, 2.5, 5, ...
float depthLineStep(float deepest);
// The deepest water of the level's pools, in metres, at least 1: the end of the depth's scale.
float deepestShown(const Level& level);
// Rise per metre of the slope's change at which the curvature's colours are full, for this ground.
float curvatureScale(const Level& level);

}  // namespace jam
