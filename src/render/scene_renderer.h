// Draws what is seen of a level into a target, as well as it is asked to, with whatever OpenGL 3.3 context is current.
// It knows no driver and decides nothing about when: that is what presenters are for (presenter.h).
#pragma once

#include <memory>
#include <optional>
#include <string>

#include "bake.h"
#include "base/result.h"
#include "dress/kinds.h"
#include "driver.h"
#include "helpers.h"
#include "level/changes.h"
#include "pixel_rect.h"
#include "quality.h"
#include "sight.h"
#include "target.h"

namespace jam {

// Decodes the pictures of a level's layers, so that drawing it need not wait for them. Any thread. They are remembered.
void prepareMaterials(const Level& level);

// A picture that is asked for.
struct PictureWish {
    Camera camera;
    Sight sight;
    Quality quality;
    // Where all that the camera sees lies in the target, in its pixels; it may stick out.
    PixelRect place;
    // Of the camera's pixels those that are drawn; none for all.
    std::optional<PixelRect> part;
};
// The target's pixels that lie on a part of what the camera sees.
PixelRect inTarget(const PictureWish& wish, const PixelRect& part);

// Threads: all calls, also the destructor, need the same context current.
class SceneRenderer {
public:
    // `trilinear` blends between mipmaps, for beauty; without is quicker where a processor draws.
    // Errors: what checkDriver() says of what is `offered`, or a shader does not compile; in words for the user.
    static Result<std::unique_ptr<SceneRenderer>> create(bool trilinear = true,
                                                         const DriverLimits& offered = driverLimits());
    ~SceneRenderer();

    // None, as at first, for doing all of it when it is met. A mesh helper has to know the level: before sync().
    void setHelpers(Helpers helpers);

    // Notes what differs from the level drawn before and returns it; see GroundTextures::sync. The pyramid belongs to
    // the level and must live, up to date, until the next call.
    Change sync(const Level& level, const HeightPyramid& pyramid, const Change* hint = nullptr);
    // Brings what is stale up to date for this view until `ms` have passed, what lies nearest first, at least one
    // piece. Returns the ground that is drawn differently now. Preconditions of all drawing: sync() and, for the same
    // camera and sight, bring() were called, and drawable().
    TileSet bring(const Camera& camera, const Sight& sight, double ms = 1e12);
    // How far what stands on the ground reaches, at most.
    Standing standing() const;
    // Whether anything still waits for bring(); whether anything near the eye does; whether the heights are there.
    bool stale() const;
    bool nearStale() const;
    bool drawable() const;
    // Border strips of the neighbours on each side, or null, shown as ghosts (ghosts.h). Precondition: sync().
    void setGhosts(const std::array<std::shared_ptr<const Level>, kLevelSides>& strips);
    // Sun visibility and openness to the sky of every ground sample. `changed` says where they differ from those
    // before; null for everywhere.
    void setShade(Shade shade, const TileSet* changed = nullptr);
    // What a body reaches (walk/reach.h), a sample each or every `stride`-th; null for nothing known.
    void setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride);
    // Light from above without shadows, for judging colour.
    void setFlatLight(bool flat);
    // A picture of a layer that could not be decoded, if any.
    const std::optional<Error>& trouble() const;

    // How far layers are blended live: as far as wished, but no farther than what is kept of them reaches.
    double liveMetres(const Sight& sight) const;
    // Returns false when something was drawn plainer than it should be, because what it needs is stale or not compiled
    // yet: it has to be drawn again.
    bool draw(Target& target, const PictureWish& wish);
    // One flat colour over the same geometry: the baseline of the frame benchmark.
    void drawFlat(Target& target, const Camera& camera, const Sight& sight);
    // Compiles a variant to the end, by drawing with it. Preconditions as of draw().
    void makeVariant(Target& target, const Variant& variant);

    // Number of triangles in the last draw; variants of the ground's shader that were compiled so far.
    int triangles() const;
    size_t shaders() const;

private:
    struct Impl;
    explicit SceneRenderer(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> impl_;
};

}  // namespace jam
