// The tips and brushes that the program starts with.
#pragma once

#include <filesystem>

#include "base/result.h"

namespace jam::samples {

// Writes tips/*.png and brushes/*.json into `folder`.
Status makeSampleBrushes(const std::filesystem::path& folder);

}  // namespace jam::samples
