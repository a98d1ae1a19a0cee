// Flatten: brings the ground to one height, by filling, cutting or both.
#include "shape/flatten.h"
#include "level/ground.h"
#include "tools/earthwork.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec flatten() {
    return {.name = "flatten",
            .title = "Flatten",
            .turn = turnEarthwork,
            .settings = {{&settings::earthwork}, {&settings::height}},
            .softness = 0.5f,
            .ground =
                [](const StampSite& site, const Dab& dab, const Touch& t) {
                    return flattenGround(site, dab, t.share, *t.settings.height, t.settings.earthwork);
                },
            // Without a set height, the ground under the first touch counts.
            .begin =
                [](const Level& level, double x, double z, StrokeSettings& s, CoverMix&) {
                    if (!s.height) s.height = static_cast<float>(altitudeAt(level, x, z));
                }};
}

}  // namespace jam::tools
