#include "driver.h"

#include <epoxy/gl.h>
#include <algorithm>
#include <iterator>

#include "target.h"

namespace jam {

namespace {

constexpr int kVersion = 33, kTextureSide = 2048, kSlices = 256, kUnits = 16;
const char* const kOtherDriver = "install a newer graphics driver, or draw on the processor (--software)";

int asked(GLenum what) {
    GLint v = 0;
    glGetIntegerv(what, &v);
    return v;
}

}  // namespace

DriverLimits driverLimits() {
    DriverLimits l;
    l.version = epoxy_gl_version();
    if (l.version < kVersion) return l;
    l.textureSide = asked(GL_MAX_TEXTURE_SIZE);
    l.slices = asked(GL_MAX_ARRAY_TEXTURE_LAYERS);
    l.units = asked(GL_MAX_TEXTURE_IMAGE_UNITS);
    Target tried;
    tried.resize(64, 64);
    l.frames = tried.complete();
    return l;
}

Status checkDriver(const DriverLimits& offered) {
    const auto less = [](const std::string& what, int has, int needs) {
        return Error{"", "OpenGL",
                     "this machine's driver offers " + std::to_string(has) + " " + what + ", and Jam Hill needs " +
                         std::to_string(needs),
                     kOtherDriver};
    };
    if (offered.version < kVersion)
        return Error{"", "OpenGL",
                     "this machine offers OpenGL " + std::to_string(offered.version / 10) + "." +
                         std::to_string(offered.version % 10) + ", and Jam Hill needs 3.3",
                     "install Mesa's software drawing (libgl1-mesa-dri) or a newer driver"};
    if (offered.textureSide < kTextureSide) return less("texels along a texture", offered.textureSide, kTextureSide);
    if (offered.slices < kSlices) return less("slices of a texture", offered.slices, kSlices);
    if (offered.units < kUnits) return less("textures at once", offered.units, kUnits);
    if (!offered.frames) return Error{"", "OpenGL", "this machine's driver draws no pictures aside", kOtherDriver};
    return {};
}

Status checkFits(const DriverLimits& offered, int columns, int rows) {
    if (std::max(columns, rows) <= offered.textureSide) return {};
    return Error{"", "OpenGL",
                 "this machine's driver takes textures of " + std::to_string(offered.textureSide) +
                     " samples a side, and the level has " + std::to_string(columns) + " x " + std::to_string(rows),
                 "draw on the processor (--software), or resample the level"};
}

std::string driverName() { return reinterpret_cast<const char*>(glGetString(GL_RENDERER)); }

bool driverIsSoftware() {
    const std::string driver = driverName();
    constexpr const char* kNames[] = {"llvmpipe", "softpipe", "SWR", "swrast"};
    return std::any_of(std::begin(kNames), std::end(kNames),
                       [&](const char* name) { return driver.find(name) != std::string::npos; });
}

}  // namespace jam
