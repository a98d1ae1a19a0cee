// How a tile, and a text, lie in the journal, and how its raster is called: packed by zstd. A journal is read by the
// machine that wrote it, so samples are as they lie in memory.
#pragma once

#include <map>
#include <span>
#include <string>

#include "base/result.h"
#include "files/disk.h"
#include "level/rasters.h"

namespace jam {

Bytes packed(std::span<const uint8_t> plain);
// Errors: damaged, or not exactly so many bytes.
Result<Bytes> unpacked(const Bytes& packed, size_t size);
// Of a text of at most `most` bytes.
Result<std::string> unpackedText(const Bytes& packed, size_t most);

// The name of a raster in the journal, whatever its samples.
template <class Kind>
std::string journalName(const Kind& kind, uint32_t id) {
    return std::string(kind.name) + "/" + std::to_string(id);
}

// Where each raster of a level lies, by that name.
inline std::map<std::string, const void*> gridsOf(const Level& level) {
    std::map<std::string, const void*> all;
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t id, const auto& grid) {
        all[journalName(kind, id)] = &grid;
    });
    return all;
}
template <class Grid>
bool sameShape(const Grid& a, const Grid& b) {
    return a.columns() == b.columns() && a.rows() == b.rows() && a.defaultValue() == b.defaultValue();
}

}  // namespace jam
