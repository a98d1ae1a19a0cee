#include "commit/commit.h"

namespace jam {

namespace {

// On another raster everything may be other than before.
Change everything(const Level& level) {
    Change all;
    all.ground = all.wash = all.gaps = all.water = level.bounds();
    all.cover = level.coverBounds();
    for (const Stratum& s : level.strata) all.strata.push_back(s.id);
    for (const Layer& l : level.layers) all.layers.push_back(l.id);
    all.raster = all.looks = all.sun = all.name = all.fence = all.waters = all.spots = true;
    return all;
}

}  // namespace

long long followingWork(const Level& level, const Change& change) {
    long long all = 0;
    for (const Follower& f : followers()) all += f.work(level, change);
    return all;
}

Result<Commit> commitWork(const Level& before, Level after, const Context& context, const Change* touched) {
    if (const Status s = checkNames(after); !s) return s.error();
    Commit c{std::move(after), {}, false};
    c.replaced = !sameRaster(c.level, before);
    c.change = c.replaced ? everything(c.level) : touched ? *touched : changesBetween(c.level, before);
    for (const Follower& f : followers()) {
        if (f.work(c.level, c.change) == 0) continue;
        f.follow(c.level, c.change, context);
        if (context.cancelled()) return cancelledError();
    }
    return c;
}

}  // namespace jam
