#include "brush/stroke.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/text.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kTools> kToolNames = {"raise", "lower", "smooth", "flatten", "paint", "erase"};
constexpr std::array<std::string_view, 3> kWayNames = {"both", "fill", "cut"};

template <class E, size_t N>
std::optional<E> fromName(const std::array<std::string_view, N>& names, std::string_view name) {
    const auto at = std::find(names.begin(), names.end(), name);
    if (at == names.end()) return std::nullopt;
    return static_cast<E>(at - names.begin());
}

Status within(const char* field, double value, double lowest, double highest, const char* unit) {
    if (std::isfinite(value) && value >= lowest && value <= highest) return {};
    return Error{"", field, "it is " + number(value),
                 "use " + number(lowest) + " to " + number(highest) + unit};
}

}  // namespace

std::string_view toolName(Tool tool) { return kToolNames[static_cast<size_t>(tool)]; }
std::optional<Tool> toolFromName(std::string_view name) { return fromName<Tool>(kToolNames, name); }
std::string_view flattenWayName(FlattenWay way) { return kWayNames[static_cast<size_t>(way)]; }
std::optional<FlattenWay> flattenWayFromName(std::string_view name) { return fromName<FlattenWay>(kWayNames, name); }

Tool inverse(Tool tool) {
    switch (tool) {
        case Tool::raise: return Tool::lower;
        case Tool::lower: return Tool::raise;
        case Tool::paint: return Tool::erase;
        case Tool::erase: return Tool::paint;
        case Tool::smooth:
        case Tool::flatten: break;
    }
    return tool;
}

Status checkSettings(const StrokeSettings& s) {
    const bool rate = s.tool == Tool::raise || s.tool == Tool::lower;
    const Status ranges[] = {
        within("radius", s.radius, kMinRadius, kMaxRadius, " m"),
        rate ? within("strength", s.strength, kMinRate, kMaxRate, " m/s") : within("strength", s.strength, kMinShare, 1, ""),
        within("softness", s.falloff.softness, 0, 1, ""),
        within("grain", s.grain, 0, 0.5, ""),
        within("height", s.height.value_or(0), -10000, 10000, " m"),
        within("target", s.target, kMinShare, 1, ""),
    };
    for (const Status& r : ranges) if (!r) return r.error();
    return {};
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
