// Strokes as JSON, described in docs/cli.md.
#pragma once

#include <filesystem>

#include "brush/stroke.h"
#include "files/tip_file.h"
#include "level/level.h"

namespace jam {

// Layers are named in the file and looked up in `level`; tips are looked up in `tips` unless the file carries them.
// Errors: not JSON, a field missing or out of range (named, "strokes[3].radius"), an unknown layer.
Result<std::vector<Stroke>> readStrokes(const std::filesystem::path& path, const Level& level,
                                        const std::vector<TipPtr>& tips = {});
Result<std::vector<Stroke>> parseStrokes(const std::string& text, const std::string& file, const Level& level,
                                         const std::vector<TipPtr>& tips = {});
std::string writeStrokes(const std::vector<Stroke>& strokes, const Level& level);

}  // namespace jam
