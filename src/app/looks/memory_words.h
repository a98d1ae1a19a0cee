// What the program will need for a level, told before it is made.
#pragma once

#include "level/level.h"

namespace jam {

// Megabytes of the whole program with such a level in the window, when all of it is sculpted and `painted` of `layers`
// layers are painted all over. Pictures of layers count with all.
int megabytesFor(const NewLevel& wish, int painted, int layers);

}  // namespace jam
