// The numbers of a few settings, described once: command line, fields and checks read their ranges here.
#pragma once

#include <string>

#include "base/range.h"

namespace jam {

template <class Settings>
struct Numbered {
    const char* name;   // in messages and on the command line
    const char* title;  // on the screen
    float Settings::*value;
    double low, high;
    const char* unit;  // as shown: "m"
    int decimals;      // as shown
};

// Errors: the first that is out of its range, by its name.
template <class Settings, size_t count>
Status checkNumbers(const Settings& settings, const Numbered<Settings> (&all)[count]) {
    for (const Numbered<Settings>& n : all)
        if (const Status s = checkRange(n.name, settings.*n.value, n.low, n.high, " " + std::string(n.unit)); !s)
            return s;
    return {};
}

}  // namespace jam
