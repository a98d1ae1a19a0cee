#include "files/tiff_memory.h"

#include <algorithm>
#include <cstring>
#include <new>

namespace jam {

namespace {

tmsize_t readMemory(thandle_t h, void* to, tmsize_t n) {
    auto* m = static_cast<TiffMemory*>(h);
    if (n < 0 || m->at >= m->bytes.size()) return 0;
    const size_t some = std::min(static_cast<size_t>(n), static_cast<size_t>(m->bytes.size() - m->at));
    std::memcpy(to, m->bytes.data() + m->at, some);
    m->at += some;
    return static_cast<tmsize_t>(some);
}
tmsize_t writeMemory(thandle_t h, void* from, tmsize_t n) {
    auto* m = static_cast<TiffMemory*>(h);
    const size_t end = m->at + static_cast<size_t>(n);
    // Nothing may be thrown through the library.
    try {
        if (m->bytes.size() < end) m->bytes.resize(end);
    } catch (const std::bad_alloc&) {
        return -1;
    }
    std::memcpy(m->bytes.data() + m->at, from, static_cast<size_t>(n));
    m->at = end;
    return n;
}
toff_t seekMemory(thandle_t h, toff_t to, int whence) {
    auto* m = static_cast<TiffMemory*>(h);
    m->at = whence == SEEK_SET ? to : whence == SEEK_CUR ? m->at + to : m->bytes.size() + to;
    return m->at;
}
int closeMemory(thandle_t) { return 0; }
toff_t sizeMemory(thandle_t h) { return static_cast<TiffMemory*>(h)->bytes.size(); }

}  // namespace

Tiff openTiff(TiffMemory& memory, const char* mode) {
    // Messages of the library would go to the terminal; errors come back as results instead.
    [[maybe_unused]] static const bool quiet = (TIFFSetErrorHandler(nullptr), TIFFSetWarningHandler(nullptr), true);
    return Tiff(TIFFClientOpen("heights", mode, &memory, readMemory, writeMemory, seekMemory, closeMemory, sizeMemory,
                               nullptr, nullptr));
}

}  // namespace jam
