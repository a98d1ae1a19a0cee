// Frame times on the demo level, as ratios to a flat-shaded full frame of the same view in the same run.
// usage: frames LEVEL [PICTURE.png]
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>
#include <utility>
#include <vector>

#include "files/level_file.h"
#include "files/png.h"
#include "level/ground.h"
#include "offscreen_gl.h"
#include "render/driver.h"
#include "render/navigator.h"
#include "render/software/panorama.h"
#include "render/software/pixel_renderer.h"
#include "stroke/stroker.h"
#include "survey/sunlight.h"
#include "water/rise.h"
#include "water/water.h"

using namespace jam;

namespace {

double now() {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

struct Times {
    double median, worst20;
};

Times measure(int rounds, const std::function<void(int)>& work) {
    std::vector<double> t;
    for (int i = 0; i < rounds; ++i) {
        const double start = now();
        work(i);
        t.push_back(now() - start);
    }
    std::sort(t.begin(), t.end());
    return {t[t.size() / 2], t[t.size() * 19 / 20]};
}

void row(const char* name, Times t, double flat, const char* goal) {
    std::printf("%-44s %8.1f ms %8.1f ms %8.2f  %s\n", name, t.median, t.worst20, t.median / flat, goal);
}

// A level in the view that the window starts with.
class Frames {
public:
    Frames(Level level, PixelRenderer& renderer)
        : level_(std::move(level)), pyramid_(level_), r_(renderer), camera_(Navigator(level_, pyramid_).overview({})),
          pixels_(static_cast<size_t>(camera_.width) * static_cast<size_t>(camera_.height) * 4) {}

    void uploads() {
        const double start = now();
        r_.scene().sync(level_, pyramid_);
        r_.scene().bring(camera_, sight_);
        const double synced = now();
        auto light = std::make_shared<Raster<uint8_t>>(level_.columns, level_.rows);
        readSunlight(level_, light->view());
        const double lit = now();
        auto open = std::make_shared<Raster<uint8_t>>(level_.columns, level_.rows);
        readOpenness(level_, open->view());
        const double opened = now();
        r_.scene().setShade({light, open});
        r_.scene().bring(camera_, sight_);
        std::printf("%s: first upload %.0f ms, sunlight %.0f ms, openness %.0f ms, their upload %.0f ms\n",
                    driverName().c_str(), synced - start, lit - synced, opened - lit, now() - opened);
    }

    void rows() {
        r_.drawFlat(camera_, sight_);
        const Times flat = measure(20, [&](int) {
            r_.drawFlat(camera_, sight_);
            fetch(all());
        });
        std::printf("%-44s %11s %11s %8s  %s\n", "what", "median", "95 %", "ratio", "goal");
        row("flat frame (baseline)", flat, flat.median, "");
        r_.draw(camera_, sight_, Finish::quick);
        const Camera ahead = camera_;
        const Times moving = measure(20, [&](int i) {
            camera_.yaw = i * 0.5;
            r_.draw(camera_, sight_, Finish::quick);
            fetch(all());
        });
        row("camera moving, every pixel", moving, flat.median, "");
        const Times coarse = measure(20, [&](int i) {
            camera_.yaw = i * 0.5;
            r_.draw(camera_, sight_, Finish::coarse);
            r_.readCoarse(all(), pixels_.data(), camera_.width * 4);
        });
        row("camera moving, in fewer pixels", coarse, flat.median, "<= 1.6");
        camera_ = ahead;
        r_.draw(camera_, sight_, Finish::quick);
        fetch(all());
        Panorama seen;
        seen.take(camera_, sight_, pixels_.data(), camera_.width * 4);
        const auto show = [&](int) { seen.show(camera_, pixels_.data(), camera_.width * 4); };
        const Times turning = measure(20, [&](int i) {
            camera_.yaw = ahead.yaw + i * 0.5;
            const auto missing = seen.missing(camera_);
            for (const Panorama::Glimpse& g : missing.value())
                r_.drawGlimpse(g.camera, sight_, g.part, reinterpret_cast<uint8_t*>(seen.room(g)), 4 * g.part.width);
            show(i);
        });
        row("camera turning on the spot", turning, flat.median, "<= 1.6");
        row("the same, all of it seen before", measure(20, show), flat.median, "");
        camera_ = ahead;
        r_.draw(camera_, sight_, Finish::full);
        fetch(all());
        row("whole picture, all layers", measure(5, [&](int) { full(all(), nullptr); }), flat.median, "");
        camera_.at = {level_.originX + level_.width() / 2, 0, level_.originZ + level_.depth() / 2};
        camera_.at.y = altitudeAt(level_, camera_.at.x, camera_.at.z) + 20;
        camera_.pitch = -18;
        r_.scene().bring(camera_, sight_);
        r_.draw(camera_, sight_, Finish::full);
        row("whole picture, 20 m above the middle", measure(5, [&](int) { full(all(), nullptr); }), flat.median, "");
        camera_ = ahead;
        r_.scene().bring(camera_, sight_);
        const PixelRect tile{384, 300, 192, 192};
        row("refining, longest tile of 192 x 192", measure(5, [&](int) { full(tile, &tile); }), flat.median, "<= 2");
        // As many pixels in one of the driver's squares, and half in one and half in the next.
        const PixelRect one{512, 448, 32, 32}, two{496, 448, 32, 32};
        row("refining 32 x 32 in one square", measure(9, [&](int) { full(one, &one); }), flat.median, "");
        row("refining 32 x 32 across two", measure(9, [&](int) { full(two, &two); }), flat.median, "");
        dabs(flat.median);
    }

    Status save(const char* path) {
        full(all(), nullptr);
        Pixels p{camera_.width, camera_.height, 3, 8, {}};
        for (size_t i = 0; i < pixels_.size(); i += 4)
            p.samples.insert(p.samples.end(), {pixels_[i + 2], pixels_[i + 1], pixels_[i]});
        AtomicFile out(path);
        if (Status s = out.write(encodePng(p)); !s) return s;
        return out.commit();
    }

private:
    PixelRect all() const { return {0, 0, camera_.width, camera_.height}; }
    void fetch(const PixelRect& p) { r_.read(p, pixels_.data(), camera_.width * 4); }
    void full(const PixelRect& part, const PixelRect* only) {
        r_.draw(camera_, sight_, Finish::full, only);
        fetch(part);
    }

    void dabs(double flat) {
        const auto centre = pickGround(level_, pyramid_, camera_.ray(480, 380));
        StrokeSettings settings;
        settings.radius = static_cast<float>(64 * level_.spacing);
        settings.strength = 2;
        int drawn = 0;
        const auto dabs = [&] {
            return measure(40, [&](int i) {
                StrokeSettings s = settings;
                if (i % 2) s.tool = Tool::lower;
                Stroker stroker(s, level_);
                Change change = stroker.add(level_, {centre->x, centre->z, 1, 0});
                change.waters = lake_;
                if (waterWork(level_, change) > 0) change.water.add(refreshWater(level_, change));
                const Region ground = change.ground.bounds();
                const HeightSpan before = pyramid_.spanOf(ground);
                pyramid_.update(level_, change.ground);
                const PixelRect rect = pixelsOf(level_, ground, before.joined(pyramid_.spanOf(ground)), camera_);
                r_.scene().sync(level_, pyramid_, &change);
                r_.scene().bring(camera_, sight_);
                full(rect, &rect);
                drawn = rect.width * rect.height;
            });
        };
        const Times dab = dabs();
        row("dab to picture, R = 64 samples", dab, flat, "<= 1.0");
        // The same where a lake of the whole valley has to follow, as if its ground were touched each time.
        constexpr double kLakeX = 150, kLakeZ = 318;  // the demo level's pond
        const std::vector<Pool> pools = std::exchange(level_.pools, {});
        const std::vector<Stream> streams = std::exchange(level_.streams, {});
        refillWater(level_);
        r_.scene().sync(level_, pyramid_);
        r_.scene().bring(camera_, sight_);
        const Times dry = dabs();
        lake_ = true;
        const std::vector<Brim> brims = brimsAt(level_, kLakeX, kLakeZ, -1e9f, 9);
        Pool lake = poolStanding(level_, kLakeX, kLakeZ, brims.back().height).value();
        lake.name = "lake";
        (void)addPool(level_, lake);
        refillWater(level_);
        const double flooded = static_cast<double>(level_.water.presentTiles()) * 4096;
        r_.scene().sync(level_, pyramid_);
        r_.scene().bring(camera_, sight_);
        row("the same where a lake follows it", dabs(), dry.median, "<= 1.2");
        std::printf("(of at most %.0f samples; against the same dab without water)\n", flooded);
        lake_ = false;
        level_.pools = pools, level_.streams = streams;
        refillWater(level_);
        r_.scene().sync(level_, pyramid_);
        std::printf("(the dab covers %d pixels; %d triangles in the view)\n", drawn, r_.scene().triangles());
    }

    Level level_;
    HeightPyramid pyramid_;
    PixelRenderer& r_;
    Camera camera_;
    Sight sight_;
    std::vector<uint8_t> pixels_;
    bool lake_ = false;  // water is taken to be touched by every dab
};

int fail(const std::string& sentence) { return std::fprintf(stderr, "%s\n", sentence.c_str()), 2; }

}  // namespace

int main(int count, char** words) {
    if (count < 2) return fail("usage: frames LEVEL [PICTURE.png]");
    const auto gl = test::OffscreenGl::open();
    if (!gl) return fail("No OpenGL here.");
    Result<Level> level = loadLevel(words[1]);
    if (!level) return fail(level.error().sentence());
    auto renderer = PixelRenderer::create();
    if (!renderer) return fail(renderer.error().sentence());
    Frames frames(level.take(), *renderer.value());
    frames.uploads();
    frames.rows();
    if (count < 3) return 0;
    const Status saved = frames.save(words[2]);
    return saved ? 0 : fail(saved.error().sentence());
}
