// Terrace: turns slopes into steps.
#pragma once

#include "shape/sculpt.h"

namespace jam {

struct Terraces {
    float step = 4;      // metres between treads, which lie at whole multiples of it
    float riser = 0.3f;  // share of a step that rises; 0 is a wall, 1 a soft wave, [0, 1]
};

// The height that a height comes to: flat over 1 - riser of each step, then smoothly up to the next one.
// Never decreasing; whole multiples of the step stay where they are.
float terraced(float height, const Terraces& terraces);

// Moves each sample by share * falloff of its way to its terraced height, as the stroke found it.
Region terraceGround(const StampSite& site, const Dab& dab, float share, const Terraces& terraces);

}  // namespace jam
