// Water: pools that fill hollows, and streams that run along courses. Plain data; water/ works it out.
#pragma once

#include <array>
#include <cstdint>
#include <limits>
#include <string>

#include "grid/tiled_grid.h"

namespace jam {

constexpr size_t kMaxWaters = 64;  // pools and streams together

// How water is seen.
struct WaterLook {
    std::array<float, 3> colour{0.13f, 0.27f, 0.25f};  // sRGB, [0, 1]: of deep water
    float clearness = 2.2f;   // metres of water through which a third of the light from below comes, [0.05, 100]
    float waves = 0.03f;      // metres from trough to crest, [0, 3]
    float waveLength = 2.5f;  // metres from crest to crest of the largest, [0.1, 100]
    float roughness = 0.15f;  // how much small ripples blur what is mirrored, [0, 1]
    float foam = 0.25f;       // metres of depth over which the shore and falls are white, [0, 10]

    bool operator==(const WaterLook&) const = default;
};

// Still water: all ground below its height that can be reached from its place without climbing over it. A sea is all
// ground below its height that can be reached from the level's edge.
struct Pool {
    uint32_t id = 0;
    std::string name;     // no other pool or stream has it
    double x = 0, z = 0;  // metres: where it is filled from
    float height = 0;     // metres: its surface, within the level's range
    bool sea = false;
    WaterLook look;
    bool leaks = false;  // made by refreshWater()

    bool operator==(const Pool&) const = default;
};

constexpr float kLeastStreamDepth = 0.02f, kMostStreamDepth = 50;  // metres
constexpr float kLeastManning = 0.01f, kMostManning = 0.3f;

// Surface of the water over a ground sample; none where it is dry.
constexpr float kDry = -std::numeric_limits<float>::infinity();

// Water that runs along a course that carves: as wide as that, and `depth` over its bed, so that it only ever falls.
struct Stream {
    uint32_t id = 0;
    std::string name;
    uint32_t course = 0;    // id of the course's stratum; with that hidden or gone, nothing runs
    float depth = 0.3f;     // metres, [kLeastStreamDepth, kMostStreamDepth]
    float manning = 0.04f;  // roughness of the bed (Manning's n, s/m^(1/3)), [kLeastManning, kMostManning]
    WaterLook look;
    TiledGrid<float> surface;  // metres, kDry where it does not run; made by refreshWater()

    bool operator==(const Stream&) const = default;
};

// What stands or runs over a ground sample: the highest surface, and whose it is.
struct Wet {
    float surface = kDry;  // metres
    uint32_t body = 0;     // id of the pool or stream

    bool wet() const { return body != 0; }
    bool operator==(const Wet&) const = default;
};

}  // namespace jam
