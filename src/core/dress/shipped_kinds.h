// The kinds that come with the program: what stands in an orchard on a down.
#pragma once

#include <vector>

#include "level/kind.h"

namespace jam {

// Each with a name of its own; standing nowhere, as addKind() takes it.
const std::vector<Kind>& shippedKinds();

}  // namespace jam
