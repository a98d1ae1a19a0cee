#include "render/software/pixel_renderer.h"

#include <algorithm>
#include <cmath>

#include "render/software/calm_ground.h"
#include "render/software/driver_threads.h"
#include "render/software/enlarge.h"

namespace jam {

PixelRenderer::PixelRenderer(std::unique_ptr<SceneRenderer> scene)
    : scene_(std::move(scene)), mesh_(std::make_shared<CalmGround>()) {
    setQueues(nullptr, nullptr);
}

Result<std::unique_ptr<PixelRenderer>> PixelRenderer::create() {
    Result<std::unique_ptr<SceneRenderer>> scene = SceneRenderer::create(false);
    if (!scene) return scene.error();
    spreadDriverThreads();
    return std::unique_ptr<PixelRenderer>(new PixelRenderer(scene.take()));
}

void PixelRenderer::setQueues(std::shared_ptr<VariantQueue> variants, std::shared_ptr<RoomQueue> rooms) {
    scene_->setHelpers({std::move(variants), std::move(rooms), mesh_});
}

bool PixelRenderer::draw(const Camera& camera, const Sight& sight, Finish finish, const PixelRect* only,
                         const Pass& pass) {
    const auto fewer = [&](int pixels) { return std::max(2, static_cast<int>(std::lround(pixels * shareOf(finish)))); };
    PictureWish wish{camera,
                     sight,
                     qualityOf(finish, only ? kPartGrain : kMovingGrain),
                     {},
                     only ? std::optional(*only) : std::nullopt};
    wish.quality.pass = pass;
    Target& target = isCoarse(finish) ? coarse_ : kept_;
    wish.place = isCoarse(finish) ? PixelRect{0, 0, fewer(camera.width), fewer(camera.height)}
                                  : PixelRect{0, 0, camera.width, camera.height};
    target.resize(wish.place.width, wish.place.height);
    if (isCoarse(finish)) coarsely_ = wish;
    return scene_->draw(target, wish);
}

void PixelRenderer::drawFlat(const Camera& camera, const Sight& sight) {
    kept_.resize(camera.width, camera.height);
    scene_->drawFlat(kept_, camera, sight);
}

void PixelRenderer::readCoarse(const PixelRect& part, uint8_t* bgra, int bytesPerRow) {
    const PixelRect few = inTarget(coarsely_, part);
    coarse_.fetch(few, fetched_);
    Enlarged across = enlarged(coarse_.width(), coarsely_.camera.width, part.x, part.x + part.width);
    for (int& from : across.from) from -= few.x;
    const Enlarged down = enlarged(coarse_.height(), coarsely_.camera.height, part.y, part.y + part.height);
    enlargeRows(fetched_.data(), few.width, few.height, few.y, across, down, bgra, bytesPerRow);
}

void PixelRenderer::drawGlimpse(const Camera& camera, const Sight& sight, const PixelRect& part, uint8_t* bgra,
                                int bytesPerRow) {
    Target& target = part.width < part.height ? tall_ : wide_;
    target.makeRoom(part.width, part.height);
    // The part lies in the lower left corner, wherever the target ends.
    const int top = target.height() - part.height;
    const PictureWish wish{camera,
                           sight,
                           qualityOf(Finish::quick, kPartGrain),
                           {-part.x, top - part.y, camera.width, camera.height},
                           part};
    scene_->draw(target, wish);
    target.read({0, top, part.width, part.height}, bgra, bytesPerRow);
}

}  // namespace jam
