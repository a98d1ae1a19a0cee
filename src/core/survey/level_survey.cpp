#include "survey/level_survey.h"

#include "walk/reach.h"

namespace jam {

bool LevelSurvey::follow(const Level& level, const Change* change, const Context& context) {
    const bool gaps = !change || !change->gaps.empty(), grounds = gaps || !change->ground.empty();
    if (grounds || !change->cover.empty() || change->looks) {
        tallies.follow(level, change, context);
        if (context.cancelled()) return false;
        ground = tallies.ground(level, context);
        shares = tallies.shares();
        stretched = tallies.stretched();
    }
    // Another body gets elsewhere.
    if (grounds || change->spots) openings = surveyOpenings(level, bodyOf(level).slope, context);
    if (grounds || !change->water.empty() || change->waters) {
        pools.clear(), streams.clear();
        for (const Pool& p : level.pools)
            if (!context.cancelled()) pools[p.id] = poolFigures(level, p, context);
        for (const Stream& s : level.streams)
            if (!context.cancelled()) streams[s.id] = streamFigures(level, s);
    }
    const bool dressed = !change || change->raster || grounds || !change->water.empty() || !change->plantings.empty() ||
                         !change->kinds.empty() || !change->strata.empty() || change->spots;
    return (!dressed || dress.follow(level, change, context)) && !context.cancelled();
}

}  // namespace jam
