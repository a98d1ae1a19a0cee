// Work on the fence, off the interface thread.
#pragma once

#include "level_job.h"

namespace jam {

// A change of the fence as a job, refused in words where nothing would lie inside. `change` is false when cancelled.
LevelJob fenceJob(std::function<bool(Level&, const Context&)> change);

}  // namespace jam
