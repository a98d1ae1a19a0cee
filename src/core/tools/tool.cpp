#include "tools/tool.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/range.h"
#include "base/text.h"
#include "dress/kinds.h"
#include "level/changes.h"
#include "level/ground.h"

namespace jam {

namespace tools {
#define JAM_DECLARE(name) ToolSpec name();
JAM_TOOLS(JAM_DECLARE)
#undef JAM_DECLARE
}  // namespace tools

const ToolSpec& specOf(Tool tool) {
#define JAM_LIST(name) tools::name(),
    static const std::array<ToolSpec, kTools> all = {JAM_TOOLS(JAM_LIST)};
#undef JAM_LIST
    return all[static_cast<size_t>(tool)];
}

std::string_view toolName(Tool tool) { return specOf(tool).name; }

std::optional<Tool> toolFromName(std::string_view name) {
    for (int t = 0; t < kTools; ++t)
        if (toolName(static_cast<Tool>(t)) == name) return static_cast<Tool>(t);
    return std::nullopt;
}

bool uses(Tool tool, const Setting& setting) {
    const auto& list = specOf(tool).settings;
    return std::any_of(list.begin(), list.end(), [&](const OwnSetting& s) { return s.setting == &setting; });
}

StrokeSettings inverted(StrokeSettings s) {
    if (const auto turn = specOf(s.tool).turn) turn(s);
    s.tool = inverse(s.tool);
    return s;
}

StrokeSettings usualSettings(Tool tool) {
    const ToolSpec& spec = specOf(tool);
    StrokeSettings s;
    s.tool = tool;
    s.radius = spec.radius;
    s.strength = spec.strength;
    s.falloff.softness = spec.softness;
    for (const OwnSetting& own : spec.settings)
        if (own.usual) own.setting->set(s, *own.usual);
    return s;
}

namespace {

std::string unitInFiles(const Setting& s, const StrokeSettings& settings) {
    if (&s == &settings::rate) return settings.flow ? " m/s" : " m";
    const std::string_view unit = s.unit;
    return unit == "m" ? " m" : unit == "°" ? " degrees" : "";
}

// Every number of the settings: f(setting).
template <class F>
void eachNumber(Tool tool, F f) {
    const auto number = [&](const Setting* s) {
        if (s->kind == Setting::Kind::number || s->kind == Setting::Kind::maybe) f(*s);
    };
    for (const Setting* s : commonSettings()) number(s);
    f(strengthOf(tool));
    for (const Setting* s : ownSettings()) number(s);
}

// The field is for files; at the screen the sentence alone is enough.
Error because(const char* field, const std::string& problem, const std::string& remedy) {
    return {"", field, problem, remedy};
}

}  // namespace

Status checkSettings(const StrokeSettings& s) {
    Status first;
    eachNumber(s.tool, [&](const Setting& n) {
        if (!first) return;
        const double value = n.get(s);
        if (n.kind == Setting::Kind::maybe && std::isnan(value)) return;
        first = checkRange(*n.group ? std::string(n.group) + "." + std::string(n.name) : std::string(n.name), value,
                           n.low, n.high, unitInFiles(n, s));
    });
    if (!first) return first;
    // A height that is set but not a number reads like one that is not set.
    for (const auto& h : {s.height, s.limits.floor, s.limits.ceiling, s.where.slopeFrom, s.where.slopeTo,
                          s.where.altitudeFrom, s.where.altitudeTo})
        if (h && std::isnan(*h))
            return Error{"", "height", "it is not a number", "give it in metres or degrees, or leave it out"};
    for (const float c : s.colour)
        if (Status w = checkRange("colour", c, 0, 1, ""); !w) return w;
    for (const float b : {s.falloff.bend.third, s.falloff.bend.twoThirds})
        if (Status w = checkRange("bend", b, 0, 1, ""); !w) return w;
    if (s.falloff.bend.twoThirds > s.falloff.bend.third)
        return Error{"", "bend", "the curve rises towards the edge",
                     "give the second number at most the value of the first"};
    if (s.tip.shape == TipShape::picture && !s.tip.picture)
        return Error{"", "tip", "it has no picture", "name a picture, or use round or square"};
    if (s.tool == Tool::breakUp && s.breakBy == BreakBy::tip && s.tip.shape != TipShape::picture)
        return Error{"", "breakBy", "the tip is no picture", "choose a picture tip, or break up by noise"};
    if (s.limits.floor && s.limits.ceiling && *s.limits.floor > *s.limits.ceiling)
        return Error{"", "floor", "it lies above the ceiling", "give the floor at most the ceiling's altitude"};
    if (const double far = 1e6; !(std::abs(s.mirror.x) <= far && std::abs(s.mirror.z) <= far))
        return Error{"", "mirror", "its centre is too far away", "use -1000000 to 1000000 m"};
    return {};
}

void bringIntoRange(StrokeSettings& s) {
    for (auto* h : {&s.height, &s.limits.floor, &s.limits.ceiling, &s.where.slopeFrom, &s.where.slopeTo,
                    &s.where.altitudeFrom, &s.where.altitudeTo})
        if (*h && std::isnan(**h)) h->reset();
    eachNumber(s.tool, [&](const Setting& n) {
        const double value = n.get(s);
        if (n.kind == Setting::Kind::maybe && std::isnan(value)) return;
        const double held = std::isnan(value) ? n.low : std::clamp(value, n.low, n.high);
        if (!(held == value)) n.set(s, held);
    });
    const auto share = [](float& v) { v = std::isnan(v) ? 0 : std::clamp(v, 0.f, 1.f); };
    for (float& c : s.colour) share(c);
    share(s.falloff.bend.third);
    share(s.falloff.bend.twoThirds);
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
            checkRange(name + ".x", p.x, -1e6, 1e6, " m"),
            checkRange(name + ".z", p.z, -1e6, 1e6, " m"),
            checkRange(name + ".pressure", p.pressure, 0, 1, ""),
            checkRange(name + ".time", p.time, before, 36000, " s, never decreasing"),
        };
        for (const Status& r : ranges)
            if (!r) return r.error();
        before = p.time;
    }
    return {};
}

