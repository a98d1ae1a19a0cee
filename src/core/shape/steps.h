// Ground that was measured or kept in whole steps, and samples that stand out of it: found and mended.
#pragma once

#include "base/context.h"
#include "grid/view.h"

namespace jam {

// What a stepped ground looks like: many neighbours exactly level, and between the others one smallest difference.
struct Steps {
    double level = 0;  // share of neighbouring pairs that are exactly level
    float height = 0;  // metres; 0 when there are no two different heights
    bool stepped() const { return level > 0.4 && height > 0; }
};
Steps surveySteps(View<const float> ground);

// Draws ground smooth that was rounded to whole steps, no sample further than half a step from where it was: gentle
// slopes come back, and edges much higher than a step stay.
bool softenSteps(Raster<float>& ground, float step, const Context& context = {});
// Samples that stand out of the median of their eight neighbours by more than `spike` metres are brought to it.
bool removeSpikes(Raster<float>& ground, float spike, const Context& context = {});

}  // namespace jam
