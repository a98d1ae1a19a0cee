// What a level takes when it is drawn.
#pragma once

#include "level/level.h"

namespace jam {

// Bytes that drawing a level of this size with so many layers takes beside the level itself: its textures, the layers'
// pictures, and the light on its ground. With software drawing they are memory of the program.
size_t drawingMemory(const NewLevel& wish, int layers);

}  // namespace jam
