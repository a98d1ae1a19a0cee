#include "brush/rows.h"

namespace jam {

extern const RowKernels rows_plain;
#ifdef JAM_HAVE_V3
extern const RowKernels rows_v3;
#endif

const RowKernels& plainRowKernels() { return rows_plain; }

const RowKernels& rowKernels() {
#ifdef JAM_HAVE_V3
    static const bool modern = __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma");
    if (modern) return rows_v3;
#endif
    return rows_plain;
}

}  // namespace jam
