// The level file: a zip of plain parts, described in docs/format.md.
#pragma once

#include <filesystem>
#include <functional>

#include "base/context.h"
#include "base/heap.h"
#include "level/level.h"

namespace jam {

constexpr int kLevelVersion = 9;
constexpr int kLargestTexture = 8192;               // samples along a side of a layer's picture
constexpr uint64_t kMostPictureBytes = 512u << 20;  // of its file

// Where saving leaves the save before: beside it, with a ~ behind its name.
std::filesystem::path backupOf(const std::filesystem::path& level);

// Writes beside `path`, reads back what was written, leaves what lay at `path` as backupOf(), and renames over it, so
// that the old file stays until the new one is whole. Errors: disk trouble in words; what reading would refuse, which
// is asked first; cancelled. The file at `path` is then as it was. `soon` is called right before the new file takes its
// place, with what will be its fileIdentity().
Status saveLevel(const Level& level, const std::filesystem::path& path, const Context& context = {},
                 const std::function<void(const std::string& identity)>& soon = {});

// Errors: anything about the file that is not as docs/format.md says, naming the part and the field; all of its parts
// together take more than `memory` bytes. Sizes are tested before any memory is taken.
Result<Level> loadLevel(const std::filesystem::path& path, const Context& context = {},
                        uint64_t memory = machineMemory());
// The name of the level in a file, without reading the rest of it. Errors: as loadLevel().
Result<std::string> levelName(const std::filesystem::path& path);

}  // namespace jam
