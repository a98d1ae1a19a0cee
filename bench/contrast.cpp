// How much detail the picture of each layer keeps with distance: local contrast against that at 5 m, the same layer in
// the same light, on even ground; and how a moving picture differs from one at rest in brightness and contrast.
// usage: bench_contrast LAYERS
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <vector>

#include "files/layer_set.h"
#include "offscreen_gl.h"
#include "render/software/pixel_renderer.h"

using namespace jam;

namespace {

constexpr double kAway[] = {5, 15, 50, 150, 400};
constexpr int kWidth = 640, kHeight = 480, kMean = 4;

struct Seen {
    double brightness, contrast;  // of 255
};

// The mean brightness, and its root mean square against its mean over 9 x 9 pixels, in the middle of the picture, where
// the ground is about as far away as the place looked at.
Seen seenIn(const std::vector<uint8_t>& bgra) {
    const auto light = [&](int x, int y) {
        const uint8_t* p = &bgra[static_cast<size_t>((y * kWidth + x) * 4)];
        return 0.2126 * p[2] + 0.7152 * p[1] + 0.0722 * p[0];
    };
    double squares = 0, sum = 0;
    int count = 0;
    for (int y = kHeight / 2 - 60; y < kHeight / 2 + 60; ++y)
        for (int x = kWidth / 2 - 120; x < kWidth / 2 + 120; ++x) {
            double mean = 0;
            for (int v = -kMean; v <= kMean; ++v)
                for (int u = -kMean; u <= kMean; ++u) mean += light(x + u, y + v);
            const double d = light(x, y) - mean / ((2 * kMean + 1) * (2 * kMean + 1));
            squares += d * d;
            sum += light(x, y);
            ++count;
        }
    return {sum / count, std::sqrt(squares / count)};
}

Seen seenFrom(PixelRenderer& r, double away, Finish finish, const PixelRect* part = nullptr) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.pitch = -32;
    c.yaw = 20;
    const glm::dvec3 looks = c.forward();
    c.at = glm::dvec3(7, 0, -11) - looks * away;
    std::vector<uint8_t> pixels(static_cast<size_t>(kWidth) * kHeight * 4);
    r.scene().bring(c, {});
    r.draw(c, {}, finish, part);
    r.read({0, 0, kWidth, kHeight}, pixels.data(), kWidth * 4);
    return seenIn(pixels);
}

int fail(const std::string& sentence) { return std::fprintf(stderr, "%s\n", sentence.c_str()), 2; }

}  // namespace

int main(int count, char** words) {
    if (count < 2) return fail("usage: bench_contrast LAYERS");
    const auto gl = test::OffscreenGl::open();
    if (!gl) return fail("No OpenGL here.");
    Result<std::vector<Layer>> layers = readLayerSet(words[1]);
    if (!layers) return fail(layers.error().sentence());
    auto renderer = PixelRenderer::create();
    if (!renderer) return fail(renderer.error().sentence());
    std::printf("local contrast at so many metres, against 5 m (goal >= 0.5)\n\n%-18s %8s", "layer", "at 5 m");
    for (size_t i = 1; i < std::size(kAway); ++i) std::printf("%8.0f", kAway[i]);
    std::printf("\n");
    struct Range {
        double least = 1e9, most = 0;
        void add(double v) { least = std::min(least, v), most = std::max(most, v); }
    };
    std::array<Range, std::size(kAway)> kept, brighter, livelier, partBrighter, partLivelier;
    for (const Layer& layer : layers.value()) {
        NewLevel wish;
        wish.columns = wish.rows = 1025;
        Level level = makeLevel(wish).take();
        addLayer(level, layer);
        const HeightPyramid pyramid(level);
        renderer.value()->scene().sync(level, pyramid);
        std::printf("%-18s", layer.name.c_str());
        double near = 0;
        for (size_t i = 0; i < std::size(kAway); ++i) {
            const Seen still = seenFrom(*renderer.value(), kAway[i], Finish::full),
                       moving = seenFrom(*renderer.value(), kAway[i], Finish::quick);
            const PixelRect dab{kWidth / 4, kHeight / 4, kWidth / 2, kHeight / 2};
            const Seen part = seenFrom(*renderer.value(), kAway[i], Finish::quick, &dab);
            partBrighter[i].add(part.brightness / still.brightness),
                partLivelier[i].add(part.contrast / still.contrast);
            if (i == 0) near = still.contrast, std::printf(" %8.1f", near);
            else std::printf("%8.2f", still.contrast / near), kept[i].add(still.contrast / near);
            brighter[i].add(moving.brightness / still.brightness), livelier[i].add(moving.contrast / still.contrast);
        }
        std::printf("\n");
    }
    std::printf("%-18s %8s", "least", "");
    for (size_t i = 1; i < std::size(kAway); ++i) std::printf("%8.2f", kept[i].least);
    std::printf(
        "\n\na moving picture, and what a dab changes, against one at rest, the least and the most of all "
        "layers\n\n%-24s",
        "");
    for (const double away : kAway) std::printf("%12.0f m", away);
    for (const auto& [name, ranges] : {std::pair{"brightness", &brighter},
                                       {"local contrast", &livelier},
                                       {"brightness of a dab", &partBrighter},
                                       {"contrast of a dab", &partLivelier}}) {
        std::printf("\n%-24s", name);
        for (const Range& r : *ranges) std::printf("%9.2f %4.2f", r.least, r.most);
    }
    std::printf("\n");
    return 0;
}
