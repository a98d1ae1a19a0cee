// How the process keeps memory that it no longer needs.
#pragma once

namespace jam {

// Large rasters go back to the system as soon as they are let go of. By itself the C library keeps what is as large as
// anything that was freed before, which after a large level has been opened is several hundred megabytes. Call once, at
// the start of a program.
void giveBackLargeRasters();

}  // namespace jam
