// The ground of one picture as its shader takes it: which patches, what each shows, and how much of it is joined.
#pragma once

#include <optional>
#include <vector>

#include "ground_programs.h"
#include "helpers.h"
#include "patch_mesh.h"
#include "pixel_rect.h"

namespace jam {

// How far layers are blended live: as far as wished, but no farther than what is kept of them reaches.
double liveMetres(const GroundTextures& textures, const Sight& sight);

class PicturePatches {
public:
    using Packed = PatchMesh::Packed;

    // Those that can be seen, only where they touch `only`. In a full picture patches that are drawn live get the list
    // of their layers. A helper leaves out vertices where there is one.
    void choose(const SceneView& view, const PixelRect* only, MeshHelper* helper);

    // Those that can be drawn at once lie together, near to far.
    const std::vector<Packed>& all() const { return packed_; }
    // False when some are plainer than they should be, because what they show is stale.
    bool complete() const { return complete_; }
    // Whether there are openings in any of them, or no land.
    bool gaps() const;
    int triangles() const { return triangles_; }

private:
    Packed pack(const SceneView& view, const Patch& p);

    std::vector<Patch> patches_;
    std::vector<Packed> packed_;
    bool complete_ = true;
    int triangles_ = 0;
};

}  // namespace jam
