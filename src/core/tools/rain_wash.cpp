// Rain wash: drops carry ground downhill.
#include "shape/rain_wash.h"
#include "base/noise.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec rainWash() {
    return {.name = "rain-wash",
            .title = "Rain wash",
            .settings = {{&settings::seed}},
            .strength = 0.5f,
            // Each stamp rains elsewhere.
            .ground = [](const StampSite& site, const Dab& dab, const Touch& t) {
                return rainWashGround(site, dab, t.share, hashPoint(t.index, 17, t.settings.seed));
            }};
}

}  // namespace jam::tools
