// Names of files for layers.
#pragma once

#include "files/weights_file.h"
#include "level/level.h"

namespace jam {

// "03-dry-stone-wall"
inline std::string numberedName(const Level& level, size_t layer) {
    const std::string n = std::to_string(layer + 1);
    return std::string(n.size() < 2 ? "0" : "") + n + "-" + plainName(level.layers[layer].name);
}

}  // namespace jam
