// A level on the graphics side. What a change makes stale is noted, and brought up to date piece by piece under a time
// budget, what lies nearest to the eye first: so a level of any size is seen at once, sharpens, and never stops the
// hand.
#pragma once

#include "gap_map.h"
#include "kept_colours.h"
#include "level/changes.h"
#include "lit_map.h"
#include "material_textures.h"
#include "near_window.h"

namespace jam {

class GroundTextures {
public:
    // `trilinear` blends between mipmaps; software drawing does without, for speed.
    explicit GroundTextures(bool trilinear)
        : materials_(trilinear ? GL_LINEAR_MIPMAP_LINEAR : GL_LINEAR_MIPMAP_NEAREST),
          litMap_(trilinear ? GL_LINEAR_MIPMAP_LINEAR : GL_LINEAR_MIPMAP_NEAREST) {}

    // Who takes room for what is large; null for taking it at once.
    void setRoomHelper(std::shared_ptr<RoomHelper> helper) { roomHelper_ = std::move(helper); }
    // Notes what differs as stale. With `hint`, only samples inside it are looked at; the caller vouches that nothing
    // else changed. Returns the samples that changed.
    Change sync(const Level& next, const Change* hint);
    // `changed` says where it differs from the shade before; null for everywhere.
    void setShade(Shade shade, const TileSet* changed);
    void setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride);
    void setFlatLight(bool flat);
    void setRelief(const ReliefLook& relief);
    const ReliefLook& relief() const { return relief_; }
    // Whether ground inside the fence is hatched.
    void setHatch(bool hatch);

    // A picture over the whole level, for overlays: of a layer's weights, of the weight of several, of what is reached.
    struct Painted {
        uint32_t layers = 0;  // as bits; 0 for no picture
        bool reach = false;   // of what is reached, in its place
        bool any() const { return layers != 0 || reach; }
        bool operator==(const Painted&) const = default;
    };
    // Where the eye is, how far from it layers are wanted live, and what overlays need.
    void follow(const glm::dvec3& eye, double liveMetres, Painted painted);
    // Brings stale pieces up to date until `ms` have passed, at least one; heights come before all else. Returns the
    // ground that is drawn differently now.
    TileSet bring(double ms);
    // Whether anything is stale; whether that is (heights, gaps, the layers' pictures) without which nothing can be
    // drawn; whether near ground is.
    bool stale() const { return heightsStale() || waiting_ > 0; }
    bool heightsStale() const { return !staleHeights_.empty() || gaps_.stale() || !rough_ || materials_.stale(); }
    bool nearStale() const { return nearWaiting_ > 0; }
    // Whether all that drawing the ground region live needs is there, as far as the near window holds it: what lies
    // outside is farther away than anything is drawn live.
    bool live(const Region& ground) const;

    const LightLook& light() const { return light_; }
    const Level& level() const { return level_; }
    const MaterialTextures& materials() const { return materials_; }
    const NearWindow& near() const { return near_; }
    const LitMap& litMap() const { return litMap_; }
    const GlTexture& heights() const { return heights_.texture(); }
    const GlTexture& painted() const { return painted_; }
    const GlTexture& wander() const { return wander_; }
    const GapMap& gaps() const { return gaps_; }

    // Layers with any weight in the ground region, as bits; between its samples nothing else is looked up.
    // Precondition: live().
    uint32_t layersIn(const Region& ground) const;
    // Whether the ground region is anywhere so steep that three-sided projection shows.
    bool steepIn(const Region& ground) const;

private:
    static constexpr int kTile = NearWindow::kTile;
    // What of one tile is stale, in ground samples: normals and shade; the lit map alone; weights; wash; the picture of
    // weights for overlays. The live ground needs the first, third and fourth.
    struct Stale {
        Region look, lit, cover, wash, painted;
        bool nearby() const { return !look.empty() || !cover.empty() || !wash.empty(); }
        bool any() const { return nearby() || !lit.empty() || !painted.empty(); }
    };
    struct Piece {
        double away;
        int tx, tz;
    };

    void allocate(const Level& next);
    void markAll(Region Stale::*part);
    void mark(Region Stale::*part, const TileSet& ground);
    void mark(Region Stale::*part, int tx, int tz, const Region& ground);
    void bringHeights(double until, TileSet& brought);
    void roughly();
    // `byHand`: what the hand did, which it is likely to do again.
    void bringPieces(const std::vector<Piece>& pieces, bool byHand, TileSet& brought);
    void line();
    void uploadNear(const Baked& baked);
    BakeSource source() const;
    Region tileRegion(int tx, int tz) const;
    void paint(const Region& part);
    void upload(const Region& texels, const Raster<uint8_t>& out) const;
    void paintReach(const Region& texels, Raster<uint8_t>& out) const;

    Level level_;
    bool allocated_ = false, rough_ = false;
    MaterialTextures materials_;
    LitMap litMap_;
    KeptColours kept_;
    NearWindow near_;
    double liveMetres_ = 0;
    glm::dvec3 eye_{0};
    Shade shade_;
    LightLook light_;
    bool flatLight_ = false;
    ReliefLook relief_;
    bool hatch_ = true;
    Painted paintedNow_;
    std::shared_ptr<const Raster<uint8_t>> reach_;
    int reachStride_ = 1;
    std::shared_ptr<RoomHelper> roomHelper_;
    LargeTexture heights_;
    GlTexture painted_, wander_;
    GapMap gaps_;

    Raster<uint16_t> blockLayers_;  // bits per block of NearWindow::kBlock, where the window lies
    Raster<uint8_t> steep_;         // per block
    TileSet staleHeights_;
    Raster<Stale> stale_;  // per ground tile
    size_t waiting_ = 0, nearWaiting_ = 0;
    // Pieces that wait, the next one last. What is marked while others wait comes after them, or moving the sun would
    // renew the nearest pieces for ever and the far ones never; but what the hand does comes first.
    std::vector<Piece> line_, urgent_;
    bool lined_ = false, hurry_ = false;
    int roughStep_ = 0;
    Raster<uint32_t> roughColours_;  // while the lit map is filled with them
};

}  // namespace jam
