// Recorded walks as JSON, described in docs/format.md.
#pragma once

#include <filesystem>

#include "base/result.h"
#include "walk/recording.h"

namespace jam {

// Errors: not JSON, a field missing or out of range (named, "runs[3]"), too many steps, and what checkRecord() says.
Result<WalkRecord> readWalk(const std::filesystem::path& path, const Level& level);
Result<WalkRecord> parseWalk(const std::string& text, const std::string& file, const Level& level);
std::string walkText(const WalkRecord& record);
Status writeWalk(const WalkRecord& record, const std::filesystem::path& path);

}  // namespace jam
