// Work on the fence, beside the window.
#pragma once

#include "tasks/level_job.h"

namespace jam {

using FenceChange = std::function<bool(Level&, const Context&)>;  // false when cancelled

// A change of the fence as a job of these things, refused in words where nothing would lie inside.
LevelJob fenceJob(std::vector<Thing> of, FenceChange change);

}  // namespace jam
