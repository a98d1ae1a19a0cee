#include "grid/ground_rows.h"

namespace jam {

extern const GroundRows ground_rows_plain;
#ifdef JAM_HAVE_V3
extern const GroundRows ground_rows_v3;
#endif

const GroundRows& plainGroundRows() { return ground_rows_plain; }

const GroundRows& groundRows() {
#ifdef JAM_HAVE_V3
    static const bool modern = __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma");
    if (modern) return ground_rows_v3;
#endif
    return ground_rows_plain;
}

}  // namespace jam
