#include "looks/tool_looks.h"

#include <array>

namespace jam {

namespace {

constexpr std::array kLooks = {
    ToolLook{Tool::raise, "shape", "raise", "1", nullptr},
    ToolLook{Tool::lower, "shape", "lower", "2", nullptr},
    ToolLook{Tool::smooth, "shape", "smooth", "3", nullptr},
    ToolLook{Tool::evenOut, "shape", "even-out", "4", nullptr},
    ToolLook{Tool::flatten, "shape", "flatten", "5", nullptr},
    ToolLook{Tool::terrace, "shape", "terrace", "6", nullptr},
    ToolLook{Tool::slope, "shape", "slope", "7", "To slope"},
    ToolLook{Tool::noise, "shape", "noise", "8", nullptr},
    ToolLook{Tool::crumble, "shape", "crumble", "9", nullptr},
    ToolLook{Tool::rainWash, "shape", "rain-wash", "0", "Rain"},
    ToolLook{Tool::restore, "shape", "restore", "R", nullptr},
    ToolLook{Tool::openUp, "shape", "open", "O", nullptr},
    ToolLook{Tool::closeUp, "shape", "close", "Shift+O", nullptr},
    ToolLook{Tool::takeLand, "shape", "take-land", "M", nullptr},
    ToolLook{Tool::addLand, "shape", "add-land", "Shift+M", nullptr},
    ToolLook{Tool::paint, "cover", "paint", "N", nullptr},
    ToolLook{Tool::erase, "cover", "erase", "Shift+N", nullptr},
    ToolLook{Tool::soften, "cover", "soften", "I", nullptr},
    ToolLook{Tool::carry, "cover", "carry", "U", nullptr},
    ToolLook{Tool::breakUp, "cover", "break-up", "Y", nullptr},
    ToolLook{Tool::replace, "cover", "replace", "X", nullptr},
    ToolLook{Tool::byRule, "cover", "by-rule", "Z", "By rule"},
    ToolLook{Tool::wash, "cover", "wash", "J", nullptr},
    ToolLook{Tool::rinse, "cover", "rinse", "Shift+J", nullptr},
    ToolLook{Tool::plant, "dress", "plant", "Shift+Z", nullptr},
    ToolLook{Tool::thin, "dress", "thin", "Shift+X", nullptr},
    ToolLook{Tool::clearAway, "dress", "clear-away", "Shift+C", "Clear"},
    ToolLook{Tool::resize, "dress", "resize", "Shift+L", nullptr},
    ToolLook{Tool::restyle, "dress", "restyle", "Shift+Y", nullptr},
};

constexpr bool inOrder() {
    for (size_t i = 0; i < kLooks.size(); ++i)
        if (static_cast<size_t>(kLooks[i].tool) != i) return false;
    return true;
}
static_assert(kLooks.size() == kTools && inOrder(), "every tool has one line here, in the order of brush/tool_list.h");

}  // namespace

const ToolLook& lookOf(Tool tool) { return kLooks[static_cast<size_t>(tool)]; }

}  // namespace jam
