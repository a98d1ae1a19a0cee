#include "base/heap.h"

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

}  // namespace jam
