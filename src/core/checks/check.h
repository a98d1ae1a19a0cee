// Checks of whether a level plays: each looks at what surveys found, and says in words what is not right, where, and
// how it can be mended. Trail, sheets and the command line walk one list; a new check is a file and a line in
// checks.cpp.
#pragma once

#include <array>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "base/context.h"
#include "level/changes.h"
#include "level/things.h"

namespace jam {

struct LevelSurvey;
struct Reach;

// A level and what is known of it.
struct Surveyed {
    const Level& level;
    const LevelSurvey& survey;
    const Reach* reach = nullptr;  // by the body that goes; null when nothing is known of it, as without spots
};

struct Mend {
    std::string what;  // on a button: "Lower it to its brim"
    std::function<Status(Level& level, const Context& context)> change;
};

struct Finding {
    std::string sentence;                          // "Mill pond leaks east, 0.4 m short"
    std::vector<Thing> things = {};                // what it tells of; once one of them is gone, it tells of nothing
    std::optional<std::array<double, 2>> at = {};  // x, z in metres
    std::vector<Mend> mends = {};                  // found again by the things' ids, on whatever level there is then
};

struct Check {
    const char* name;     // on the command line: "leaks"
    const char* station;  // the stage of the work at which it is mended: "water"
    enum class Weight { note, warns } weight;
    // What it looks at, and so what it costs: figures follow every change at once, reach a moment later.
    enum class Looks { figures, reach } looks;
    // Whether a change may have altered what it finds.
    bool (*stale)(const Change& change);
    // The worst first; nothing where what it looks at is not known.
    std::vector<Finding> (*find)(const Surveyed& surveyed);
    // What all that it found comes to, in a few words for the trail.
    std::string (*brief)(const Surveyed& surveyed, const std::vector<Finding>& found);
};

// All of them, those that warn first, and of one station in the order in which they matter.
const std::vector<const Check*>& checks();
const Check* checkNamed(const std::string& name);  // null when there is none

}  // namespace jam
