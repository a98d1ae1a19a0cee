// How well a picture is drawn.
#pragma once

#include <optional>

namespace jam {

// What a quick picture shows of the grain of the leading layers: `most` of it [0, 1] near the eye, less from `from` on,
// none beyond `to`, metres.
struct GrainFade {
    float most, from, to;
};
// All of a moving picture; a part of one can afford more, and lies beside what is at rest: it fades so that it has
// about the contrast of the layers at each distance (bench_contrast).
constexpr GrainFade kMovingGrain{0.9f, 45, 90};
inline GrainFade partGrain(double liveMetres) {
    return {1, static_cast<float>(0.1 * liveMetres), static_cast<float>(0.75 * liveMetres)};
}

// The best, unless something is said.
struct Quality {
    // A quick picture shows the ground as it is baked, and so much grain; without, layers are blended live near the
    // eye.
    std::optional<GrainFade> grain;
    float share = 1;         // of the pixels each way that it will have when it is enlarged: it is as fine as with all
    double strayPixels = 0;  // that the mesh may stray from the ground where fewer triangles do
    bool patient = false;    // waits for shaders instead of drawing plainer

    bool full() const { return !grain; }
};

}  // namespace jam
