// By rule: a layer lies where its rules say, under the brush. It is also the way to give ground back to living rules.
#include "cover/rules.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec byRule() {
    return {.name = "by-rule",
            .title = "Lay by rule",
            .changes = Changes::coverage,
            .needs = {.layer = true, .above = true, .whyAbove = "rules are for the layers over it", .rules = true},
            .radius = 10,
            .softness = 0.6f,
            .cover = [](Level& level, const Dab& dab, const Touch& t) {
                return ruleCover(level, t.origin, dab, t.share, t.settings.layer);
            }};
}

}  // namespace jam::tools