Status checkNeeds(const Level& level, const StrokeSettings& s, const Level* reference) {
    const ToolNeeds& needs = specOf(s.tool).needs;
    if (level.fenced && level.fence.presentTiles() == 0)
        return because("fence", "The fence holds nothing, so nothing can be changed", "drop it, or draw another");
    if (shapesGround(s.tool))
        if (Status shapeable = checkShapeable(level); !shapeable) return shapeable;
    if (needs.layer) {
        const Layer* chosen = level.layer(s.layer);
        if (!chosen)
            return Error{"", "layer", "the level has no layer " + std::to_string(s.layer),
                         "name a layer of this level"};
        if (chosen->locked)
            return because("layer", "The layer “" + chosen->name + "” is protected",
                           "let it go in the sheet to change it");
        if (needs.above && level.layerIndex(s.layer) == 0)
            return because("layer", "The first layer covers everything", needs.whyAbove);
        if (needs.rules && chosen->rules.empty())
            return because("layer", "“" + chosen->name + "” has no rules yet", "add some in the sheet");
        if (needs.other && (!level.layer(s.from) || s.from == s.layer))
            return because("from", "No other layer is chosen to make room",
                           "choose in the sheet which layer makes room for this one");
        if (chosen->hidden)
            return because("layer", "The layer “" + chosen->name + "” is hidden", "show it to paint it");
    }
    if (needs.kind) {
        const Kind* chosen = level.kind(s.kind);
        if (!chosen)
            return Error{"", "kind", "the level has no kind " + std::to_string(s.kind), "name a kind of this level"};
        if (chosen->locked)
            return because("kind", "The kind “" + chosen->name + "” is protected",
                           "let it go in the sheet to change it");
        if (needs.singles)
            if (const Status room = checkSinglesLeft(level); !room) return room;
        if (chosen->hidden) return because("kind", "The kind “" + chosen->name + "” is hidden", "show it to plant it");
    }
    if (needs.reference && s.restore == RestoreTo::reference) {
        if (!reference)
            return because("restore", "The state of the level to restore from was not given, or is no longer kept",
                           "choose another, or the start height");
        if (!sameRaster(*reference, level))
            return because("restore", "The level had another size then", "choose a later state to restore from");
    }
    return {};
}

}  // namespace jam
