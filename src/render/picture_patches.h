// The ground of one picture as its shader takes it: which patches, what each shows, and how much of it is joined.
#pragma once

#include <optional>
#include <vector>

#include "calm_ground.h"
#include "ground_programs.h"
#include "renderer.h"

namespace jam {

// How far layers are blended live: as far as wished, but no farther than what is kept of them reaches.
double liveMetres(const GroundTextures& textures, const Sight& sight);

class PicturePatches {
public:
    using Packed = PatchMesh::Packed;

    // Preconditions of choose(): called for this level, with all ground that changed since.
    void follow(const Level& level, const TileSet& ground) { calm_.follow(level, ground); }
    // Those that can be seen, only where they touch `only`. `grain`: metres up to which a quick picture shows it; none
    // for a full one, in which patches that are drawn live get the list of their layers. Vertices are left out where
    // the ground strays no farther than `calmPixels` of this picture.
    void choose(const View3& view, const Sight& sight, std::optional<double> grain, const PixelRect* only,
                double calmPixels);

    // Those that can be drawn at once lie together, near to far.
    const std::vector<Packed>& all() const { return packed_; }
    // False when some are plainer than they should be, because what they show is stale.
    bool complete() const { return complete_; }
    // Whether there are openings in any of them, or no land.
    bool gaps() const;
    int triangles() const { return triangles_; }

private:
    Packed pack(const View3& view, const Patch& p, const Sight& sight, std::optional<double> grain);

    CalmGround calm_;
    std::vector<Patch> patches_;
    std::vector<Packed> packed_;
    bool complete_ = true;
    int triangles_ = 0;
};

}  // namespace jam
