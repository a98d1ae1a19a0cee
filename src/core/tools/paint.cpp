// Paint and erase: a layer's coverage, raised and lowered.
#include "cover/paint.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec paint() {
    return {
        .name = "paint",
        .title = "Paint",
        .changes = Changes::coverage,
        .inverse = Tool::erase,
        .needs = {.layer = true},
        .settings = {{&settings::target}},
        .radius = 10,
        .softness = 0.6f,
        .cover = [](Level& level, const Dab& dab,
                    const Touch& t) { return paintLayer(level, dab, t.share, t.settings.layer, t.settings.target); },
        // Painting thins what lies above.
        .holds = [](int layer, int own, int) { return layer >= own; }};
}

ToolSpec erase() {
    return {.name = "erase",
            .title = "Erase",
            .changes = Changes::coverage,
            .inverse = Tool::paint,
            .needs = {.layer = true, .above = true, .whyAbove = "there is nothing below it to uncover"},
            .radius = 10,
            .softness = 0.6f,
            .cover = [](Level& level, const Dab& dab,
                        const Touch& t) { return eraseLayer(level, dab, t.share, t.settings.layer); },
            .holds = [](int layer, int own, int) { return layer == own; }};
}

}  // namespace jam::tools
