// A heightmap file of every kind that the dialogs name, written by the formats' own libraries.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace jam::test {

struct ElevationFile {
    std::filesystem::path path;
    bool metres;  // its values are metres
    int width, depth;
};

// In metres and grey, flat and hilly, with and without a size of their pixels, oblong pixels, with holes, every kind of
// raw sample; all oblong.
std::vector<ElevationFile> writeElevationFiles(const std::filesystem::path& folder);
// Files with those endings that are none: empty, cut, coloured, text.
std::vector<std::filesystem::path> writeBrokenFiles(const std::filesystem::path& folder);

}  // namespace jam::test
