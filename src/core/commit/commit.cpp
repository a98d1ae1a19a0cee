#include "commit/commit.h"

namespace jam {

long long followingWork(const Level& level, const Change& change) {
    long long all = 0;
    for (const Follower& f : followers()) all += f.work(level, change);
    return all;
}

Result<Commit> commitWork(const Level& before, Level after, const Context& context, const Change* touched) {
    if (const Status s = checkNames(after); !s) return s.error();
    Commit c{std::move(after), {}};
    c.change = touched && sameRaster(c.level, before) ? *touched : changesBetween(c.level, before);
    for (const Follower& f : followers()) {
        if (f.work(c.level, c.change) == 0) continue;
        f.follow(c.level, c.change, context);
        if (context.cancelled()) return cancelledError();
    }
    return c;
}

}  // namespace jam
