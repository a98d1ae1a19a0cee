#include "driver.h"

#include <epoxy/gl.h>
#include <algorithm>
#include <iterator>

namespace jam {

std::string driverName() { return reinterpret_cast<const char*>(glGetString(GL_RENDERER)); }

bool driverIsSoftware() {
    const std::string driver = driverName();
    constexpr const char* kNames[] = {"llvmpipe", "softpipe", "SWR", "swrast"};
    return std::any_of(std::begin(kNames), std::end(kNames),
                       [&](const char* name) { return driver.find(name) != std::string::npos; });
}

}  // namespace jam
