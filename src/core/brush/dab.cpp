#include "brush/dab.h"

#include <cmath>

#include "brush/rows.h"

namespace jam {

Dab dabOn(const Level& level, double x, double z, float radiusMetres, const Falloff& falloff, int factor) {
    Dab dab;
    dab.column = level.toColumn(x) * factor;
    dab.row = level.toRow(z) * factor;
    dab.radius = static_cast<float>(radiusMetres * factor / level.spacing);
    dab.falloff = falloff;
    const Region box{static_cast<int>(std::ceil(dab.column - dab.radius)), static_cast<int>(std::ceil(dab.row - dab.radius)),
                     static_cast<int>(std::floor(dab.column + dab.radius)) + 1,
                     static_cast<int>(std::floor(dab.row + dab.radius)) + 1};
    dab.region = box.clipped(factor == 1 ? level.bounds() : level.coverBounds());
    if (dab.region.empty()) dab.region = {};
    return dab;
}

void dabMask(const Dab& dab, int x0, int z, int n, float strength, float* mask) {
    rowKernels().mask(mask, n, static_cast<float>(x0 - dab.column), static_cast<float>(z - dab.row), dab.radius,
                      dab.falloff, strength);
}

Region dabSpan(const Dab& dab, const Region& within, int z) {
    const double dz = z - dab.row, r2 = static_cast<double>(dab.radius) * dab.radius;
    if (dz * dz >= r2) return {};
    const double half = std::sqrt(r2 - dz * dz);
    return Region{static_cast<int>(std::floor(dab.column - half)), z, static_cast<int>(std::ceil(dab.column + half)) + 1, z + 1}.clipped(within);
}

}  // namespace jam
