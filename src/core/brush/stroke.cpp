#include "brush/stroke.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/names.h"
#include "base/text.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kTools> kToolNames = {"raise", "lower", "smooth", "even-out", "flatten", "terrace", "slope",
                                                             "noise", "crumble", "rain-wash", "restore", "paint", "erase", "soften", "carry", "break-up",
                                                             "replace", "by-rule", "wash", "rinse"};
constexpr std::array<std::string_view, 3> kWayNames = {"both", "fill", "cut"};
constexpr std::array<std::string_view, 3> kNoiseNames = {"both", "up", "down"};
constexpr std::array<std::string_view, 3> kBreakNames = {"noise", "tip", "height"};
constexpr std::array<std::string_view, 2> kRestoreNames = {"start", "reference"};

Status within(const char* field, double value, double lowest, double highest, const char* unit) {
    if (std::isfinite(value) && value >= lowest && value <= highest) return {};
    return Error{"", field, "it is " + number(value),
                 "use " + number(lowest) + " to " + number(highest) + unit};
}

// Every number of the settings with its range: f(field, value, lowest, highest, unit).
template <class Settings, class F>
void eachNumber(Settings& s, F f) {
    f("radius", s.radius, kMinRadius, kMaxRadius, " m");
    if (hasRate(s.tool)) f("strength", s.strength, kMinRate, kMaxRate, s.flow ? " m/s" : " m");
    else f("strength", s.strength, kMinShare, 1.f, "");
    f("softness", s.falloff.softness, 0.f, 1.f, "");
    f("bend", s.falloff.bend.third, 0.f, 1.f, "");
    f("bend", s.falloff.bend.twoThirds, 0.f, 1.f, "");
    f("turn", s.tip.turn, -360.f, 360.f, " degrees");
    f("scatter", s.tip.scatter, 0.f, 2.f, "");
    f("spacing", s.spacing, kMinSpacing, kMaxSpacing, "");
    f("pressureCurve", s.pressure.curve, 0.25f, 4.f, "");
    if (s.limits.floor) f("floor", *s.limits.floor, -kFarHeight, kFarHeight, " m");
    if (s.limits.ceiling) f("ceiling", *s.limits.ceiling, -kFarHeight, kFarHeight, " m");
    f("grain", s.grain, 0.f, 0.5f, "");
    f("keep", s.keep, 0.f, 0.95f, "");
    if (s.height) f("height", *s.height, -kFarHeight, kFarHeight, " m");
    f("step", s.step, kMinStep, kMaxStep, " m");
    f("riser", s.riser, 0.f, 1.f, "");
    f("angle", s.angle, kMinAngle, kMaxAngle, " degrees");
    f("scale", s.scale, kMinGrain, kMaxGrain, " m");
    f("relief", s.relief, kMinRate, kMaxRate, " m");
    f("target", s.target, kMinShare, 1.f, "");
    for (auto& channel : s.colour) f("colour", channel, 0.f, 1.f, "");
    if (s.where.slopeFrom) f("slopeFrom", *s.where.slopeFrom, 0.f, 90.f, " degrees");
    if (s.where.slopeTo) f("slopeTo", *s.where.slopeTo, 0.f, 90.f, " degrees");
    if (s.where.altitudeFrom) f("altitudeFrom", *s.where.altitudeFrom, -kFarHeight, kFarHeight, " m");
    if (s.where.altitudeTo) f("altitudeTo", *s.where.altitudeTo, -kFarHeight, kFarHeight, " m");
}

}  // namespace

