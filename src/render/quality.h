// How well a picture is drawn.
#pragma once

#include <optional>

namespace jam {

// What a quick picture shows of the grain of the leading layers: `most` of it [0, 1] near the eye, less from `from` on,
// none beyond `to`, metres.
struct GrainFade {
    float most, from, to;
};
// So that a moving picture, and a part of one beside what is at rest, have about the contrast of the layers at each
// distance (bench_contrast): theirs averages away, that of grain, which is read in one size, does not.
constexpr GrainFade kMovingGrain{0.9f, 5, 130}, kPartGrain{1, 5, 200};

// One of several pictures of a view that are averaged: each lies elsewhere by part of a pixel, so that edges become
// smooth and textures may be read finer than one picture alone could without sparkling.
struct Pass {
    float shiftX = 0, shiftY = 0;  // pixels, [-0.5, 0.5]
    float finer = 0;   // textures are read as finely as a pixel's shorter side on the ground asks for, but at
                       // most so many times finer than its longer side does; 0 leaves it to the driver
    float detail = 0;  // added to the level of detail that is read, so that levels blend over passes
};
// The k-th: the 0th is the picture that stands alone; four and kPasses from the first on are spread evenly.
Pass passOf(int k);
constexpr int kPasses = 16;
constexpr float kFiner = 16, kFinerOfFour = 3;  // Pass::finer: few can only smooth so much

// The best, unless something is said.
struct Quality {
    // A quick picture shows the ground as it is baked, and so much grain; without, layers are blended live near the
    // eye.
    std::optional<GrainFade> grain;
    float share = 1;         // of the pixels each way that it will have when it is enlarged: it is as fine as with all
    double strayPixels = 0;  // that the mesh may stray from the ground where fewer triangles do
    bool patient = false;    // waits for shaders instead of drawing plainer
    Pass pass = {};

    bool full() const { return !grain; }
};

}  // namespace jam
