// What was seen from one place, so that a look turned from there is put together on the processor and only what comes
// into sight is drawn: a picture, and strips beside it.
#pragma once

#include <optional>
#include <vector>

#include "render/pixel_rect.h"
#include "render/sight.h"
#include "render/software/turned.h"

namespace jam {

class Panorama {
public:
    static constexpr int kAhead = 64;  // pixels beyond the picture's edge that are drawn with what comes into sight
    static constexpr int kFade = 16;   // pixels over which the picture goes over into the strips
    static constexpr size_t kMostStrips = 24;  // more of them become one picture with it

    // Lets go of all that was seen.
    void forget();
    bool empty() const { return picture_.pixels.empty(); }
    // Whether what was seen is what this camera sees, but for where it turned.
    bool holds(const Camera& camera, const Sight& sight) const;
    // A picture that is shown now: BGRA rows from the top. What was seen from another place or otherwise is let go.
    void take(const Camera& camera, const Sight& sight, const uint8_t* bgra, int bytesPerRow);

    // What comes into sight and has to be drawn: as `camera` sees it inside `part`.
    struct Glimpse {
        Camera camera;
        PixelRect part;
    };
    // Nothing when it is so much that the picture is better drawn as a whole. Precondition of these: holds().
    std::optional<std::vector<Glimpse>> missing(const Camera& camera) const;
    // Room for its pixels: rows from the top, `part.width` pixels each.
    uint32_t* room(const Glimpse& glimpse);
    // What the camera sees: BGRA rows from the top. Precondition: what was missing was drawn.
    void show(const Camera& camera, uint8_t* bgra, int bytesPerRow);

private:
    struct Seen {
        Glimpse by;
        std::vector<uint32_t> pixels;
    };
    // All that was seen, as a camera sees it.
    struct Parts {
        Turned picture;
        std::vector<Turned> strips;
    };
    Parts partsFor(const Camera& camera) const;

    Sight sight_;
    Seen picture_;
    std::vector<Seen> strips_;  // oldest first
};

}  // namespace jam
