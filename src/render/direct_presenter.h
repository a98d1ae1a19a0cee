// Presents what a graphics card draws: all of the picture, sharp, whenever something changes.
#pragma once

#include "presenter.h"

namespace jam {

class DirectPresenter : public Presenter {
public:
    using Presenter::Presenter;

    // A context is there, and current: begins to draw. Errors: as of SceneRenderer::create().
    Status begin();
    // The context goes, and is current for the last time.
    void end();
    // Copies the picture to the framebuffer that is named.
    void show(unsigned framebuffer) const;
    // Copies the picture out, as BGRA rows from the top.
    void read(uint8_t* bgra, int bytesPerRow);
    SceneRenderer* scene() override { return scene_.get(); }

protected:
    void frame(SceneRenderer& scene) override;
    void work(Step step, SceneRenderer& scene) override;

private:
    void draw(SceneRenderer& scene);

    std::unique_ptr<SceneRenderer> scene_;
    std::optional<Target> target_;
    double drawn_ = 0, took_ = 0;  // when it was last, and how long that took; ms
};

}  // namespace jam
