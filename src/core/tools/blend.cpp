// What works on the edges between layers: soften, carry, break up.
#include "tools/tool.h"

namespace jam::tools {

namespace {

bool holdsAll(int, int, int) { return true; }

Region breakUpEdges(Level& level, const Dab& dab, const Touch& t) {
    const StrokeSettings& s = t.settings;
    const Layer* layer = t.origin.layer(s.layer);
    if (s.breakBy == BreakBy::height && t.layerHeight && layer)
        return breakUpCover(level, t.origin, dab, t.share, s.layer, heightPattern(t.origin, *layer, *t.layerHeight));
    if (s.breakBy == BreakBy::tip && dab.picture) {
        // The picture says what breaks; how strongly, the round brush, or what limits leave of it.
        Dab strength = dab, picture = dab;
        picture.shares = nullptr;
        if (!dab.shares) strength.shape = TipShape::round;
        return breakUpCover(level, t.origin, strength, t.share, s.layer, tipPattern(picture));
    }
    return breakUpCover(level, t.origin, dab, t.share, s.layer, noisePattern(t.origin, s.scale, s.seed));
}

}  // namespace

ToolSpec soften() {
    return {.name = "soften",
            .title = "Soften",
            .changes = Changes::coverage,
            .settings = {{&settings::smoothing, 0.2}},
            .radius = 10,
            .softness = 0.6f,
            .cover = [](Level& level, const Dab& dab,
                        const Touch& t) { return softenCover(level, dab, t.share, t.settings.smoothing * dab.radius); },
            .holds = holdsAll};
}

ToolSpec carry() {
    return {.name = "carry",
            .title = "Carry",
            .changes = Changes::coverage,
            .radius = 10,
            .softness = 0.6f,
            .cover = [](Level& level, const Dab& dab,
                        const Touch& t) { return carryCover(level, dab, t.share, t.carried); },
            .begin = [](const Level& level, double x, double z, StrokeSettings&,
                        CoverMix& mix) { mix = coverMixAt(level, x, z); },
            .holds = holdsAll};
}

ToolSpec breakUp() {
    return {.name = "break-up",
            .title = "Break up",
            .changes = Changes::coverage,
            .needs = {.layer = true, .above = true, .whyAbove = "it has no edges to break up"},
            .settings = {{&settings::breakBy}, {&settings::scale, 3.0}, {&settings::seed}},
            .radius = 10,
            .softness = 0.6f,
            .cover = breakUpEdges,
            .holds = [](int layer, int own, int) { return layer == own; }};
}

}  // namespace jam::tools
