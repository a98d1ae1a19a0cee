// How checks put numbers and counts.
#pragma once

#include <cstdio>
#include <string>

namespace jam {

inline std::string metres(double value, int decimals) {
    char text[64];
    std::snprintf(text, sizeof text, "%.*f m", decimals, value);
    return text;
}

inline std::string degrees(double value) { return std::to_string(static_cast<int>(value + 0.5)) + "°"; }

// "1 trap", "3 traps".
inline std::string counted(size_t count, const std::string& one, const std::string& many) {
    return std::to_string(count) + " " + (count == 1 ? one : many);
}

}  // namespace jam
