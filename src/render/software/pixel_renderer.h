// Draws pictures with a software driver and reads their pixels back: a kept picture, a coarse one beside it that is
// enlarged when it is read, and small parts of other looks.
#pragma once

#include "render/scene_renderer.h"
#include "render/software/finish.h"
#include "render/software/room_queue.h"
#include "render/software/variant_queue.h"

namespace jam {

// Threads: all calls, also the destructor, need the same context current.
class PixelRenderer {
public:
    // Errors: as of SceneRenderer::create().
    static Result<std::unique_ptr<PixelRenderer>> create();

    // Lets drawing wait for no shader and no room: whoever serves the queues does what they ask for. Null for doing it
    // when it is met.
    void setQueues(std::shared_ptr<VariantQueue> variants, std::shared_ptr<RoomQueue> rooms);

    SceneRenderer& scene() { return *scene_; }

    // Draws into the kept picture (but see Finish), all of it or only inside `only`. As SceneRenderer::draw().
    // `pass`: of a full one.
    bool draw(const Camera& camera, const Sight& sight, Finish finish, const PixelRect* only = nullptr,
              const Pass& pass = {});
    void drawFlat(const Camera& camera, const Sight& sight);
    // Copies part of the kept picture out, as BGRA rows from the top.
    void read(const PixelRect& part, uint8_t* bgra, int bytesPerRow) { kept_.read(part, bgra, bytesPerRow); }
    // Copies part of the coarse picture out, enlarged to the pixels of the kept one. Precondition: it was drawn, at
    // least in this part.
    void readCoarse(const PixelRect& part, uint8_t* bgra, int bytesPerRow);
    // A small part of another look alone, beside all pictures, quickly: `bgra` is its first pixel. Preconditions as of
    // draw().
    void drawGlimpse(const Camera& camera, const Sight& sight, const PixelRect& part, uint8_t* bgra, int bytesPerRow);

private:
    explicit PixelRenderer(std::unique_ptr<SceneRenderer> scene);

    std::unique_ptr<SceneRenderer> scene_;
    std::shared_ptr<MeshHelper> mesh_;
    Target kept_, coarse_, tall_, wide_;  // the last two for parts that stand and that lie
    PictureWish coarsely_;                // how the coarse one was drawn last
    std::vector<uint32_t> fetched_;       // kept between uses for its room
};

}  // namespace jam
