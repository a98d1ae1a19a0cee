// Small pictures that a renderer draws into a context of its own.
#pragma once

#include <catch2/catch.hpp>
#include <glm/vec3.hpp>

#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "offscreen_gl.h"
#include "render/software/pixel_renderer.h"

namespace jam::test {

constexpr int kWidth = 320, kHeight = 240;

struct Shot {
    std::vector<uint8_t> bgra = std::vector<uint8_t>(kWidth * kHeight * 4);
    glm::ivec3 at(int x, int y) const {
        const uint8_t* p = &bgra[static_cast<size_t>((y * kWidth + x) * 4)];
        return {p[2], p[1], p[0]};
    }
    bool operator==(const Shot&) const = default;
};

// The one that all tests share.
inline PixelRenderer& renderer() {
    static const auto gl = OffscreenGl::open();
    REQUIRE(gl);
    static const auto made = [] {
        auto r = PixelRenderer::create();
        if (!r) FAIL(r.error().sentence());
        return r.take();
    }();
    return *made;
}

inline Shot take(PixelRenderer& r, const Camera& c, Finish finish, const Sight& sight = {}) {
    Shot s;
    r.scene().bring(c, sight);
    r.draw(c, sight, finish);
    r.read({0, 0, kWidth, kHeight}, s.bgra.data(), kWidth * 4);
    return s;
}

inline Camera lookDown(const Level& level, double above, double x = 0, double z = 0) {
    Camera c;
    c.width = kWidth;
    c.height = kHeight;
    c.pitch = -89.9;
    c.at = {x, altitudeAt(level, x, z) + above, z};
    return c;
}

inline Shot take(const Level& level, const Camera& c, Finish finish, const Sight& look = {}) {
    const HeightPyramid pyramid(level);
    PixelRenderer& r = renderer();
    r.scene().sync(level, pyramid);
    return take(r, c, finish, look);
}

// One tone without any gloss, so that only light from above and the sun counts.
inline Layer dullLayer(uint8_t r, uint8_t g, uint8_t b) {
    Layer layer = plainLayer("dull", r, g, b);
    layer.roughness = plainPicture(255, 255, 255);
    return layer;
}

// From above a place, to the north.
inline Camera slanting(const Level& level, double x, double z, double above, double pitch) {
    Camera c;
    c.width = kWidth;
    c.height = kHeight;
    c.pitch = pitch;
    c.at = {x, altitudeAt(level, x, z) + above, z};
    return c;
}

// A layer's picture, 16 pixels a side, dark and bright in turns.
inline Picture stripes() {
    Pixels p{16, 16, 3, 8, {}};
    for (int y = 0; y < 16; ++y)
        for (int x = 0; x < 16; ++x)
            for (int c = 0; c < 3; ++c) p.samples.push_back(x % 8 < 4 ? 60 : 180);
    return std::make_shared<PictureFile>(PictureFile{"stripes.png", encodePng(p)});
}

}  // namespace jam::test
