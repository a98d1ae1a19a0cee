// Ground from a heightmap picture.
#pragma once

#include <filesystem>

#include "files/png.h"
#include "level/level.h"

namespace jam {

struct HeightmapWish {
    double spacing = 1;               // metres between samples
    float black = 0, white = 100;     // metres that the darkest and the brightest value stand for; white > black
};

// A level that is shaped like the picture; the height range is widened by room to dig and build
// (`margin` metres on both sides). The picture lies in the active stratum as a difference to the start height,
// which is `black`. Errors: picture sizes out of range, colour pictures, a range that is empty.
Result<Level> levelFromHeightmap(const Pixels& picture, const std::string& name, const HeightmapWish& wish,
                                 float margin = 50);

// Reads the picture file for it: PNG with 8 or 16 bits, one grey channel or RGB with equal channels.
Result<Pixels> readHeightmap(const std::filesystem::path& path);

}  // namespace jam
