// A rule that says where a layer lies. Plain data; cover/rules.h works it out.
#pragma once

#include <cstdint>

#include "level/course.h"
#include "level/limits.h"

namespace jam {

// What a rule looks at, and the unit of its range.
enum class RuleKind {
    slope,      // degrees
    altitude,   // metres
    curvature,  // hollow -1 .. crest 1: how far the ground lies above its surroundings, over `reach` metres
    facing,  // degrees clockwise from north that the ground falls towards; `from` may be larger than `to`, over north
    layer,   // metres to where another layer shows
    low,     // metres to ground that lies lower than `level`: shores, wet hollows
    course,  // metres to the even part of a course
    noise,   // 0 .. 1, evenly spread: 0 to 0.3 covers about a third
    depth,   // metres of water above the ground; dry ground has none, and no rule holds there
    shore,   // metres to the outline of the nearest water, negative under it
    above,   // metres that dry ground lies above the nearest water's surface, looked for over `reach` metres
};
constexpr int kRuleKinds = 11;

// Where the rule holds, the layer is added, kept, or taken away.
enum class RuleEffect { add, only, never };

struct Rule {
    RuleKind kind = RuleKind::slope;
    RuleEffect way = RuleEffect::add;
    float from = 30, to = 90;  // holds between these, see RuleKind
    float fade = 6;            // how softly it ends beyond them, in the same unit, [0, ...]
    float strength = 1;        // [0, 1]
    float reach = 4;           // slope, curvature, above: metres over which is looked, [0, 100]
    uint32_t layer = 0;        // layer: whose; course: which, by the id of its stratum
    float level = 0;           // low: metres
    float scale = 20;          // noise: metres that its largest patches span, [0.1, 5000]
    uint32_t seed = 1;         // noise

    bool operator==(const Rule&) const = default;
};
constexpr int kMaxRules = 12;  // of one layer

// Metres from a layer, a course, low ground or a shore that a rule may ask for: as far as shoulders reach, because
// courses lay layers on theirs (cover/course_layers.h).
constexpr float kMostRuleDistance = kMaxCourseWidth;
constexpr float kMostRuleReach = 100;                           // metres
constexpr float kLeastRuleScale = 0.1f, kMostRuleScale = 5000;  // metres

// What `from` and `to` of a kind may be; `fade` may be as much as lies between them. For fields, commands and files.
struct RuleRange {
    double low, high;
};
constexpr RuleRange ruleRange(RuleKind kind) {
    switch (kind) {
        case RuleKind::slope: return {0, 90};
        case RuleKind::altitude: return {-kFarHeight, kFarHeight};
        case RuleKind::curvature: return {-1, 1};
        case RuleKind::facing: return {0, 360};
        case RuleKind::shore: return {-kMostRuleDistance, kMostRuleDistance};
        case RuleKind::layer:
        case RuleKind::course:
        case RuleKind::low:
        case RuleKind::depth:
        case RuleKind::above: return {0, kMostRuleDistance};
        case RuleKind::noise: return {0, 1};
    }
    return {0, 1};
}

}  // namespace jam
