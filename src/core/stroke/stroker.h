// Runs a stroke on a level, live or replayed: points in, changed samples out.
#pragma once

#include "brush/stamp_placer.h"
#include "brush/stroke.h"
#include "cover/blend.h"
#include "dress/plantings.h"
#include "grid/scratch.h"
#include "level/changes.h"

namespace jam {

// Threads: one at a time. Big stamps use several threads inside; the bits do not depend on how many.
class Stroker {
public:
    // `origin` is the level that the stroke begins on; `reference` what restore brings back with RestoreTo::reference.
    // Precondition: checkSettings() and checkNeeds() pass.
    // `pictureHeights`: the height of the layer's pictures, [0, 1], one repeat of them, for breaking up by it; without,
    // noise does.
    Stroker(const StrokeSettings& settings, Level origin, std::shared_ptr<const Level> reference = {},
            std::shared_ptr<const Raster<float>> pictureHeights = {});

    // Takes the next point and stamps what lies between. The level must be the one that earlier points changed.
    Change add(Level& level, const StrokePoint& point);
    // The hand is lifted. What follows the level is brought up to date by commitWork() (commit/commit.h).
    Change finish(Level& level);
    // All that the stroke may have changed so far.
    const Change& touched() const { return touched_; }

    const StrokeSettings& settings() const { return settings_; }
    Tool tool() const { return settings_.tool; }
    // Flatten: the height it works towards, known after the first point.
    std::optional<float> height() const { return settings_.height; }

private:
    void stamp(Level& level, const Stamp& stamp, Change& change);
    Change run(Level& level);

    StrokeSettings settings_;
    Level origin_;
    std::shared_ptr<const Level> reference_;
    std::shared_ptr<const Raster<float>> pictureHeights_;
    StampPlacer placer_;
    std::vector<Stamp> stamps_;
    std::unique_ptr<Plantings> stood_;  // restyle: on the level as it began
    CoverMix mix_;                      // carry: what lay under the first touch
    Change touched_;
    bool begun_ = false;
    Scratch::Keeping keeping_;  // what its stamps work in
};

// Whether what a stroke of a tool left may stay. Errors: no ground at all, no room for what it made.
Status checkDone(const Level& level, Tool tool);

// Runs a whole stroke and commits it. Errors: those of checkStroke() and checkNeeds(); the level is untouched then.
Result<Change> runStroke(Level& level, const Stroke& stroke, std::shared_ptr<const Level> reference = {},
                         std::shared_ptr<const Raster<float>> pictureHeights = {});

}  // namespace jam
