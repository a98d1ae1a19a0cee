#include "target.h"

#include <algorithm>
#include <cstring>

#include "gl.h"

namespace jam {

struct Target::Objects {
    GlFrame frame;
    GlTexture colour, depth;
};

Target::Target() : objects_(std::make_unique<Objects>()) {}
Target::Target(Target&&) noexcept = default;
Target& Target::operator=(Target&&) noexcept = default;
Target::~Target() = default;

unsigned Target::frame() const { return objects_->frame; }

void Target::resize(int w, int h) {
    if (w == width_ && h == height_) return;
    width_ = w, height_ = h;
    Objects& o = *objects_;
    o.colour = makeTexture();
    glBindTexture(GL_TEXTURE_2D, o.colour);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, w, h, 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
    o.depth = makeTexture();
    glBindTexture(GL_TEXTURE_2D, o.depth);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT24, w, h, 0, GL_DEPTH_COMPONENT, GL_UNSIGNED_INT, nullptr);
    o.frame = makeFrame();
    glBindFramebuffer(GL_FRAMEBUFFER, o.frame);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, o.colour, 0);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, o.depth, 0);
}

bool Target::complete() const {
    glBindFramebuffer(GL_FRAMEBUFFER, objects_->frame);
    return glCheckFramebufferStatus(GL_FRAMEBUFFER) == GL_FRAMEBUFFER_COMPLETE && glGetError() != GL_OUT_OF_MEMORY;
}

void Target::makeRoom(int w, int h) {
    constexpr int kStep = 64;
    const auto enough = [](int has, int needs) { return std::max(has, (needs + kStep - 1) / kStep * kStep); };
    resize(enough(width_, w), enough(height_, h));
}

void Target::fetch(const PixelRect& part, std::vector<uint32_t>& out) const {
    glBindFramebuffer(GL_READ_FRAMEBUFFER, objects_->frame);
    glPixelStorei(GL_PACK_ALIGNMENT, 4);
    out.resize(static_cast<size_t>(part.width) * static_cast<size_t>(part.height));
    glReadPixels(part.x, height_ - part.y - part.height, part.width, part.height, GL_BGRA, GL_UNSIGNED_INT_8_8_8_8_REV,
                 out.data());
}

void Target::read(const PixelRect& part, uint8_t* bgra, int bytesPerRow) {
    fetch(part, fetched_);
    for (int y = 0; y < part.height; ++y)
        std::memcpy(bgra + static_cast<ptrdiff_t>(y) * bytesPerRow,
                    fetched_.data() + static_cast<ptrdiff_t>(part.height - 1 - y) * part.width,
                    static_cast<size_t>(part.width) * 4);
}

void Target::show(unsigned framebuffer) const {
    glBindFramebuffer(GL_READ_FRAMEBUFFER, objects_->frame);
    glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffer);
    glBlitFramebuffer(0, 0, width_, height_, 0, 0, width_, height_, GL_COLOR_BUFFER_BIT, GL_NEAREST);
    glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
}

}  // namespace jam
