// A stroke is data: a tool, its settings and a timed list of points. The same code runs it live, from a file, in tests
// and in benchmarks. What a tool is and which settings it has, with their ranges and usual values: tools/.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "brush/falloff.h"
#include "brush/mirror.h"
#include "brush/tip.h"
#include "brush/tool_list.h"
#include "level/limits.h"

namespace jam {

#define JAM_ENUMERATOR(name) name,
enum class Tool { JAM_TOOLS(JAM_ENUMERATOR) };
#undef JAM_ENUMERATOR
#define JAM_ONE(name) +1
constexpr int kTools = 0 JAM_TOOLS(JAM_ONE);
#undef JAM_ONE

// Whether ground may be added, taken away, or both.
enum class Earthwork { both, fill, cut };
enum class NoiseSign { both, up, down };

// What makes the edges irregular that break up works on: noise, the picture tip, or the layer's own height.
enum class BreakBy { noise, tip, height };
enum class RestoreTo { start, reference };

constexpr float kMinRadius = 0.5f, kMaxRadius = 2000;  // metres
constexpr float kMinRate = 0.01f, kMaxRate = 100;      // metres per second
constexpr float kMinShare = 1e-4f;                     // of the way that one stamp goes
constexpr float kMinSpacing = 0.02f, kMaxSpacing = 4;  // of the radius
constexpr float kMinAngle = 1, kMaxAngle = 85;         // degrees
constexpr float kMinBumps = 0.1f, kMaxBumps = 5000;    // metres, scale of noise
constexpr int kMaxOctaves = 10;
constexpr float kMinStep = 0.05f, kMaxStep = 500;  // metres, height of a terrace

// Altitudes that a brush does not push the ground beyond. Ground that lies beyond already stays.
struct HeightLimits {
    std::optional<float> floor, ceiling;  // metres

    bool operator==(const HeightLimits&) const = default;
};

// Where paint may fall. Limits are soft: paint fades over kFadeDegrees and kFadeMetres beside them.
struct PaintWhere {
    std::optional<float> slopeFrom, slopeTo;        // degrees, [0, 90]
    std::optional<float> altitudeFrom, altitudeTo;  // metres
    uint32_t onLayer = 0;                           // only where this layer shows, as much as it shows; 0 everywhere
    uint32_t offLayer = 0;                          // not where this layer shows; 0 everywhere

    bool anywhere() const { return *this == PaintWhere{}; }
    bool operator==(const PaintWhere&) const = default;
};
constexpr float kFadeDegrees = 4, kFadeMetres = 1.5f;  // over which paint fades beside a limit

// What the pressure of a pen does.
struct Pressure {
    bool strength = true, radius = false;
    float curve = 1;  // exponent: below 1 a light touch counts more, above 1 less, [0.25, 4]

    bool operator==(const Pressure&) const = default;
};

struct StrokeSettings {
    Tool tool = Tool::raise;
    float radius = 20;  // metres, [kMinRadius, kMaxRadius]
    // raise, lower: metres per second at the crown, or metres per stamp without flow, [kMinRate, kMaxRate].
    // Others: share of the way that one stamp goes, [kMinShare, 1].
    float strength = 4;
    Falloff falloff;
    Tip tip;
    float spacing = 0.15f;  // a moving hand stamps each time it went this share of the radius
    bool flow = true;       // a resting hand goes on stamping; without, one click is one clean stamp
    Pressure pressure;
    Mirror mirror;
    HeightLimits limits;

    float smoothing = 0.1f;  // smooth, soften: standard deviation of what is evened out, share of the radius, [0, 0.5]
    float remains = 0.3f;    // even out: share of the relief that one stroke leaves, [0, 0.95]
    Earthwork earthwork = Earthwork::both;  // flatten, slope
    std::optional<float> height;            // flatten: metres; without it, the composed ground under the first touch
    float step = 4;                         // terrace: metres between steps, [kMinStep, kMaxStep]
    float riser = 0.3f;                     // terrace: share of a step that rises; 0 is a wall, 1 a soft wave, [0, 1]
    float angle = 35;                       // slope, crumble: degrees, [kMinAngle, kMaxAngle]
    float scale = 14;     // noise, break up: metres that its largest bumps span, [kMinBumps, kMaxBumps]
    float amplitude = 2;  // noise: metres that it rises or falls at most, [kMinRate, kMaxRate]
    int octaves = 4;      // noise: [1, kMaxOctaves]
    NoiseSign noise = NoiseSign::both;
    uint32_t seed = 1;                 // noise, rain wash, random turn, scatter
    BreakBy breakBy = BreakBy::noise;  // break up
    RestoreTo restore = RestoreTo::start;
    uint32_t layer = 0;                                // paint, erase, break up, replace, by rule: id of the layer
    uint32_t from = 0;                                 // replace: id of the layer that makes room
    std::array<float, 3> colour{0.45f, 0.58f, 0.24f};  // wash: sRGB, [0, 1]
    float target = 1;                                  // paint: coverage that it works towards, [kMinShare, 1]
    uint32_t kind = 0;                                 // plant, thin, clear away, resize, restyle: id of the kind
    uint32_t ofKind = 0;                               // restyle: id of the kind that is turned into it; 0 for any
    float onHundred = 4;                               // plant: plantings on 100 m2, [kDensityStep, 1000]
    float times = 1.5f;                                // resize: times as large as the kind says, [1/4, 4]
    bool everyKind = false;                            // clear away: all kinds, and not the chosen one alone
    PaintWhere where;                                  // paint and the like: where it may fall

    bool operator==(const StrokeSettings&) const = default;
};

struct StrokePoint {
    double x = 0, z = 0;  // metres
    float pressure = 1;   // [0, 1], scales the strength
    double time = 0;      // seconds since the stroke began, never decreasing

    bool operator==(const StrokePoint&) const = default;
};

struct Stroke {
    StrokeSettings settings;
    std::vector<StrokePoint> points;

    bool operator==(const Stroke&) const = default;
};

}  // namespace jam
