// Wash: colour painted over the ground, whatever layer lies there.
#pragma once

#include "brush/dab.h"

namespace jam {

using WashColour = std::array<float, 3>;  // sRGB, [0, 1]

// The linear light of a wash's colour.
std::array<float, 3> washLight(const Wash& wash);

// Lays colour over the ground, by share * falloff of all it can be, over the wash that is there. Strength moves by at
// least one of its 65,535 steps. The dab counts in ground samples. Returns the ground samples it may have changed.
Region washGround(Level& level, const Dab& dab, float share, const WashColour& colour);
// Takes share * falloff of the wash away; its colour stays.
Region rinseGround(Level& level, const Dab& dab, float share);

}  // namespace jam
