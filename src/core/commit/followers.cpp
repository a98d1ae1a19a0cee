#include <algorithm>

#include "commit/commit.h"
#include "course/bake.h"
#include "course/footprint.h"
#include "cover/rules.h"
#include "water/water.h"

namespace jam {

namespace {

void followCourses(Level& level, Change& change, const Context& context) {
    nameFootprints(level, change);
    change.ground.add(refreshCourses(level, change, context));
}
// Those that are baked anew bring rules with them.
long long courses(const Level& level, const Change& change) {
    if (change.ground.empty() && change.strata.empty() && change.kinds.empty()) return 0;
    const auto alive = std::count_if(level.layers.begin(), level.layers.end(), [](const Layer& l) { return l.alive; });
    long long all = 0;
    for (const Stratum& s : level.strata)
        if (s.course) {
            const auto told = [](const std::vector<uint32_t>& ids, uint32_t id) {
                return std::find(ids.begin(), ids.end(), id) != ids.end();
            };
            const bool named = told(change.strata, s.id) ||
                               (s.course->footprint && told(change.kinds, s.course->footprint->kind));
            all += named ? 1 + static_cast<long long>(s.owned.presentTiles()) * 1024 * alive : 1;
        }
    return all;
}

void followHatches(Level& level, Change& change, const Context&) { change.gaps.add(refreshHatches(level, change)); }

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
                                              {"openings under what stands", followHatches, hatchesWork},
                                              {"water", followWater, waterWork},
                                              {"living rules", followRules, rulesWork},
                                              {"densities", followDensities, densitiesWork}};
    return all;
}

}  // namespace jam
