// Noise: unevenness that nature would leave.
#include "shape/noise_ground.h"
#include "tools/tool.h"

namespace jam::tools {

ToolSpec noise() {
    return {.name = "noise",
            .title = "Noise",
            .turn =
                [](StrokeSettings& s) {
                    if (s.noise != NoiseSign::both)
                        s.noise = s.noise == NoiseSign::up ? NoiseSign::down : NoiseSign::up;
                },
            .settings = {{&settings::scale},
                         {&settings::amplitude},
                         {&settings::octaves},
                         {&settings::noiseSign},
                         {&settings::seed}},
            .ground =
                [](const StampSite& site, const Dab& dab, const Touch& t) {
                    return noiseGround(site, dab, t.share,
                                       {t.settings.scale, t.settings.amplitude, t.settings.octaves, t.settings.noise,
                                        t.settings.seed});
                }};
}

}  // namespace jam::tools
