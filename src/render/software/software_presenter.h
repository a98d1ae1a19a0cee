// Presents what a software driver draws, so that the picture follows the hand however long a whole one takes: what
// moves is drawn quickly and in as many pixels as there is time for (Pace), a look that turns is put together from what
// was seen (Panorama), and what rests is sharpened in pieces with events handled in between, nearest to the hand first
// (Refiner), and then averaged with pictures that lie apart by parts of a pixel for as long as no hand moves
// (Averager).
#pragma once

#include "render/presenter.h"
#include "render/software/averager.h"
#include "render/software/pace.h"
#include "render/software/panorama.h"
#include "render/software/pixel_renderer.h"
#include "render/software/refiner.h"

namespace jam {

class SoftwarePresenter : public Presenter {
public:
    SoftwarePresenter(Host& host, std::unique_ptr<PixelRenderer> pixels)
        : Presenter(host), pixels_(std::move(pixels)) {}

    // The picture: BGRA rows from the top, camera().width pixels each. Another size is another place in memory.
    uint32_t* picture() { return picture_.data(); }

    void resize(int width, int height) override;
    void setCamera(const Camera& camera) override;
    void hover() override;
    SceneRenderer* scene() override { return &pixels_->scene(); }

protected:
    void frame(SceneRenderer& scene) override;
    void work(Step step, SceneRenderer& scene) override;
    bool sharp() const override { return refiner_.done(); }
    void forgetSeen() override { seen_.forget(); }
    void forgetPace() override { refiner_.forget(), smoother_.forget(); }

private:
    // Brings more of the ground up to date, for so long, and lets the picture follow where it shows, but for `drawn`.
    void bring(SceneRenderer& scene, const TileSet& drawn, double ms);
    void refine(SceneRenderer& scene);
    // Averages another piece of a picture that rests.
    void smooth(SceneRenderer& scene);
    void smoothSoon();
    // This part was drawn anew.
    void drawn(const PixelRect& part);
    std::vector<PixelRect> pendingParts() const;
    void drawPart(const PixelRect& part, bool everything, bool first);
    // The whole picture from what was seen before the camera turned; false when that is of no use.
    bool drawTurned();
    void rememberPicture();
    Pace& pace();
    void goOn(Step step);
    uint8_t* pixel(const PixelRect& part);
    int bytesPerRow() const { return camera_.width * 4; }

    std::unique_ptr<PixelRenderer> pixels_;
    std::vector<uint32_t> picture_;
    Refiner refiner_;
    Averager average_;
    Refiner smoother_;               // which piece of it comes next
    int pass_ = 0;                   // that the pieces are given now; 0 before the first
    std::vector<uint32_t> scratch_;  // a piece of a pass
    Pace nearPace_{Pace::kNear}, farPace_{Pace::kAfar};
    Panorama seen_;          // from where the camera stands, while it turns; whatever changes lets go of it
    bool seenMore_ = false;  // the picture shows what the panorama does not know yet
    bool outdated_ = false;  // parts of the picture that wait to be refined show what is no more
    bool moving_ = false;    // the next frame is of another camera, or of what a hand does to the ground
    std::optional<double> hovered_, moved_, dabbed_;  // when the hand moved, the camera moved, a dab was drawn
    PixelRect dab_;                                   // what the last dab of a stroke drew anew
};

}  // namespace jam
