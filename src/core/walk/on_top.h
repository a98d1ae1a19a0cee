// Singles that stand on what stands below them.
#pragma once

#include "level/level.h"

namespace jam {

// Lifts each of these singles on to the highest top below its foot that carries (walk/solids.h), or lets it down to the
// ground where there is none; those of these ids carry nobody. Errors: one is gone.
Status standOnTop(Level& level, const std::vector<uint32_t>& ids);

}  // namespace jam
