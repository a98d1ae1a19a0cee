#include <algorithm>

#include "commit/commit.h"
#include "course/bake.h"
#include "cover/rules.h"
#include "water/water.h"

namespace jam {

namespace {

void followCourses(Level& level, Change& change, const Context& context) {
    change.ground.add(refreshCourses(level, change, context));
}
// Those that are baked anew bring rules with them.
long long courses(const Level& level, const Change& change) {
    if (change.ground.empty() && change.strata.empty()) return 0;
    const auto alive = std::count_if(level.layers.begin(), level.layers.end(), [](const Layer& l) { return l.alive; });
    long long all = 0;
    for (const Stratum& s : level.strata)
        if (s.course) {
            const bool named = std::find(change.strata.begin(), change.strata.end(), s.id) != change.strata.end();
            all += named ? 1 + static_cast<long long>(s.owned.presentTiles()) * 1024 * alive : 1;
        }
    return all;
}

void followWater(Level& level, Change& change, const Context& context) {
    change.water.add(refreshWater(level, change, context));
}

void followRules(Level& level, Change& change, const Context& context) {
    change.cover.add(refreshRules(level, change, context));
}

void followDensities(Level& level, Change& change, const Context& context) {
    change.plantings.add(refreshDensities(level, change, context));
}
}  // namespace

const std::vector<Follower>& followers() {
    static const std::vector<Follower> all = {{"courses", followCourses, courses},
                                              {"water", followWater, waterWork},
                                              {"living rules", followRules, rulesWork},
                                              {"densities", followDensities, densitiesWork}};
    return all;
}

}  // namespace jam
