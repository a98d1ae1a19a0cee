// The layers that ship with the program.
#pragma once

#include <filesystem>

#include "base/result.h"

namespace jam::samples {

// Writes one folder per layer below `folder`, numbered in the order of the list in the program; what lay there goes.
Status makeSampleLayers(const std::filesystem::path& folder);

}  // namespace jam::samples
