// What only the near ground needs, on the graphics side: normals and shade, the layers' weights, painted colour. It is
// kept for a window of the level around the eye and not for all of it, so a level may be of any size. Where the level
// is wider than the window, the window's textures repeat, so that moving it is writing the tiles that come in.
#pragma once

#include <glm/vec2.hpp>

#include "bake.h"
#include "large_texture.h"

namespace jam {

class NearWindow {
public:
    static constexpr int kTile = 64;         // ground samples a side
    static constexpr int kMostCover = 2048;  // cover samples a side, when it does not hold the whole level

    // For a level and what lies nearer than `metres`. The window lies nowhere yet, and has no room.
    void allocate(const Level& level, double metres);
    // Begins to take its room, one texture at a time; whether all of it is there. Until then nothing can be uploaded.
    bool takeRoom(const Level& level, const std::shared_ptr<RoomHelper>& helper);
    // Moves the window so that this sample lies about in its middle. Returns whether it moved.
    bool centre(double column, double row);
    // The tiles inside, as a region counted in tiles.
    const Region& tiles() const { return inside_; }
    bool holds(int tx, int tz) const { return inside_.contains(tx, tz); }
    // How far from its middle it holds everything for certain, metres.
    double reach() const { return reach_; }

    // Preconditions: `part` lies inside one tile that the window holds.
    void uploadSurface(const Baked& baked);
    // Notes in `layers` which have any weight, as bits, for each block of kBlock ground samples a side.
    void uploadWeights(const Level& level, const Region& part, Raster<uint16_t>& layers);
    static constexpr int kBlock = 8;
    void uploadWash(const Level& level, const Region& part);
    // Wash costs room only while there is any; when it comes there is none anywhere at first.
    void setWashed(const Level& level, bool washed);

    // None until their room is there.
    const GlTexture& surface() const { return surface_.texture(); }
    const GlTexture& weights() const { return weights_.texture(); }
    // One byte a cover sample: the layer that weighs most.
    const GlTexture& leading() const { return leading_.texture(); }
    const GlTexture& wash() const { return wash_; }
    // From a ground sample's column and row to a place on the textures: scale and offset.
    struct Placing {
        glm::vec2 scale, offset;
    };
    Placing onGround() const;
    Placing onCover() const;

private:
    // Where a tile's first sample lies on textures with `factor` samples to a ground sample.
    int slotX(int tx) const { return tx % across_ * kTile; }
    int slotZ(int tz) const { return tz % down_ * kTile; }
    Region coverOf(const Level& level, const Region& ground) const;

    int columns_ = 0, rows_ = 0;                                   // of the textures, ground samples
    int levelAcross_ = 0, levelDown_ = 0, across_ = 0, down_ = 0;  // tiles
    int factor_ = 1;
    double reach_ = 0;
    Region inside_;
    bool washed_ = false;
    LargeTexture surface_, weights_, leading_;
    GlTexture wash_;
};

}  // namespace jam
