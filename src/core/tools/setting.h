// One setting of a brush, described once: stroke files, range checks, the sheet's fields, the section's handles and the
// documents' table read it from here.
#pragma once

#include <limits>
#include <span>
#include <string_view>

#include "brush/stroke.h"

namespace jam {

struct Choice {
    std::string_view word;  // in files
    const char* title;      // on the screen
};

struct Setting {
    enum class Kind {
        number,  // always there
        maybe,   // a number, or nothing
        flag,    // yes or no, 1 or 0
        choice,  // the place of a word in `choices`
        layer,   // the id of a layer; files name it. `choices` has what is shown without one
        kind,    // the same of a kind of what stands
        colour,  // three numbers, sRGB
    };
    std::string_view name;  // in files; it never changes
    Kind kind = Kind::number;
    const char* group = "";    // files: the object that it stands in, "" for none
    const char* title = "";    // on the screen
    const char* tip = "";      // what it does, in a sentence
    const char* unit = "";     // as shown: "m", "°", "%"
    double low = 0, high = 1;  // as kept, both included
    double shown = 1;          // factor from what is kept to what is shown
    int decimals = 0;          // as shown
    bool logarithmic = false;  // the slider gives small values room
    bool whole = false;        // whole numbers only
    double reach = 0;          // where the slider ends when not at the range, as kept; 0: at the range
    std::span<const Choice> choices = {};
    double (*get)(const StrokeSettings&) = nullptr;  // NaN: a maybe that is not set
    void (*set)(StrokeSettings&, double) = nullptr;
    bool (*applies)(const StrokeSettings&) = nullptr;         // null: always
    double first = std::numeric_limits<double>::quiet_NaN();  // a maybe: what it is when it is set; NaN: the ground
                                                              // under the cursor
};

// Settings that every tool has, in the order of files. The strength is not among them: its range is the tool's.
std::span<const Setting* const> commonSettings();
// Settings that single tools have.
std::span<const Setting* const> ownSettings();

// Of single tools, for tools to list and tests to name.
namespace settings {
extern const Setting smoothing, remains, earthwork, height, step, riser, angle, scale, amplitude, octaves, noiseSign,
    seed, breakBy, restore, from, colour, target, onHundred, everyKind, times, ofKind;
extern const Setting rate, share;  // the strength: metres, or a share of the way
}  // namespace settings

}  // namespace jam
