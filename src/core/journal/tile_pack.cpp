#include "journal/tile_pack.h"

#include <zstd.h>

namespace jam {

namespace {
constexpr int kLevel = 1;  // a step must not keep the next one waiting
Error damaged() { return {"", "", "a part of the journal is damaged", "throw it away, or keep it for later"}; }
}  // namespace

Bytes packed(std::span<const uint8_t> plain) {
    Bytes out(ZSTD_compressBound(plain.size()));
    const size_t n = ZSTD_compress(out.data(), out.size(), plain.data(), plain.size(), kLevel);
    out.resize(ZSTD_isError(n) ? 0 : n);
    return out;
}

Result<Bytes> unpacked(const Bytes& in, size_t size) {
    if (ZSTD_getFrameContentSize(in.data(), in.size()) != size) return damaged();
    Bytes out(size);
    const size_t n = ZSTD_decompress(out.data(), out.size(), in.data(), in.size());
    if (ZSTD_isError(n) || n != size) return damaged();
    return out;
}

Result<std::string> unpackedText(const Bytes& in, size_t most) {
    const unsigned long long size = ZSTD_getFrameContentSize(in.data(), in.size());
    if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN || size > most) return damaged();
    Result<Bytes> bytes = unpacked(in, static_cast<size_t>(size));
    if (!bytes) return bytes.error();
    return std::string(bytes.value().begin(), bytes.value().end());
}

}  // namespace jam
