// How a tile, and a text, lie in the journal: packed by zstd. A journal is read by the machine that wrote it, so
// samples are as they lie in memory.
#pragma once

#include <cstring>
#include <span>
#include <string>
#include <type_traits>

#include "base/result.h"
#include "files/disk.h"

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

}  // namespace jam