std::string_view toolName(Tool tool) { return kToolNames[static_cast<size_t>(tool)]; }
std::optional<Tool> toolFromName(std::string_view name) { return fromName<Tool>(kToolNames, name); }
std::string_view flattenWayName(FlattenWay way) { return kWayNames[static_cast<size_t>(way)]; }
std::optional<FlattenWay> flattenWayFromName(std::string_view name) { return fromName<FlattenWay>(kWayNames, name); }
std::string_view noiseWayName(NoiseWay way) { return kNoiseNames[static_cast<size_t>(way)]; }
std::optional<NoiseWay> noiseWayFromName(std::string_view name) { return fromName<NoiseWay>(kNoiseNames, name); }
std::string_view breakByName(BreakBy by) { return kBreakNames[static_cast<size_t>(by)]; }
std::optional<BreakBy> breakByFromName(std::string_view name) { return fromName<BreakBy>(kBreakNames, name); }
std::string_view restoreToName(RestoreTo to) { return kRestoreNames[static_cast<size_t>(to)]; }
std::optional<RestoreTo> restoreToFromName(std::string_view name) { return fromName<RestoreTo>(kRestoreNames, name); }

Tool inverse(Tool tool) {
    switch (tool) {
        case Tool::raise: return Tool::lower;
        case Tool::lower: return Tool::raise;
        case Tool::paint: return Tool::erase;
        case Tool::erase: return Tool::paint;
        case Tool::wash: return Tool::rinse;
        case Tool::rinse: return Tool::wash;
        default: return tool;
    }
}

Status checkSettings(const StrokeSettings& s) {
    Status first;
    eachNumber(s, [&](const char* field, double value, double low, double high, const char* unit) {
        if (first) first = within(field, value, low, high, unit);
    });
    if (!first) return first;
    if (s.octaves < 1 || s.octaves > kMaxOctaves) return within("octaves", s.octaves, 1, kMaxOctaves, "");
    if (s.falloff.bend.twoThirds > s.falloff.bend.third)
        return Error{"", "bend", "the curve rises towards the edge", "give the second number at most the value of the first"};
    if (s.tip.shape == TipShape::picture && !s.tip.picture) return Error{"", "tip", "it has no picture", "name a picture, or use round or square"};
    if (s.tool == Tool::breakUp && s.breakBy == BreakBy::tip && s.tip.shape != TipShape::picture)
        return Error{"", "breakBy", "the tip is no picture", "choose a picture tip, or break up by noise"};
    if (s.limits.floor && s.limits.ceiling && *s.limits.floor > *s.limits.ceiling)
        return Error{"", "floor", "it lies above the ceiling", "give the floor at most the ceiling's altitude"};
    if (const double far = 1e6; !(std::abs(s.mirror.x) <= far && std::abs(s.mirror.z) <= far))
        return Error{"", "mirror", "its centre is too far away", "use -1000000 to 1000000 m"};
    return {};
}

void bringIntoRange(StrokeSettings& s) {
    eachNumber(s, [](const char*, float& value, float low, float high, const char*) {
        value = std::isfinite(value) ? std::min(std::max(value, low), high) : low;
    });
    s.octaves = std::clamp(s.octaves, 1, kMaxOctaves);
    s.falloff.bend.twoThirds = std::min(s.falloff.bend.twoThirds, s.falloff.bend.third);
    if (s.limits.floor && s.limits.ceiling) s.limits.floor = std::min(*s.limits.floor, *s.limits.ceiling);
    if (s.tip.shape == TipShape::picture && !s.tip.picture) s.tip.shape = TipShape::round;
    if (s.breakBy == BreakBy::tip && s.tip.shape != TipShape::picture) s.breakBy = BreakBy::noise;
}

Status checkStroke(const Stroke& stroke) {
    if (Status s = checkSettings(stroke.settings); !s) return s.error();
    if (stroke.points.empty()) return Error{"", "points", "there are none", "give at least one point"};
    double before = 0;
    for (size_t i = 0; i < stroke.points.size(); ++i) {
        const StrokePoint& p = stroke.points[i];
        const std::string name = "points[" + std::to_string(i) + "]";
        const Status ranges[] = {
            within((name + ".x").c_str(), p.x, -1e6, 1e6, " m"),
            within((name + ".z").c_str(), p.z, -1e6, 1e6, " m"),
            within((name + ".pressure").c_str(), p.pressure, 0, 1, ""),
            within((name + ".time").c_str(), p.time, before, 36000, " s, never decreasing"),
        };
        for (const Status& r : ranges) if (!r) return r.error();
        before = p.time;
    }
    return {};
}

}  // namespace jam
