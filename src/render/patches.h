// Which pieces of the ground to draw at which detail: a quadtree over the samples, chosen on the processor.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "camera.h"
#include "survey/pyramid.h"

namespace jam {

// A square of kQuads x kQuads quads.
struct Patch {
    static constexpr int kQuads = 8;
    int column, row;  // first sample
    int step;         // samples per quad
    float morphEnd;   // metres from the camera where it has become the next coarser mesh
    float nearest;    // metres from the camera to its box
    float upright;    // most that is seen of a metre's height in it, as a share

    Region region() const { return {column, row, column + kQuads * step + 1, row + kQuads * step + 1}; }
};

// Quads that are drawn as one along the sides of a patch, north, east, south and west: 1, 2 or 4, and no more than
// inside of it. Patches that share a side must agree on it.
using Rims = std::array<uint8_t, 4>;
constexpr Rims kWholeRims{1, 1, 1, 1};

// Patches that may be seen, near to far, without gaps or overlaps. `finestMetres` is how far the finest mesh
// reaches; each coarser one reaches twice as far.
void choosePatches(const Level& level, const HeightPyramid& pyramid, const Camera& camera, double finestMetres,
                   std::vector<Patch>& out);

// How far the finest mesh has to reach so that quads stay below `pixels` pixels on the picture.
double finestReach(const Level& level, const Camera& camera, double pixels);

}  // namespace jam
