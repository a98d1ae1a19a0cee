#include "offscreen_gl.h"

#include <epoxy/egl.h>

namespace jam::test {

std::unique_ptr<OffscreenGl> OffscreenGl::open() {
    std::unique_ptr<OffscreenGl> gl(new OffscreenGl);
    EGLDisplay display = eglGetPlatformDisplayEXT(EGL_PLATFORM_SURFACELESS_MESA, nullptr, nullptr);
    if (!display || !eglInitialize(display, nullptr, nullptr)) return nullptr;
    eglBindAPI(EGL_OPENGL_API);
    const EGLint wanted[] = {
        EGL_CONTEXT_MAJOR_VERSION,           3,       EGL_CONTEXT_MINOR_VERSION, 3, EGL_CONTEXT_OPENGL_PROFILE_MASK,
        EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT, EGL_NONE};
    const EGLContext context = eglCreateContext(display, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, wanted);
    if (!context || !eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context)) return nullptr;
    gl->display_ = display;
    gl->context_ = context;
    return gl;
}

OffscreenGl::~OffscreenGl() {
    if (!context_) return;
    eglMakeCurrent(display_, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
    eglDestroyContext(display_, context_);
}

}  // namespace jam::test
