// Where fewer triangles do: a moving picture leaves out those that would not be told apart at its size.
#pragma once

#include "level/changes.h"
#include "render/helpers.h"

namespace jam {

// How far, in metres, the ground at a patch's vertices lies from its meshes of two and of four quads joined each way
// (patch_mesh.h), with every vertex of the rim and with any fewer.
struct Strays {
    float second = 0, fourth = 0;
    float secondRims = 0, fourthRims = 0;
    bool operator==(const Strays&) const = default;
};
Strays straysOf(const Level& level, const Patch& patch);

// Remembers strays, which stand on the ground alone and not on where one looks from.
class CalmGround : public MeshHelper {
public:
    void follow(const Level& level, const TileSet& ground) override;
    // Preconditions: follow() was called for this level, and the patch is one of choosePatches().
    const Strays& at(const Level& level, const Patch& patch);
    std::vector<Joined> joined(const Level& level, const std::vector<Patch>& patches, double pixels,
                               double metres) override;

private:
    std::vector<Raster<Strays>> levels_;  // by the logarithm of the patch's step; below 0 where it is not known
    int columns_ = 0, rows_ = 0;
};

}  // namespace jam
