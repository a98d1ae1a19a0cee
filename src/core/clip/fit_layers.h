// How the layers of a clip become those of the level that it is set down in.
#pragma once

#include "base/context.h"
#include "level/level.h"

namespace jam {

// Gives `clip` the layers of `level`, in its order and with its ids. Layers are the same when they have the same name;
// those that the level lacks and that show anywhere in the clip are added to it, on top. Coverages stay to the bit
// where both have their layers in the same order; otherwise they are found anew so that the weights stay to the bit
// (cover/mix.h). Nothing happens when the clip has no layers. Errors: too many layers.
Status fitLayers(Level& level, Level& clip);

}  // namespace jam
