// The water of Damson Down: the mill stream, its valley and pond, and a dew pond.
#pragma once

#include "sculptor.h"

namespace jam::samples {

// The valley of the stream: an even floor that falls to the pond, and the hollows of both ponds.
void shapeValley(Hand& hand);
// The stream, on posts of its own, below the cart course's bank and over a fall at the mill into the pond.
void letWaterIn(Hand& hand);
// The id of its bed's stratum, or 0.
uint32_t streamBed(const Level& level);
// When all ground is made: the dew pond, filled until it very nearly runs over.
void fillDewPond(Level& level);

}  // namespace jam::samples
