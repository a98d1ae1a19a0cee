#include "direct_presenter.h"

#include <algorithm>

namespace jam {

namespace {
constexpr double kBringMs = 4;     // for bringing ground up to date between two events
constexpr double kAgainMs = 100;   // from one picture to the next while some of it is brought, at least
constexpr double kAgainTimes = 8;  // and as many times as long as one takes
}  // namespace

Status DirectPresenter::begin() {
    Result<std::unique_ptr<SceneRenderer>> made = SceneRenderer::create();
    if (!made) return made.error();
    scene_ = made.take();
    target_.emplace();
    tellAgain();
    return {};
}

void DirectPresenter::end() {
    target_.reset();
    scene_.reset();
}

void DirectPresenter::show(unsigned framebuffer) const {
    if (target_ && target_->width() > 0) target_->show(framebuffer);
}

void DirectPresenter::read(uint8_t* bgra, int bytesPerRow) {
    if (target_ && target_->width() > 0) target_->read({0, 0, target_->width(), target_->height()}, bgra, bytesPerRow);
}

void DirectPresenter::frame(SceneRenderer& scene) {
    sync(scene);
    forgetPending();
    scene.bring(camera_, sight_, kBringMs);
    if (scene.drawable()) draw(scene);
    host_.framed(scene.drawable());
    if (scene.stale()) start(Step::bring);
}

// Between events, so that the hand comes first.
void DirectPresenter::work(Step, SceneRenderer& scene) {
    const bool waited = !scene.drawable();
    scene.bring(camera_, sight_, kBringMs);
    if (scene.stale()) start(Step::bring);
    if (!scene.drawable()) return;
    if (waited || !scene.stale() || host_.now() - drawn_ > std::max(kAgainMs, kAgainTimes * took_)) draw(scene);
}

void DirectPresenter::draw(SceneRenderer& scene) {
    const PixelRect whole{0, 0, camera_.width, camera_.height};
    all_ = fresh_ = refresh_ = false;
    const double begun = host_.now();
    target_->resize(whole.width, whole.height);
    scene.draw(*target_, {camera_, sight_, {}, whole, {}});
    drawn_ = host_.now();
    took_ = drawn_ - begun;
    host_.shown(whole);
}

}  // namespace jam
