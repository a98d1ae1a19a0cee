// What a picture is drawn into, with its depth.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "pixel_rect.h"

namespace jam {

// Threads: all calls, also the destructor, need the context current that it is drawn with.
class Target {
public:
    Target();
    Target(Target&&) noexcept;
    Target& operator=(Target&&) noexcept;
    ~Target();

    int width() const { return width_; }
    int height() const { return height_; }
    unsigned frame() const;  // OpenGL's name of its framebuffer

    void resize(int width, int height);
    // Whether the driver draws into it.
    bool complete() const;
    // Grows to this size at least, in steps, so that room is not made anew for every few pixels more.
    void makeRoom(int width, int height);
    // Part of the picture: BGRA rows from the bottom.
    void fetch(const PixelRect& part, std::vector<uint32_t>& out) const;
    // The same from the top, so many bytes from one row to the next.
    void read(const PixelRect& part, uint8_t* bgra, int bytesPerRow);
    // Copies the picture to the framebuffer that is named.
    void show(unsigned framebuffer) const;

private:
    struct Objects;
    std::unique_ptr<Objects> objects_;
    int width_ = 0, height_ = 0;
    std::vector<uint32_t> fetched_;  // kept between uses for its room
};

}  // namespace jam
