// Pull to slope: nothing stays steeper than an angle.
#include "shape/slope_limit.h"
#include "tools/earthwork.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec slope() {
    return {.name = "slope",
            .title = "Pull to slope",
            .turn = turnEarthwork,
            .settings = {{&settings::earthwork}, {&settings::angle, 30.0}},
            .softness = 0.5f,
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return limitSlope(site, dab, t.share, t.settings.angle, t.settings.earthwork);
            }};
}

}  // namespace jam::tools
