// Pictures of a level that was worked on, step by step, are those of a renderer that never saw it before.
#include "picture.h"
#include "sequences.h"

using namespace jam;
using namespace jam::test;

namespace {

// A renderer that follows a player, and another that has always just forgotten what it knew.
struct Painter {
    HeightPyramid pyramid;
    Level known;
    static PixelRenderer& fresh() {
        static const std::unique_ptr<PixelRenderer> own = PixelRenderer::create().take();
        return *own;
    }

    explicit Painter(const Level& level) : pyramid(level), known(level) { renderer().scene().sync(level, pyramid); }

    void follow(const Level& level) {
        if (sameRaster(level, known)) {
            const Change change = changesBetween(level, known);
            pyramid.update(level, change.ground);
            renderer().scene().sync(level, pyramid, &change);
        } else {
            pyramid = HeightPyramid(level);
            renderer().scene().sync(level, pyramid);
        }
        known = level;
    }
    std::optional<std::string> differs() const {
        const Level other = flatLevel(33, 33);
        const HeightPyramid otherPyramid(other), anew(known);
        fresh().scene().sync(other, otherPyramid);
        fresh().scene().sync(known, anew);
        const double x = known.originX + 0.5 * known.width(), z = known.originZ + known.depth();
        for (const double pitch : {-25.0, -60.0}) {
            const Camera camera = slanting(known, x, z, 40, pitch);
            const Shot now = take(renderer(), camera, Finish::full), then = take(fresh(), camera, Finish::full);
            int pixels = 0;
            for (int y = 0; y < kHeight; ++y)
                for (int c = 0; c < kWidth; ++c) pixels += now.at(c, y) != then.at(c, y);
            if (pixels > 0) return std::to_string(pixels) + " pixels differ from those of a fresh renderer";
        }
        return std::nullopt;
    }
};

Look painter(const Level& start, bool thorough) {
    auto paints = std::make_shared<Painter>(start);
    return [paints, thorough](const Player& player) -> std::optional<std::string> {
        paints->follow(player.level());
        if (thorough || player.steps() % 10 == 0) return paints->differs();
        return std::nullopt;
    };
}

}  // namespace

TEST_CASE("after any sequence of work the picture is a fresh renderer's", "[property]") {
    (void)renderer();
    for (uint32_t seed = 31; seed < 37; ++seed)
        if (const auto failure = failing(seed, randomSequence(seed, 20), painter)) FAIL_CHECK(failure->what);
}
