#include "shape/smooth.h"

#include <cmath>

#include "base/parallel.h"
#include "brush/rows.h"
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

// Rounded to a multiple of 2^-24; sums of such numbers below 2^28 are exact in a double.
double grained(float v) {
    constexpr double kMagic = 6755399441055744.0 / 16777216.0;  // 1.5 * 2^52 * 2^-24
    return (static_cast<double>(v) + kMagic) - kMagic;
}

// out[i] = mean of in[i .. i + 2r], for n outputs.
void meanRow(const float* in, float* out, int n, int r) {
    const double per = 1.0 / (2 * r + 1);
    double sum = 0;
    for (int i = 0; i <= 2 * r; ++i) sum += grained(in[i]);
    for (int i = 0; i < n; ++i) {
        out[i] = static_cast<float>(sum * per);
        if (i + 1 < n) sum += grained(in[i + 2 * r + 1]) - grained(in[i]);
    }
}

// The same down the columns, a whole row at a time so that memory is read in order.
void meanColumns(View<const float> in, View<float> out, int r) {
    const double per = 1.0 / (2 * r + 1);
    constexpr int kStrip = 256;
    parallelFor((out.width + kStrip - 1) / kStrip, 1, [&](int first, int end) {
        double sums[kStrip];
        for (int s = first; s < end; ++s) {
            const int x0 = s * kStrip, n = std::min(kStrip, out.width - x0);
            std::fill_n(sums, n, 0.0);
            for (int z = 0; z <= 2 * r; ++z)
                for (int i = 0; i < n; ++i) sums[i] += grained(in.row(z)[x0 + i]);
            for (int z = 0; z < out.depth; ++z) {
                float* to = out.row(z) + x0;
                for (int i = 0; i < n; ++i) to[i] = static_cast<float>(sums[i] * per);
                if (z + 1 == out.depth) break;
                const float *enters = in.row(z + 2 * r + 1) + x0, *leaves = in.row(z) + x0;
                for (int i = 0; i < n; ++i) sums[i] += grained(enters[i]) - grained(leaves[i]);
            }
        }
    });
}

}  // namespace

void boxMean(View<const float> ground, int halo, float sigma, View<float> out) {
    const BoxRadii b = boxRadii(sigma);
    assert(halo == boxReach(sigma) && out.width == ground.width - 2 * halo && out.depth == ground.depth - 2 * halo);
    const Scratch across(out.width, ground.depth);
    parallelFor(ground.depth, 64, [&](int first, int end) {
        std::vector<float> one(static_cast<size_t>(ground.width)), two(one.size());
        for (int z = first; z < end; ++z) {
            meanRow(ground.row(z), one.data(), ground.width - 2 * b.r[0], b.r[0]);
            meanRow(one.data(), two.data(), ground.width - 2 * (b.r[0] + b.r[1]), b.r[1]);
            meanRow(two.data(), across.view().row(z), out.width, b.r[2]);
        }
    });
    const Scratch once(out.width, ground.depth - 2 * b.r[0]);
    meanColumns(across.view(), once.view(), b.r[0]);
    const Scratch twice(out.width, once.depth() - 2 * b.r[1]);
    meanColumns(once.view(), twice.view(), b.r[1]);
    meanColumns(twice.view(), out, b.r[2]);
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
