// Crumble: what is too steep slides down.
#include "shape/crumble.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec crumble() {
    return {.name = "crumble",
            .title = "Crumble",
            .settings = {{&settings::angle, {}, "The steepest that loose ground lies without sliding."}},
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return crumbleGround(site, dab, t.share, t.settings.angle);
            }};
}

}  // namespace jam::tools
