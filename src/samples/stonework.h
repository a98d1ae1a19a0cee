// Dry-stone walls: the piece that comes with the program as a clip, and where Damson Down has them.
#pragma once

#include <filesystem>

#include "level/level.h"

namespace jam::samples {

// Nine metres of wall with a sample every half metre, on flat ground; its fence is its shape.
// Precondition: `layers` have one that is called "Limestone".
Result<Level> makeWallSegment(const std::vector<Layer>& layers);
// A picture of it from above for the list of clips, shaded.
Status saveClipPicture(const Level& clip, const std::filesystem::path& path);

}  // namespace jam::samples
