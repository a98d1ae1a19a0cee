// Who draws for the context that is current.
#pragma once

#include <string>

#include "base/result.h"

namespace jam {

// What it offers.
struct DriverLimits {
    int version = 0;      // 33 for OpenGL 3.3
    int textureSide = 0;  // texels
    int slices = 0;       // of an array of textures
    int units = 0;        // textures that a shader may read
    bool frames = false;  // pictures with depth can be drawn beside the screen
};
DriverLimits driverLimits();
// Errors: it offers less than any picture needs, in words.
Status checkDriver(const DriverLimits& offered);
// Errors: it has no textures as large as a level of so many samples.
Status checkFits(const DriverLimits& offered, int columns, int rows);

std::string driverName();
// True when it draws on the processor.
bool driverIsSoftware();

}  // namespace jam
