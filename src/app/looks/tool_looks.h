// How each tool looks in the window: one line beside its description in the core (tools/tool.h).
#pragma once

#include <QByteArray>

#include "brush/stroke.h"

namespace jam {

struct ToolLook {
    Tool tool;
    const char* station;  // the station on whose bench it lies
    const char* icon;
    const char* key;    // usual
    const char* label;  // where there is little room; null: the tool's title
};

// In the order of the tools.
const ToolLook& lookOf(Tool tool);
inline QByteArray stationOf(Tool tool) { return lookOf(tool).station; }

}  // namespace jam
