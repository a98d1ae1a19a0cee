// One stamp of a brush in the samples of the raster that it works on.
#pragma once

#include "brush/mirror.h"
#include "brush/stroke.h"
#include "level/level.h"

namespace jam {

// Invariant: a dab and its image through a symmetry of the raster give exactly mirrored masks, because centres lie on
// 1/256 of a sample and offsets are mapped back exactly before the tip is looked at.
struct Dab {
    double column = 0, row = 0;  // centre, in samples, on 1/256 of a sample
    float radius = 1;            // in samples
    Falloff falloff;
    Region region;  // samples it may touch, inside the raster; empty when it misses
    TipShape shape = TipShape::round;
    const TipPicture* picture = nullptr;  // lives as long as the stroke
    float turn = 0;                       // degrees clockwise
    Symmetry image = {};                  // the symmetry through which the tip is seen; only its four factors count
    Symmetry frame = {};  // from the coordinates of this dab to those of the raster; identity but for framed()
    const Fence* fence = nullptr;
    int factor = 1;                         // raster samples per ground sample, for the fence
    const Raster<float>* shares = nullptr;  // when given, the mask itself, over `region`
};

// `factor` 1 gives a round dab on the ground, level.coverFactor one on the cover.
Dab dabOn(const Level& level, double x, double z, float radiusMetres, const Falloff& falloff, int factor);
// The same with a tip, turned `turn` degrees.
Dab dabOn(const Level& level, double x, double z, float radiusMetres, const Falloff& falloff, int factor,
          const Tip& tip, float turn);
// The dab through a symmetry of the same raster.
Dab mirrored(const Level& level, const Dab& dab, const Symmetry& image);
// The same dab in its own place, for work on a raster that is itself seen through the symmetry: height kernels never
// learn that they work on an image, and their outcome is exactly mirrored whatever they compute.
Dab framed(const Level& level, const Dab& dab, const Symmetry& image);
// The samples around its centre that a dab reaches, over any edge.
Region dabBox(const Dab& dab);

// The samples of row z inside `within` that the dab reaches, as a region of one row, and a few more where that makes
// whole vectors of them; the mask is 0 outside.
Region dabSpan(const Dab& dab, const Region& within, int z);

// A dab row by row. What its rows have in common is worked out once. The dab must outlive it.
class DabRows {
public:
    explicit DabRows(const Dab& dab);
    // Where a row of `within` is worth working on, as dabSpan(): all of a short one where the falloff is so simple that
    // looking for its ends would take longer.
    Region span(const Region& within, int z) const {
        constexpr int kShort = 160;
        return fades_ && within.width() <= kShort ? Region{within.x0, z, within.x1, z + 1} : dabSpan(dab_, within, z);
    }
    // Strength times falloff for the samples [x0, x0 + n) of row z of the raster, inside the dab's region.
    void mask(int x0, int z, int n, float strength, float* mask) const;
    // Whether raise() can be asked: the mask of a plain round brush is simple enough to be added as it is worked out.
    bool plain() const { return fades_ && !dab_.fence; }
    // ground[i] += what mask() gives. Precondition: plain().
    void raise(int x0, int z, int n, float metres, float* ground) const;

private:
    float rest(int z) const;

    const Dab& dab_;
    const bool fades_;            // without a root
    std::vector<float> squares_;  // by column of the region: the square of its distance in radii, when it fades so
};

// f(x, z, mask) for every sample that the dab reaches, row by row; for kernels whose own work outweighs the call.
template <class F>
void eachDabSample(const Dab& dab, float strength, F f) {
    const DabRows rows(dab);
    std::vector<float> mask(static_cast<size_t>(std::max(dab.region.width(), 0)));
    for (int z = dab.region.z0; z < dab.region.z1; ++z) {
        const Region span = dabSpan(dab, dab.region, z);
        if (span.empty()) continue;
        rows.mask(span.x0, z, span.width(), strength, mask.data());
        for (int i = 0; i < span.width(); ++i) f(span.x0 + i, z, mask[static_cast<size_t>(i)]);
    }
}

// Rows of a dab from which several threads pay off.
constexpr int kRowsPerThread = 192;

}  // namespace jam
