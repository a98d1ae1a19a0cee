// What stands on the ground: plantings and singles, many of one mesh at once.
#pragma once

#include "dress/kinds.h"
#include "dress/plantings.h"
#include "gl.h"
#include "grow/recipe.h"
#include "pixel_rect.h"
#include "scene_view.h"

namespace jam {

class Dressing {
public:
    Status build();
    // Notes what changed of the level.
    void follow(const Level& level, const Change& change);
    // Finds out what stands until `until` (nowMs()), the nearest to the eye first, at least of one tile; returns the
    // ground over which something else is drawn now. Until then what stood there before is drawn.
    TileSet bring(const Camera& camera, double until);
    bool stale() const { return stale_; }
    // How far what is drawn reaches up from the ground, and aside.
    const Standing& reach() const { return reach_; }
    // How much sun gets to each ground sample; null for all.
    void setSun(std::shared_ptr<const Raster<uint8_t>> sun) { sun_ = std::move(sun); }
    // Draws those that lie in the view, and on a part of it when one is given.
    void draw(const SceneView& view, const PixelRect* only);
    int drawn() const { return drawn_; }  // of them in the last draw

private:
    // The meshes of one kind: ranges of triangles for each variant and detail, those in no picture first.
    struct Grown {
        std::shared_ptr<const KindMeshes> kind;
        GlArray array;
        GlBuffer vertices, corners;
        std::vector<GlTexture> pictures;
        struct Part {
            int picture = -1, first = 0, count = 0;
        };
        std::vector<std::array<std::vector<Part>, kDetails>> parts;
        // From far away, where that takes many triangles; made when there is time.
        GlTexture farColours, farFacings;
        // Of each variant that has pictures already: its middle above the foot, its radius.
        std::vector<std::array<float, 2>> balls;
        bool worthPictures = false;
        bool used = false;  // since it was last looked for some to throw out
    };
    struct Instance {
        float place[4];  // metres, and its size
        float turn[4];   // quaternion
        float tint[4];   // and how much sun gets there
        float view;      // of pictures from far away
    };
    struct Seen;  // what of the picture is looked at

    Grown& grownFor(const Kind& kind);
    void collect(const Seen& seen, const std::vector<Planting>& tile, const Grown& grown);
    void drawCollected(const Grown& grown);
    void drawKind(size_t kind, Seen seen);
    void drawFar(const Grown& grown, size_t variant, size_t count, size_t base);
    // Makes the far pictures of one variant that waits for them; false when none does.
    bool makeFar();

    GlProgram plain_, painted_, far_;
    GlArray farArray_;
    GlBuffer instances_;
    std::unique_ptr<Plantings> plantings_;
    std::shared_ptr<const Raster<uint8_t>> sun_;
    using Tile = std::shared_ptr<const std::vector<Planting>>;
    std::vector<std::vector<Tile>> shown_;  // by kinds, then by tiles
    std::vector<float> largest_;            // of each kind, times its mesh; 0 where none is drawn
    Standing reach_;
    bool stale_ = false;
    std::vector<std::unique_ptr<Grown>> grown_;
    // By variants; the last of each are those that are shown by pictures.
    std::vector<std::array<std::vector<Instance>, kDetails + 1>> collected_;
    int drawn_ = 0;
};

}  // namespace jam
