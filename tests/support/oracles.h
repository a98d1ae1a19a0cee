// Slow, obvious versions of what the core does fast: whole untiled rasters in double precision.
#pragma once

#include <vector>

#include "brush/stroke.h"
#include "level/level.h"
#include "shape/noise_ground.h"

namespace jam::test {

struct PlainGround {
    int columns = 0, rows = 0;
    std::vector<double> h;
    double& at(int c, int r) {
        return h[static_cast<size_t>(r) * static_cast<size_t>(columns) + static_cast<size_t>(c)];
    }
    double clamped(int c, int r) const;
};
PlainGround plainGround(const Level& level);

// One stamp at world (x, z); `share` as in the kernels.
void plainRaise(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double metres);
void plainFlatten(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double target, Earthwork way);
void plainSmooth(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share);
// Three box means of the given radii, straight from the definition.
void plainBoxSmooth(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f,
                    double share, const int boxes[3]);

// Towards the weighted mean, leaving `keep` of the relief; g is also the ground as the stroke found it.
void plainEvenOut(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double keep);
void plainTerrace(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double step, double riser);
void plainRestore(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  const PlainGround& reference);
// Passes of thermal erosion, flow by flow.
void plainCrumble(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double degrees, int passes);
// The steepness-limited envelope below the samples of a box, from the definition: the least of h(q) + tangent
// distance(p, q) over all q of the box, where the distance is the shortest way over sides, diagonals and knight's
// moves.
PlainGround plainSlopeCut(const PlainGround& g, const Region& box, double spacing, double degrees);

// Noise added as far as the ground does not stand out that way already; the mean comes from three plain boxes.
void plainNoise(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                const Roughness& roughness, const int boxes[3]);
// One drop of rain that falls at (x, z) in samples on ground that may be touched everywhere, step by step.
void plainDrop(PlainGround& g, double x, double z, double spacing);

// Greatest difference between the oracle and the composed ground of a level.
double greatestDifference(const PlainGround& g, const Level& level);

// Visible shares of all layers at one cover sample, in double.
std::vector<double> plainShares(const Level& level, int c, int r);

}  // namespace jam::test
