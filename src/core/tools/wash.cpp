// Wash and rinse: colour over the ground, laid and taken away.
#include "cover/wash.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec wash() {
    return {.name = "wash",
            .title = "Wash",
            .changes = Changes::wash,
            .inverse = Tool::rinse,
            .settings = {{&settings::colour}},
            .radius = 30,
            .strength = 0.12f,
            .cover = [](Level& level, const Dab& dab, const Touch& t) {
                return washGround(level, dab, t.share, t.settings.colour);
            }};
}

ToolSpec rinse() {
    return {.name = "rinse",
            .title = "Rinse",
            .changes = Changes::wash,
            .inverse = Tool::wash,
            .radius = 30,
            .strength = 0.12f,
            .cover = [](Level& level, const Dab& dab, const Touch& t) { return rinseGround(level, dab, t.share); }};
}

}  // namespace jam::tools
