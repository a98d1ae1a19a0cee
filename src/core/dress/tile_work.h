// One tile of one kind: which places of the pattern, or of its rows, are taken there.
#pragma once

#include "dress/plantings.h"

namespace jam {

// In the order of the pattern, then singles by ids. Asks `all` for tiles of the kinds that it keeps off.
std::vector<Planting> plantTile(Plantings& all, size_t kind, int tx, int tz);

}  // namespace jam
