// Pools that stand higher than what holds them.
#include <algorithm>

#include "checks/check.h"
#include "checks/words.h"
#include "survey/level_survey.h"

namespace jam {

namespace {

bool stale(const Change& c) { return c.waters || !c.water.empty() || !c.ground.empty() || !c.gaps.empty(); }

std::vector<Finding> find(const Surveyed& s) {
    std::vector<std::pair<const Pool*, const Leak*>> leaks;
    for (const Pool& p : s.level.pools)
        if (const auto at = s.survey.pools.find(p.id); at != s.survey.pools.end() && at->second.leak)
            leaks.emplace_back(&p, &*at->second.leak);
    std::stable_sort(leaks.begin(), leaks.end(),
                     [](const auto& a, const auto& b) { return a.second->over > b.second->over; });
    std::vector<Finding> found;
    for (const auto& [pool, leak] : leaks) {
        Finding f;
        f.sentence = pool->name + " leaks " + leak->towards + ", " + metres(leak->over, leak->over < 0.1 ? 2 : 1) +
                     " short";
        f.things = {{ThingKind::pool, pool->id}};
        f.at = {leak->x, leak->z};
        f.mends.push_back(
            {"Lower it to its brim", [id = pool->id](Level& l, const Context&) { return lowerToBrim(l, id); }});
        f.mends.push_back({"Raise a dam", [id = pool->id](Level& l, const Context&) -> Status {
                               const Result<double> earth = raiseRim(l, id, Dam{});
                               return earth ? Status() : earth.error();
                           }});
        found.push_back(std::move(f));
    }
    return found;
}

std::string brief(const Surveyed&, const std::vector<Finding>& found) { return found.front().sentence; }

}  // namespace

extern const Check leaksCheck;
const Check leaksCheck = {"leaks", "water", Check::Weight::warns, Check::Looks::figures, stale, find, brief};

}  // namespace jam
