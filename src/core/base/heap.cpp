#include "base/heap.h"

#include <unistd.h>

#ifdef __GLIBC__
#include <malloc.h>
#endif

namespace jam {

void giveBackLargeRasters() {
#ifdef __GLIBC__
    // What is smaller is asked for again and again while one works, and is faster kept.
    constexpr int kLarge = 4 << 20;
    mallopt(M_MMAP_THRESHOLD, kLarge);
    mallopt(M_TRIM_THRESHOLD, 2 * kLarge);
#endif
}

uint64_t machineMemory() {
    const long pages = ::sysconf(_SC_PHYS_PAGES), page = ::sysconf(_SC_PAGESIZE);
    return pages > 0 && page > 0 ? static_cast<uint64_t>(pages) * static_cast<uint64_t>(page) : UINT64_MAX;
}

}  // namespace jam
