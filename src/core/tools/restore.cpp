// Restore: brings the ground back to what it was.
#include "shape/restore.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec restore() {
    return {.name = "restore",
            .title = "Restore",
            .needs = {.reference = true},
            .settings = {{&settings::restore}},
            .softness = 0.6f,
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return restoreGround(site, dab, t.share,
                                     t.settings.restore == RestoreTo::reference ? t.reference : nullptr);
            }};
}

}  // namespace jam::tools
