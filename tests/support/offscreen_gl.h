// An OpenGL context without any window or X server, for tests and benchmarks of the renderer.
#pragma once

#include <memory>
#include <string>

namespace jam::test {

class OffscreenGl {
public:
    // Null when this machine has no EGL that can do it.
    static std::unique_ptr<OffscreenGl> open();
    ~OffscreenGl();

private:
    OffscreenGl() = default;
    void* display_ = nullptr;
    void* context_ = nullptr;
};

}  // namespace jam::test
