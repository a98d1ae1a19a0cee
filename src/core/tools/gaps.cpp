// Open and close: holes in the land. Take land and add land: where the level has none at all.
#include "shape/gaps.h"
#include "tools/tool.h"

namespace jam::tools {

namespace {

ToolSpec gapTool(const char* name, const char* title, int direction, Tool inverse, CoverKernel kernel, float radius) {
    // The edge runs half way down the falloff, so a steep one makes the hole nearly as large as the brush.
    return {.name = name,
            .title = title,
            .changes = Changes::gaps,
            .direction = direction,
            .inverse = inverse,
            .radius = radius,
            .strength = 1,
            .softness = 0.25f,
            .cover = kernel};
}

}  // namespace

ToolSpec openUp() {
    return gapTool(
        "open-up", "Open", -1, Tool::closeUp,
        [](Level& level, const Dab& dab, const Touch&) { return takeGround(level, dab, &Level::opening); }, 4);
}

ToolSpec closeUp() {
    return gapTool(
        "close-up", "Close", 1, Tool::openUp,
        [](Level& level, const Dab& dab, const Touch&) { return giveGround(level, dab, &Level::opening); }, 4);
}

ToolSpec takeLand() {
    return gapTool(
        "take-land", "Take land", -1, Tool::addLand,
        [](Level& level, const Dab& dab, const Touch&) { return takeGround(level, dab, &Level::noLand); }, 40);
}

ToolSpec addLand() {
    return gapTool(
        "add-land", "Add land", 1, Tool::takeLand,
        [](Level& level, const Dab& dab, const Touch&) { return giveGround(level, dab, &Level::noLand); }, 40);
}

}  // namespace jam::tools
