// Runs a stroke on a level, live or replayed: points in, changed samples out.
#pragma once

#include "brush/stamp_placer.h"
#include "brush/stroke.h"
#include "level/changes.h"

namespace jam {

// Threads: one at a time. Big stamps use several threads inside; the bits do not depend on how many.
class Stroker {
public:
    // Precondition: checkSettings() passes and, for painting, the level has the layer.
    explicit Stroker(const StrokeSettings& settings);

    // Takes the next point and stamps what lies between. The level must be the one that earlier points changed.
    Change add(Level& level, const StrokePoint& point);

    Tool tool() const { return settings_.tool; }
    // Flatten: the height it works towards, known after the first point.
    std::optional<float> height() const { return settings_.height; }

private:
    StrokeSettings settings_;
    StampPlacer placer_;
    std::vector<Stamp> stamps_;
};

// Runs a whole stroke. Errors: checkStroke()'s, or the layer is not in the level; the level is untouched then.
Result<Change> runStroke(Level& level, const Stroke& stroke);

}  // namespace jam
