// Draws a level into a picture of its own, with whatever OpenGL 3.3 context is current.
#pragma once

#include <glm/vec3.hpp>
#include <memory>

#include "bake.h"
#include "camera.h"
#include "level/changes.h"
#include "rooms.h"
#include "variants.h"

namespace jam {

struct PixelRect {
    int x = 0, y = 0, width = 0, height = 0;  // from the top left
    bool empty() const { return width <= 0 || height <= 0; }
    bool meets(const PixelRect& o) const {
        return x < o.x + o.width && o.x < x + width && y < o.y + o.height && o.y < y + height;
    }
    PixelRect joined(const PixelRect& o) const {
        if (empty()) return o;
        if (o.empty()) return *this;
        const int x0 = std::min(x, o.x), y0 = std::min(y, o.y);
        return {x0, y0, std::max(x + width, o.x + o.width) - x0, std::max(y + height, o.y + o.height) - y0};
    }
};

// Pixels that these ground samples can cover while their heights lie in `span`; empty when none.
PixelRect pixelsOf(const Level& level, const Region& ground, HeightSpan span, const Camera& camera);

// Something computed about the ground and shown on it.
enum class Overlay { none, steepness, altitude, curvature, coverage, stretch, depth, reach };

// The eye is under water.
struct UnderWater {
    float metres = 0;               // through which a third of the light comes; 0: it is not
    float deep = 0;                 // metres below the surface
    std::array<float, 3> colour{};  // sRGB, of deep water
    bool operator==(const UnderWater&) const = default;
};

struct Sight {
    bool contours = false;
    float contourStep = 5;  // metres
    Overlay overlay = Overlay::none;
    float walkable = 35;  // degrees: the steepest that a player can walk
    int soloLayer = 0;    // index of the layer whose coverage is shown
    float bandStep = 10;  // metres from one altitude band to the next
    ReliefLook relief;
    bool hatch = true;  // the ground inside the fence
    bool grid = false, mesh = false;
    float gridStep = 10;     // metres
    float liveMetres = 450;  // how far layers are blended live: the one quality knob
    float quadPixels = 10;   // size of the mesh on the picture

    UnderWater under;
    float waterTime = 0;  // seconds; water stands still while it does

    bool operator==(const Sight&) const = default;
};

// The colours of an overlay, sRGB 0..1, for its legend; `share` runs along its scale: steepness from 0 to 90 degrees,
// altitude from the lowest to the highest ground, curvature from hollow to crest,
// coverage from nothing to all, stretch from none to kStretchShown, depth from the shore to the deepest water.
glm::vec3 overlayColour(Overlay overlay, float share, float walkable);
constexpr float kStretchShown = 2;  // pictures three times as long as they should be
// Metres from one line of equal depth to the next, where water is so deep at most: 0.1, 0.25, 0.5, 1, 2.5, 5, ...
float depthLineStep(float deepest);
// The deepest water of the level's pools, in metres, at least 1: the end of the depth's scale.
float deepestShown(const Level& level);
// Rise per metre of the slope's change at which the curvature's colours are full, for this ground.
float curvatureScale(const Level& level);

// The coarse ones are quick and in fewer pixels, into a picture beside the kept one.
enum class Finish { coarsest, coarse, quick, full };
constexpr bool isCoarse(Finish finish) { return finish <= Finish::coarse; }
// Of the pixels each way.
constexpr double shareOf(Finish finish) {
    return finish == Finish::coarsest ? 0.5 : finish == Finish::coarse ? 2.0 / 3 : 1;
}

// Decodes the pictures of a level's layers, so that drawing it need not wait for them. Any thread. They are remembered.
void prepareMaterials(const Level& level);

// Threads: all calls, also the destructor, need the same context current.
class Renderer {
public:
    // Errors: OpenGL is older than 3.3, or a shader does not compile; in words for the user.
    static Result<std::unique_ptr<Renderer>> create();
    ~Renderer();

    // True when the driver draws on the processor.
    bool software() const;
    const std::string& driver() const;

    // Notes what differs from the level drawn before and returns it; see GroundTextures::sync. The pyramid belongs to
    // the level and must live, up to date, until the next call.
    Change sync(const Level& level, const HeightPyramid& pyramid, const Change* hint = nullptr);
    // Brings what is stale up to date for this view until `ms` have passed, what lies nearest first, at least one
    // piece. Returns the ground that is drawn differently now. Preconditions of all drawing: sync() and, for the same
    // camera and sight, bring() were called, and drawable().
    TileSet bring(const Camera& camera, const Sight& sight, double ms = 1e12);
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

    // Lets drawing wait for no room on the graphics side. Null, as at first, for taking it when it is met.
    void setRooms(std::shared_ptr<Rooms> rooms);
    // Lets drawing wait for no shader: a variant that is not ready is replaced by the plainest meanwhile, and wanted.
    // Null, as at first, for compiling each when it is met.
    void setVariants(std::shared_ptr<Variants> variants);
    // Compiles a variant to the end, by drawing with it out of sight. Preconditions as of draw().
    void makeVariant(const Variant& variant);

    // Draws into the kept picture (but see Finish), all of it or only inside `only`. Returns false when something was
    // drawn plainer than it should be, because what it needs is stale or not compiled yet: it has to be drawn again.
    bool draw(const Camera& camera, const Sight& sight, Finish finish, const PixelRect* only = nullptr);
    // One flat colour over the same geometry: the baseline of the frame benchmark.
    void drawFlat(const Camera& camera, const Sight& sight);
    // Copies part of the kept picture out, as BGRA rows from the top.
    void read(const PixelRect& part, uint8_t* bgra, int bytesPerRow);
    // Copies part of the coarse picture out, enlarged to the pixels of the kept one. Precondition: it was drawn, at
    // least in this part.
    void readCoarse(const PixelRect& part, uint8_t* bgra, int bytesPerRow);
    // Another look at the level, beside the kept picture, which stays: BGRA rows from the top, camera.width * 4 bytes
    // each.
    void drawAside(const Camera& camera, const Sight& sight, uint8_t* bgra);
    // A small part of another look alone, beside all pictures, quickly: `bgra` is its first pixel. Preconditions as of
    // draw().
    void drawGlimpse(const Camera& camera, const Sight& sight, const PixelRect& part, uint8_t* bgra, int bytesPerRow);
    // Copies the kept picture to the framebuffer bound for drawing.
    void show(unsigned framebuffer);

    // Number of triangles in the last draw; variants of the ground's shader that were compiled so far.
    int triangles() const;
    size_t shaders() const;

private:
    struct Impl;
    explicit Renderer(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> impl_;
};

}  // namespace jam
