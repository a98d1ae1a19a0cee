// Even out: leaves a share of the relief, however often the stroke passes.
#include "shape/even_out.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec evenOut() {
    return {.name = "even-out",
            .title = "Even out",
            .settings = {{&settings::remains}},
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return evenOutGround(site, dab, t.share, t.settings.remains);
            }};
}

}  // namespace jam::tools
