// What a tool is, said once: what it changes, the settings it has, what it needs, the kernel that runs a stamp.
// Strokes, stroke files, range checks, sheet, section, bench, keys and documents read it. Adding one: CONTRIBUTING.md.
#pragma once

#include <vector>

#include "base/result.h"
#include "cover/blend.h"
#include "dress/plantings.h"
#include "shape/sculpt.h"
#include "tools/setting.h"

namespace jam {

enum class Changes { ground, coverage, wash, gaps, plantings };
// Whether it works on the cover's samples and not on the ground's.
constexpr bool onCover(Changes c) { return c == Changes::coverage || c == Changes::plantings; }

// What a stamp's kernel is told beside the dab.
struct Touch {
    const StrokeSettings& settings;
    float share;                       // the strength of this stamp: metres (rate), or a share of the way, [0, 1]
    int index;                         // of the stamp in the stroke, from 0
    const Level& origin;               // the level as the stroke found it
    const Level* reference;            // restore: what it brings back, or null
    const CoverMix& carried;           // carry: what lay under the first touch
    const Raster<float>* layerHeight;  // break up by height: the layer's own, or null
    Plantings* stood;                  // restyle: what stood when the stroke began, or null
};
using GroundKernel = Region (*)(const StampSite&, const Dab&, const Touch&);  // returns ground samples
using CoverKernel = Region (*)(Level&, const Dab&,
                               const Touch&);  // returns cover (or, for a wash and gaps, ground) samples

// What must be there before a stroke.
struct ToolNeeds {
    bool layer = false;         // one layer, chosen
    bool above = false;         // and not the first, which covers everything
    const char* whyAbove = "";  // what is wrong with the first layer, in a sentence
    bool rules = false;         // with rules
    bool other = false;         // and another layer, StrokeSettings::from
    bool kind = false;          // one kind, chosen
    bool singles = false;       // room for more singles
    bool reference = false;     // a state of the level, when RestoreTo::reference
};

// One of a tool's own settings, with what this tool says about it.
struct OwnSetting {
    const Setting* setting;
    std::optional<double> usual = {};  // as kept; without it, that of StrokeSettings
    const char* tip = nullptr;         // in place of the setting's
};

struct ToolSpec {
    std::string_view name;  // in files and on the command line: "even-out"
    const char* title;      // on the screen: "Even out"
    Changes changes = Changes::ground;
    bool rate = false;                 // the strength is in metres, a second or a stamp; otherwise a share of the way
    int direction = 1;                 // rate, gaps: 1 up, -1 down
    std::optional<Tool> inverse = {};  // what Shift turns it into
    void (*turn)(StrokeSettings&) = nullptr;  // what Shift turns in the settings instead
    ToolNeeds needs = {};
    std::vector<OwnSetting> settings = {};
    float radius = 25, strength = 0.35f, softness = 1;  // usual values
    GroundKernel ground = nullptr;                      // exactly one of the two
    CoverKernel cover = nullptr;
    // Notes what a stroke works towards, at its first touch.
    void (*begin)(const Level&, double x, double z, StrokeSettings&, CoverMix&) = nullptr;
    // Layers that are the hand's own afterwards, where their rules are alive; by places in the order. Null: none.
    bool (*holds)(int layer, int own, int from) = nullptr;
    bool holdsKind = false;  // the chosen kind's density is the hand's own afterwards
};

const ToolSpec& specOf(Tool tool);
std::string_view toolName(Tool tool);
std::optional<Tool> toolFromName(std::string_view name);

inline bool shapesGround(Tool tool) { return specOf(tool).changes == Changes::ground; }
inline bool washesGround(Tool tool) { return specOf(tool).changes == Changes::wash; }
inline bool makesGaps(Tool tool) { return specOf(tool).changes == Changes::gaps; }
inline bool dresses(Tool tool) { return specOf(tool).changes == Changes::plantings; }
inline bool usesLayer(Tool tool) { return specOf(tool).needs.layer; }
inline bool hasRate(Tool tool) { return specOf(tool).rate; }
bool uses(Tool tool, const Setting& setting);
// The strength's range and unit for this tool.
inline const Setting& strengthOf(Tool tool) { return hasRate(tool) ? settings::rate : settings::share; }
// The tool that Shift turns this one into; most stay.
inline Tool inverse(Tool tool) { return specOf(tool).inverse.value_or(tool); }
// The settings as Shift turns them, tool and all.
StrokeSettings inverted(StrokeSettings settings);
// What a designer finds when taking the tool up for the first time.
StrokeSettings usualSettings(Tool tool);

// Errors: any setting or point out of range or not a number, naming the field.
Status checkSettings(const StrokeSettings& settings);
Status checkStroke(const Stroke& stroke);
// Brings every number into its range; for values that come from a hand and not from a file.
void bringIntoRange(StrokeSettings& settings);
// Whether the tool can work on this level. Errors: the layer is missing, protected or hidden, has no rules, ...; in
// words for the person at the screen.
Status checkNeeds(const Level& level, const StrokeSettings& settings, const Level* reference);

}  // namespace jam
