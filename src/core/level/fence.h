// A fence: a soft mask over the ground that limits what brushes and commands may touch.
#pragma once

#include <cstdint>
#include <string>

#include "grid/tiled_grid.h"

namespace jam {

// One sample for each of the ground: 0 nothing, kInside everything. Default 0.
using Fence = TiledGrid<uint16_t>;
constexpr uint16_t kInside = 65535;

// A fence under a name, for later.
struct KeptFence {
    uint32_t id = 0;
    std::string name;
    Fence mask;

    bool operator==(const KeptFence&) const = default;
};
constexpr size_t kMaxFences = 64;

}  // namespace jam
