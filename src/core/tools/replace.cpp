// Replace: one layer takes the place of another under the brush.
#include <algorithm>

#include "cover/mix.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec replace() {
    return {
        .name = "replace",
        .title = "Replace",
        .changes = Changes::coverage,
        .needs = {.layer = true, .other = true},
        .settings = {{&settings::from}},
        .radius = 10,
        .softness = 0.6f,
        .cover = [](Level& level, const Dab& dab,
                    const Touch& t) { return replaceUnder(level, dab, t.share, t.settings.from, t.settings.layer); },
        // The mix between the two changes too.
        .holds = [](int layer, int own,
                    int from) { return layer >= std::min(own, from) && layer <= std::max(own, from); }};
}

}  // namespace jam::tools
