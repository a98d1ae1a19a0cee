// Decides what of a level's picture is drawn when. There are two: a short one for graphics cards
// (direct_presenter.h), which draws all of it whenever something changes, and one for software drivers
// (software/software_presenter.h), which draws quickly what moves and sharpens what rests, piece by piece.
// Neither has a clock or a window of its own, so that both run in tests as in the window.
#pragma once

#include <glm/vec2.hpp>
#include <vector>

#include "scene_renderer.h"
#include "schedule.h"
#include "survey/changed_patch.h"

namespace jam {

// What a hand is at, as far as drawing has to know.
struct HandAtWork {
    bool strokes = false;          // it changes the ground
    bool movesCamera = false;      // or travelling does
    std::optional<glm::dvec2> at;  // the pixel under it
};

class Presenter {
public:
    // Whoever shows the picture.
    class Host {
    public:
        virtual ~Host() = default;
        virtual double now() = 0;  // milliseconds
        // step() is to be called after so many milliseconds; of two wishes the later one counts.
        virtual void wake(double ms) = 0;
        virtual void makeCurrent() = 0;
        virtual HandAtWork hand() = 0;
        // The level that is seen, and its pyramid.
        virtual const Level& level() = 0;
        virtual const HeightPyramid& pyramid() = 0;
        // These pixels show something else.
        virtual void shown(const PixelRect& part) = 0;
        // A picture that waited is done; `moved` says whether the ground lies elsewhere in it.
        virtual void framed(bool moved) = 0;
        virtual void trouble(const Error& error) = 0;
    };

    explicit Presenter(Host& host) : host_(host) {}
    virtual ~Presenter() = default;

    // The picture has so many pixels. Nothing is drawn before it has any.
    virtual void resize(int width, int height);
    const Camera& camera() const { return camera_; }
    // Its width and height are the picture's.
    virtual void setCamera(const Camera& camera);
    const Sight& sight() const { return sight_; }
    // What one looks at is shown otherwise, as soon as each place is drawn again; or all at once.
    void setSight(const Sight& sight);
    void setSightAtOnce(const Sight& sight);

    // The host's level is another one altogether; or it changed, which `follows` a stroke; or what it looks like did.
    void adopt();
    void change(const Change& change, const std::vector<ChangedPatch>& patches, bool follows);
    void refresh();

    // As of SceneRenderer. They are remembered until there is a scene to tell them to.
    bool flatLight() const { return flat_; }
    void setFlatLight(bool flat);
    void setShade(const Shade& shade, const TileSet* changed);
    void setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride);
    using Strips = std::array<std::shared_ptr<const Level>, kLevelSides>;
    void setGhosts(const Strips& strips);

    // Shows what another one did, that cannot.
    void takeOver(const Presenter& other);

    // The hand moved over the picture.
    virtual void hover() {}
    // Does what is due.
    void step();
    // Whether a picture is to be drawn; whether nothing at all is.
    bool frameWaits() const { return steps_.waits(Step::frame); }
    bool settled() const { return sharp() && !steps_.anyBut(Step::smooth) && !all_ && !refresh_; }
    // Nor is it averaged any more.
    bool rested() const { return settled() && !steps_.any(); }
    // How many pictures are averaged at rest, [0, kPasses]; 0, as at first, leaves it sharp.
    void setPasses(int passes);

    // Another look at the level, beside the picture, as sharp as it can be: BGRA rows from the top, camera.width * 4
    // bytes each. False before anything can be drawn.
    bool drawAside(const Camera& camera, const Sight& sight, uint8_t* bgra);
    // Null before anything can be drawn.
    virtual SceneRenderer* scene() = 0;

protected:
    // In the order in which those due at once are taken.
    enum class Step { frame, bring, refine, follow, rest, retry, smooth };

    virtual void frame(SceneRenderer& scene) = 0;
    virtual void work(Step step, SceneRenderer& scene) = 0;
    virtual bool sharp() const { return true; }
    // Something is drawn otherwise than what was remembered of it.
    virtual void forgetSeen() {}
    // Another picture takes another time.
    virtual void forgetPace() {}

    void start(Step step, double after = 0);
    // Asks for step() when the next is due. To be called at the end of whatever may have changed that.
    void wake();
    void redrawAll();
    void forgetPending();
    // There is another scene, which knows nothing yet.
    void tellAgain();
    // Tells the scene of all that waits to be told.
    void sync(SceneRenderer& scene);

    Host& host_;
    Camera camera_ = unsized();
    Sight sight_;
    Schedule<Step, static_cast<size_t>(Step::smooth) + 1> steps_;
    int passes_ = 0;
    bool all_ = true, fresh_ = true, refresh_ = false;  // out of date: all of it; of another level; what it looks like
    Change pending_;
    std::vector<ChangedPatch> patches_;  // where it shows

private:
    static Camera unsized() {
        Camera c;
        c.width = c.height = 0;
        return c;
    }

    bool flat_ = false;
    Shade shade_;
    std::optional<TileSet> shadeChanged_;  // none for everywhere
    std::shared_ptr<const Raster<uint8_t>> reach_;
    int reachStride_ = 1;
    Strips ghosts_;

    // What of it the scene was not told.
    bool flatWaits_ = false, shadeWaits_ = false, reachWaits_ = false, ghostsWait_ = false;
};

}  // namespace jam
