// Smooth: draws the ground towards the mean around each sample.
#include "shape/smooth.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec smooth() {
    return {.name = "smooth",
            .title = "Smooth",
            .settings = {{&settings::smoothing}},
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return smoothGround(site, dab, t.share, t.settings.smoothing * dab.radius);
            }};
}

}  // namespace jam::tools
