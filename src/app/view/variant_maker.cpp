#include "view/variant_maker.h"

#include <QOpenGLContext>

#include "files/png.h"
#include "render/scene_renderer.h"

namespace jam {

namespace {

using namespace std::chrono_literals;
constexpr auto kCompiled = 60ms;  // what takes longer was not in the cache
constexpr auto kWritten = 250ms;
constexpr int kTries = 6;

// The smallest thing that can be drawn.
Level smallest() {
    NewLevel wish;
    wish.columns = wish.rows = 9;
    Level level = makeLevel(wish).take();
    Layer layer;
    layer.colour = std::make_shared<PictureFile>(PictureFile{"grey.png", encodePng({1, 1, 3, 8, {128, 128, 128}})});
    layer.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    addLayer(level, std::move(layer));
    return level;
}

}  // namespace

VariantMaker::VariantMaker() {
    offscreen_.setFormat(QSurfaceFormat::defaultFormat());
    offscreen_.create();
    compiling_.serve();
    compiling_.run<void>(
        QObject::tr("Compiling for drawing"),
        [this](const Context&) -> Status {
            work();
            return {};
        },
        // From then on each is compiled when it is met.
        [this](const Status&) { variants_->stop(); });
}

VariantMaker::~VariantMaker() {
    variants_->stop();
    compiling_.stop();
}

void VariantMaker::work() {
    QOpenGLContext context;
    std::unique_ptr<SceneRenderer> scene;
    std::optional<Target> target;
    if (context.create() && context.makeCurrent(&offscreen_)) {
        Result<std::unique_ptr<SceneRenderer>> made = SceneRenderer::create(false);
        if (made) scene = made.take(), target.emplace();
    }
    // Without a second context each is compiled when it is met.
    if (!scene) return variants_->stop();
    const Level level = smallest();
    const HeightPyramid pyramid(level);
    scene->sync(level, pyramid);
    while (const std::optional<Variant> variant = variants_->next()) {
        // What had to be compiled is written to the driver's cache by a thread of the lowest priority; asked for before
        // it is there, it would be compiled once more, in front of the window. So it is made until it is found.
        for (int i = 0; i < kTries; ++i) {
            const auto begun = std::chrono::steady_clock::now();
            scene->makeVariant(*target, *variant);
            if (std::chrono::steady_clock::now() - begun < kCompiled) break;
            variants_->pause(kWritten);
        }
        variants_->done(*variant);
    }
    target.reset();
    scene.reset();
    context.doneCurrent();
}

}  // namespace jam
