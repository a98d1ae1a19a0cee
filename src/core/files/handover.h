// Hand over: the level in open formats, with a manifest that says every size, range and axis.
#pragma once

#include <filesystem>
#include <string>

#include "base/context.h"
#include "level/level.h"

namespace jam {

struct HandoverWish {
    bool heightmap = true;          // heightmap.png, 16 bits
    bool fitRange = true;           // black and white are the lowest and highest ground; otherwise the level's range
    bool weightSets = true;         // weights-1.png ..., RGBA, four layers each
    bool weightPerLayer = true;     // weight-<nn>-<name>.png, grey
    int weightBits = 8;             // 8 or 16
    std::string channels = "RGBA";  // in which channel of a set each of four layers goes: an order of R, G, B and A
    bool groundMask = true;         // ground.png, 8 bits, where the level has gaps (level/opening.h)
    bool water = true;              // water-depth.png, 16 bits, and water.png, 8 bits, where the level has water
    bool pictures = true;           // layers/<nn>-<name>/<map>.png, as they came
};

// Writes into `folder`, which is made when missing. All files are written beside their goals first and renamed
// together at the end, so that trouble leaves no half set. Returns the names of the files.
// Errors: nothing chosen, disk trouble, cancelled.
Result<std::vector<std::string>> handOver(const Level& level, const std::filesystem::path& folder,
                                          const HandoverWish& wish, const Context& context = {});

// The manifest's text, as docs/format.md describes it.
std::string manifestText(const Level& level, const HandoverWish& wish, float black, float white);

}  // namespace jam
