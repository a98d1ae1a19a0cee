// A stroke is data: a tool, its settings and a timed list of points. The same code runs it live, from a file,
// in tests and in benchmarks.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/result.h"
#include "brush/falloff.h"

namespace jam {

enum class Tool { raise, lower, smooth, flatten, paint, erase };
constexpr int kTools = 6;

std::string_view toolName(Tool tool);  // "raise", ... as in stroke files
std::optional<Tool> toolFromName(std::string_view name);
constexpr bool shapesGround(Tool tool) { return tool < Tool::paint; }
// The tool that Shift turns this one into; smooth and flatten stay.
Tool inverse(Tool tool);

enum class FlattenWay { both, fill, cut };
std::string_view flattenWayName(FlattenWay way);
std::optional<FlattenWay> flattenWayFromName(std::string_view name);

constexpr float kMinRadius = 0.5f, kMaxRadius = 2000;  // metres
constexpr float kMinRate = 0.01f, kMaxRate = 100;      // metres per second
constexpr float kMinShare = 1e-4f;                     // of the way that one stamp goes

struct StrokeSettings {
    Tool tool = Tool::raise;
    float radius = 20;    // metres, [kMinRadius, kMaxRadius]
    // raise, lower: metres per second at the crown, [kMinRate, kMaxRate].
    // Others: share of the way that one stamp goes, [kMinShare, 1].
    float strength = 4;
    Falloff falloff;
    float grain = 0.1f;            // smooth: standard deviation of what is evened out, share of the radius, [0, 0.5]
    FlattenWay way = FlattenWay::both;
    std::optional<float> height;   // flatten: metres; without it, the composed ground under the first touch
    uint32_t layer = 0;            // paint, erase: id of the layer
    float target = 1;              // paint: coverage that it works towards, [kMinShare, 1]

    bool operator==(const StrokeSettings&) const = default;
};

struct StrokePoint {
    double x = 0, z = 0;   // metres
    float pressure = 1;    // [0, 1], scales the strength
    double time = 0;       // seconds since the stroke began, never decreasing

    bool operator==(const StrokePoint&) const = default;
};

struct Stroke {
    StrokeSettings settings;
    std::vector<StrokePoint> points;

    bool operator==(const Stroke&) const = default;
};

// Errors: any setting or point out of range or not a number, naming the field.
Status checkSettings(const StrokeSettings& settings);
Status checkStroke(const Stroke& stroke);

}  // namespace jam
