// Plant, thin, clear, size and restyle: how densely kinds stand, how large, and which they are.
#include <utility>

#include "dress/density.h"
#include "dress/restyle.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec plant() {
    return {.name = "plant",
            .title = "Plant",
            .changes = Changes::plantings,
            .inverse = Tool::thin,
            .needs = {.kind = true},
            .settings = {{&settings::onHundred}},
            .radius = 15,
            .softness = 0.6f,
            .cover =
                [](Level& level, const Dab& dab, const Touch& t) {
                    return plantKind(level, dab, t.share, t.settings.kind, storedDensity(t.settings.onHundred));
                },
            .holdsKind = true};
}

ToolSpec thin() {
    return {.name = "thin",
            .title = "Thin out",
            .changes = Changes::plantings,
            .inverse = Tool::plant,
            .needs = {.kind = true},
            .radius = 15,
            .softness = 0.6f,
            .cover = [](Level& level, const Dab& dab,
                        const Touch& t) { return thinKind(level, dab, t.share, t.settings.kind); },
            .holdsKind = true};
}

ToolSpec resize() {
    return {.name = "resize",
            .title = "Resize",
            .changes = Changes::plantings,
            .turn = [](StrokeSettings& s) { s.times = 1 / s.times; },
            .needs = {.kind = true},
            .settings = {{&settings::times}},
            .radius = 15,
            .softness = 0.6f,
            .cover =
                [](Level& level, const Dab& dab, const Touch& t) {
                    return sizeKind(level, dab, t.share, t.settings.kind, static_cast<double>(t.settings.times));
                }};
}

ToolSpec restyle() {
    return {.name = "restyle",
            .title = "Restyle",
            .changes = Changes::plantings,
            .turn =
                [](StrokeSettings& s) {
                    if (s.ofKind) std::swap(s.kind, s.ofKind);
                },
            .needs = {.kind = true, .singles = true},
            .settings = {{&settings::ofKind}},
            .radius = 10,
            .strength = 1,
            .softness = 0.2f,
            .cover =
                [](Level& level, const Dab& dab, const Touch& t) {
                    return jam::restyle(level, dab, t.share, t.settings.kind, t.settings.ofKind, *t.stood, t.index);
                }};
}

ToolSpec clearAway() {
    return {.name = "clear-away",
            .title = "Clear away",
            .changes = Changes::plantings,
            .settings = {{&settings::everyKind}},
            .radius = 10,
            .strength = 1,
            .softness = 0.2f,
            .cover = [](Level& level, const Dab& dab, const Touch& t) {
                return clearKinds(level, dab, t.settings.everyKind ? 0 : t.settings.kind);
            }};
}

}  // namespace jam::tools
