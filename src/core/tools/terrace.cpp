// Terrace: turns slopes into steps.
#include "shape/terrace.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec terrace() {
    return {.name = "terrace",
            .title = "Terrace",
            .settings = {{&settings::step}, {&settings::riser}},
            .softness = 0.5f,
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return terraceGround(site, dab, t.share, {t.settings.step, t.settings.riser});
            }};
}

}  // namespace jam::tools
