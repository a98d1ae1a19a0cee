#include "grid/extents.h"

#include <algorithm>

namespace jam {

namespace {

// As many samples as are looked at together.
constexpr int kAtOnce = 16;
bool nothing(const float* samples) {
    int any = 0;
    for (int i = 0; i < kAtOnce; ++i) any |= samples[i] != 0;
    return any == 0;
}

}  // namespace

Extents::Extents(View<const float> of) : width_(of.width), rows_(static_cast<size_t>(of.depth)) {
    for (int z = 0; z < of.depth; ++z) {
        const float* row = of.row(z);
        int x0 = 0, x1 = of.width;
        while (x1 >= kAtOnce && nothing(row + x1 - kAtOnce)) x1 -= kAtOnce;
        while (x1 > 0 && row[x1 - 1] == 0) --x1;
        while (x0 + kAtOnce <= x1 && nothing(row + x0)) x0 += kAtOnce;
        while (x0 < x1 && row[x0] == 0) ++x0;
        rows_[static_cast<size_t>(z)] = {x0, x1};
    }
}

Extents::Span Extents::near(int z, int reach) const {
    Span all{width_, 0};
    const int last = static_cast<int>(rows_.size()) - 1;
    for (int k = std::max(z - reach, 0); k <= std::min(z + reach, last); ++k)
        if (const Span s = row(k); !s.empty()) all = {std::min(all.x0, s.x0 - reach), std::max(all.x1, s.x1 + reach)};
    return all.clipped(0, width_);
}

}  // namespace jam
