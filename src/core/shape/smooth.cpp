#include "shape/smooth.h"

#include <array>
#include <cmath>

#include "base/parallel.h"
#include "brush/rows.h"
#include "grid/ground_rows.h"
#include "grid/scratch.h"

namespace jam {

BoxRadii boxRadii(float sigma) {
    // Widths w and w + 2 mixed so that three boxes together have the variance asked for.
    const double ideal = std::sqrt(12.0 * sigma * sigma / 3 + 1);
    int w = static_cast<int>(ideal);
    if (w % 2 == 0) --w;
    const double narrow = (12.0 * sigma * sigma - 3.0 * w * w - 12.0 * w - 9) / (-4.0 * w - 4);
    const int count = static_cast<int>(std::lround(narrow));
    BoxRadii radii;
    for (int i = 0; i < 3; ++i) radii.r[i] = (i < count ? w : w + 2) / 2;
    return radii;
}

int boxReach(float sigma) {
    const BoxRadii b = boxRadii(sigma);
    return b.r[0] + b.r[1] + b.r[2];
}

namespace {

// One of the three means down the columns: rows come in at its foot, means leave it `wide` rows later.
struct Falling {
    Falling(int reach, int n, bool keeps)
        : wide(2 * reach + 1), sums(static_cast<size_t>(n), 0.0),
          kept(keeps ? static_cast<size_t>(wide + 1) * static_cast<size_t>(n) : 0) {}
    int wide, seen = 0;  // rows
    std::vector<double> sums;
    std::vector<float> kept;  // the rows that are still to leave, in turns
    float* room(int row, int n) { return kept.data() + static_cast<size_t>(row % (wide + 1)) * static_cast<size_t>(n); }
};

// Means down the columns [x0, x0 + n): each row falls through all three at once, so that those between stay near.
void meanColumns(View<const float> in, View<float> out, const BoxRadii& b, int x0, int n) {
    std::array<Falling, 3> all = {Falling(b.r[0], n, false), Falling(b.r[1], n, true), Falling(b.r[2], n, true)};
    const auto rowOf = [&](int row) { return in.row(std::min(row, in.depth - 1)) + x0; };
    // A mean is told when the next row enters: after the last ones come rows that count for nothing.
    for (int z = 0, told = 0; told < out.depth; ++z) {
        const float* row = rowOf(z);
        for (size_t k = 0; k < all.size(); ++k) {
            Falling& f = all[k];
            const int now = f.seen++;
            if (now < f.wide) {
                groundRows().start(f.sums.data(), row, n);
                break;
            }
            const float* leaves = k == 0 ? rowOf(now - f.wide) : f.room(now - f.wide, n);
            const bool last = k + 1 == all.size();
            float* to = last ? out.row(told++) + x0 : all[k + 1].room(all[k + 1].seen, n);
            groundRows().slide(to, f.sums.data(), row, leaves, n, 1.0 / f.wide);
            row = to;
        }
    }
}

}  // namespace

void boxMean(View<const float> ground, int halo, float sigma, View<float> out) {
    const BoxRadii b = boxRadii(sigma);
    assert(halo == boxReach(sigma) && out.width == ground.width - 2 * halo && out.depth == ground.depth - 2 * halo);
    const Scratch across(out.width, ground.depth);
    parallelFor(ground.depth, 64, [&](int first, int end) {
        std::vector<float> one(static_cast<size_t>(ground.width)), two(one.size());
        for (int z = first; z < end; ++z) {
            const auto& rows = groundRows();
            rows.means(one.data(), ground.row(z), ground.width - 2 * b.r[0], b.r[0]);
            rows.means(two.data(), one.data(), ground.width - 2 * (b.r[0] + b.r[1]), b.r[1]);
            rows.means(across.view().row(z), two.data(), out.width, b.r[2]);
        }
    });
    // Strips so wide that what falls stays near at hand, and long rows are read.
    constexpr int kMost = 512, kLeast = 64;
    const int strips = std::max((out.width + kMost - 1) / kMost, std::min(2, out.width / kLeast + 1)),
              wide = (out.width + strips - 1) / strips;
    parallelFor(strips, 1, [&](int first, int end) {
        for (int s = first; s < end; ++s)
            meanColumns(across.view(), out, b, s * wide, std::min(wide, out.width - s * wide));
    });
}

namespace {

Region smoothFine(const StampSite& site, const Dab& dab, float share) {
    return sculpt(site, dab, {1}, [share](const Sculpture& s, int first, int end) {
        eachMaskedRow(s, first, end, share, [&](int z, int x, int n, const float* mask) {
            const auto before = [&](int row) { return s.before.row(row) + x + 1; };
            rowKernels().smooth(s.after.row(z) + x, before(z), before(z + 1), before(z + 2), mask, n);
        });
    });
}

Region smoothWide(const StampSite& site, const Dab& dab, float share, float sigma) {
    const int halo = boxReach(sigma);
    const Scratch mean(dab.region.width(), dab.region.depth());
    auto prepare = [&](const Sculpture& s) { boxMean(s.before, halo, sigma, mean.view()); };
    auto kernel = [&](const Sculpture& s, int first, int end) { blendTowards(s, first, end, share, mean.view()); };
    return sculpt(site, dab, {halo}, kernel, prepare);
}

}  // namespace

Region smoothGround(const StampSite& site, const Dab& dab, float share, float sigma) {
    if (dab.region.empty()) return {};
    return sigma <= kFineSigma ? smoothFine(site, dab, share) : smoothWide(site, dab, share, sigma);
}

}  // namespace jam
