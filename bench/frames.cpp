// Frame times on the demo level, as ratios to a flat-shaded full frame of the same view in the same run.
// usage: frames LEVEL [PICTURE.png]
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>
#include <vector>

#include "files/level_file.h"
#include "files/png.h"
#include "level/ground.h"
#include "offscreen_gl.h"
#include "render/navigator.h"
#include "render/renderer.h"
#include "stroke/stroker.h"
#include "survey/sunlight.h"

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

}  // namespace

int main(int count, char** words) {
    if (count < 2) return std::fprintf(stderr, "usage: frames LEVEL [PICTURE.png]\n"), 2;
    const auto gl = test::OffscreenGl::open();
    if (!gl) return std::fprintf(stderr, "No OpenGL here.\n"), 2;
    Result<Level> loaded = loadLevel(words[1]);
    if (!loaded) return std::fprintf(stderr, "%s\n", loaded.error().sentence().c_str()), 2;
    Level level = loaded.take();
    HeightPyramid pyramid(level);
    auto made = Renderer::create();
    if (!made) return std::fprintf(stderr, "%s\n", made.error().sentence().c_str()), 2;
    Renderer& r = *made.value();
    double start = now();
    r.sync(level, pyramid);
    Camera camera = Navigator(level, pyramid).overview({});
    r.bring(camera, {});
    auto light = std::make_shared<Raster<uint8_t>>(level.columns, level.rows);
    const double synced = now();
    readSunlight(level, light->view());
    const double lit = now();
    auto open = std::make_shared<Raster<uint8_t>>(level.columns, level.rows);
    readOpenness(level, open->view());
    r.setShade({light, open});
    r.bring(camera, {});
    std::printf("%s: first upload %.0f ms, sunlight %.0f ms, its upload %.0f ms\n", r.driver().c_str(), synced - start,
                lit - synced, now() - lit);

    // The view that the window starts with.
    const Sight look;
    std::vector<uint8_t> pixels(static_cast<size_t>(camera.width) * static_cast<size_t>(camera.height) * 4);
    const PixelRect all{0, 0, camera.width, camera.height};
    const auto fetch = [&](const PixelRect& p) { r.read(p, pixels.data(), camera.width * 4); };

    r.drawFlat(camera, look);
    const Times flat = measure(20, [&](int) {
        r.drawFlat(camera, look);
        fetch(all);
    });
    std::printf("%-44s %11s %11s %8s  %s\n", "what", "median", "95 %", "ratio", "goal");
    row("flat frame (baseline)", flat, flat.median, "");
    r.draw(camera, look, Finish::quick);
    row("camera moving",
        measure(20,
                [&](int i) {
                    camera.yaw = i * 0.5;
                    r.draw(camera, look, Finish::quick);
                    fetch(all);
                }),
        flat.median, "<= 1.6");
    camera.yaw = 0;
    r.draw(camera, look, Finish::full);
    fetch(all);
    row("whole picture, all layers",
        measure(5,
                [&](int) {
                    r.draw(camera, look, Finish::full);
                    fetch(all);
                }),
        flat.median, "");
    row("refining, longest tile of 192 x 192",
        measure(5,
                [&](int) {
                    const PixelRect tile{384, 300, 192, 192};
                    r.draw(camera, look, Finish::full, &tile);
                    fetch(tile);
                }),
        flat.median, "<= 2");
    const auto centre = pickGround(level, pyramid, camera.ray(480, 380));
    StrokeSettings settings;
    settings.radius = static_cast<float>(64 * level.spacing);
    settings.strength = 2;
    int drawn = 0;
    row("dab to picture, R = 64 samples",
        measure(40,
                [&](int i) {
                    StrokeSettings s = settings;
                    if (i % 2) s.tool = Tool::lower;
                    Stroker stroker(s, level);
                    const Change change = stroker.add(level, {centre->x, centre->z, 1, 0});
                    const HeightSpan before = pyramid.spanOf(change.ground.bounds());
                    pyramid.update(level, change.ground);
                    const PixelRect rect = pixelsOf(level, change.ground.bounds(),
                                                    before.joined(pyramid.spanOf(change.ground.bounds())), camera);
                    r.sync(level, pyramid, &change);
                    r.bring(camera, look);
                    r.draw(camera, look, Finish::full, &rect);
                    fetch(rect);
                    drawn = rect.width * rect.height;
                }),
        flat.median, "<= 1.0");
    std::printf("(the dab covers %d pixels; %d triangles in the view)\n", drawn, r.triangles());
    if (count > 2) {
        r.draw(camera, look, Finish::full);
        fetch(all);
        Pixels p{camera.width, camera.height, 3, 8, {}};
        for (size_t i = 0; i < pixels.size(); i += 4)
            p.samples.insert(p.samples.end(), {pixels[i + 2], pixels[i + 1], pixels[i]});
        AtomicFile out(words[2]);
        if (!out.write(encodePng(p)) || !out.commit()) return 2;
    }
    return 0;
}
