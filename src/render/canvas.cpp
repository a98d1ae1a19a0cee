#include "canvas.h"

#include <algorithm>

namespace jam {

void Canvas::resize(int w, int h) {
    if (w == width && h == height) return;
    width = w, height = h;
    colour = makeTexture();
    glBindTexture(GL_TEXTURE_2D, colour);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, w, h, 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
    depth = makeTexture();
    glBindTexture(GL_TEXTURE_2D, depth);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT24, w, h, 0, GL_DEPTH_COMPONENT, GL_UNSIGNED_INT, nullptr);
    frame = makeFrame();
    glBindFramebuffer(GL_FRAMEBUFFER, frame);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, colour, 0);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, depth, 0);
}

void Canvas::makeRoom(int w, int h) {
    constexpr int kStep = 64;
    const auto enough = [](int has, int needs) { return std::max(has, (needs + kStep - 1) / kStep * kStep); };
    resize(enough(width, w), enough(height, h));
}

void Canvas::fetch(const PixelRect& part, std::vector<uint32_t>& out) const {
    glBindFramebuffer(GL_READ_FRAMEBUFFER, frame);
    glPixelStorei(GL_PACK_ALIGNMENT, 4);
    out.resize(static_cast<size_t>(part.width) * static_cast<size_t>(part.height));
    glReadPixels(part.x, height - part.y - part.height, part.width, part.height, GL_BGRA, GL_UNSIGNED_INT_8_8_8_8_REV,
                 out.data());
}

}  // namespace jam
