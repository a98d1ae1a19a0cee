// Raise and lower: the ground moves by metres a second.
#include "shape/raise.h"
#include "brush/stamp_placer.h"
#include "tools/tool.h"

namespace jam::tools {

namespace {

// Metres of one stamp.
float metresOf(const Touch& t) { return t.share * (t.settings.flow ? static_cast<float>(kStampSeconds) : 1.f); }

}  // namespace

ToolSpec raise() {
    return {.name = "raise",
            .title = "Raise",
            .rate = true,
            .inverse = Tool::lower,
            .strength = 6,
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return raiseGround(site, dab, metresOf(t));
            }};
}

ToolSpec lower() {
    return {.name = "lower",
            .title = "Lower",
            .rate = true,
            .direction = -1,
            .inverse = Tool::raise,
            .strength = 6,
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return raiseGround(site, dab, -metresOf(t));
            }};
}

}  // namespace jam::tools
