// Changes of the level that are made off the interface thread.
#pragma once

#include <functional>
#include <QString>

#include "base/result.h"

namespace jam {

struct Context;
struct Level;

using LevelJob = std::function<Result<Level>(const Level& before, const Context& context)>;
// Runs a job beside the window and takes over what it gives as one step (Services::workOn).
using WorkOn = std::function<void(const QString& what, LevelJob job)>;

}  // namespace jam
