// Memory: what the machine has, and how the process keeps what it no longer needs.
#pragma once

#include <cstdint>

namespace jam {

// Large rasters go back to the system as soon as they are let go of. By itself the C library keeps what is as large as
// anything that was freed before, which after a large level has been opened is several hundred megabytes. Call once, at
// the start of a program.
void giveBackLargeRasters();

// Bytes of memory that the machine has.
uint64_t machineMemory();

}  // namespace jam
