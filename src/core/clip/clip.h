// Clips: pieces of ground that are lifted, kept and set down elsewhere.
//
// A clip is a level of its own: one stratum that holds the ground as it was composed, in metres of altitude; the layers
// as they lay, without living rules; wash and gaps; and a fence, in force, which is its shape. So a clip is kept in a
// level file, any level can be set down as a clip, and a heightmap becomes one by way of a level.
#pragma once

#include "base/context.h"
#include "level/level.h"

namespace jam {

// The piece inside a region of ground samples; its shape is the whole rectangle. Errors: fewer than 2 x 2 samples lie
// inside the level, or cancelled.
Result<Level> liftClip(const Level& level, const Region& box, const std::string& name, const Context& context = {});
// The piece inside the fence that is in force, soft where that is. Errors: no fence, an empty one, or cancelled.
Result<Level> liftFenced(const Level& level, const std::string& name, const Context& context = {});

// The samples between two corners on the map, both included.
Region samplesBetween(const Level& level, double x0, double z0, double x1, double z1);

// The samples of a clip's shape that lie at its rim.
struct RimSample {
    int column, row;
};
std::vector<RimSample> rimOf(const Level& clip);
// The mean altitude along the rim of a clip's shape: what it stands on when it is set on other ground. Metres.
double clipFoot(const Level& clip);

}  // namespace jam
