// Layers from picture files, and the set that ships with the program.
#pragma once

#include <filesystem>

#include "level/level.h"

namespace jam {

// A layer whose colour is the given PNG; the other maps are derived when drawn.
// Errors: unreadable, not a PNG, larger than 8192 along a side.
Result<Layer> layerFromPicture(const std::filesystem::path& path);
Result<Layer> layerFromPicture(std::vector<uint8_t> png, const std::string& fileName);

// The layers of a set: each subfolder with a layer.json (name, tileSize, blend) and colour.png, and where there
// are any normal.png, roughness.png, height.png; in order of the folders' names.
Result<std::vector<Layer>> readLayerSet(const std::filesystem::path& folder);

// The folder of the shipped data (layers/, demo/, fonts/, icons/): $JAMHILL_SHARE, or ../share/jamhill or share
// beside the program. Empty when there is none.
std::filesystem::path shareFolder();

}  // namespace jam
