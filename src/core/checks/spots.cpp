// Spots where the body that goes cannot stand, and spots that nobody gets to.
#include <algorithm>

#include "checks/check.h"
#include "checks/words.h"
#include "level/opening.h"
#include "walk/reach.h"
#include "water/water.h"

namespace jam {

namespace {

bool stale(const Change& c) {
    return c.spots || !c.ground.empty() || !c.gaps.empty() || !c.water.empty() || !c.kinds.empty() ||
           !c.plantings.empty();
}

Finding of(const Spot& spot, const std::string& what) {
    return {spot.name + what, {{ThingKind::spot, spot.id}}, {{spot.x, spot.z}}};
}

std::vector<Finding> findNowhere(const Surveyed& s) {
    std::vector<Finding> found;
    if (!s.reach) return found;
    for (const uint32_t id : s.reach->nowhere)
        if (const Spot* spot = s.level.spot(id))
            found.push_back(of(*spot, !groundAt(s.level, spot->x, spot->z) ? " has no ground below it"
                                      : !s.reach->body.swims && depthAt(s.level, spot->x, spot->z) > s.reach->body.wade
                                          ? " lies too deep for the " + s.reach->body.name
                                          : " is where the " + s.reach->body.name + " cannot stand"));
    return found;
}

std::string briefNowhere(const Surveyed& s, const std::vector<Finding>& found) {
    if (found.size() > 1) return counted(found.size(), "", "spots where you cannot stand");
    const Spot& spot = *s.level.spot(found.front().things.front().id);
    return groundAt(s.level, spot.x, spot.z) ? "You cannot stand at " + spot.name : found.front().sentence;
}

std::vector<Finding> findUnreached(const Surveyed& s) {
    std::vector<Finding> found;
    if (!s.reach) return found;
    const auto& walled = s.reach->walledOff;
    for (const Spot& spot : s.level.spots)
        if (s.reach->knows(spot.id) && !s.reach->got(spot.id))
            found.push_back(of(spot, " is not reached by the " + s.reach->body.name +
                                         (std::find(walled.begin(), walled.end(), spot.id) != walled.end()
                                              ? ": what stands there bars every way"
                                              : "")));
    return found;
}

std::string briefUnreached(const Surveyed& s, const std::vector<Finding>&) {
    const auto [got, all] = s.reach->spotsReached();
    return std::to_string(got) + " of " + std::to_string(all) + " spots reached";
}

}  // namespace

extern const Check spotsNowhereCheck, unreachedSpotsCheck;
const Check spotsNowhereCheck = {"spots-nowhere", "walk",      Check::Weight::warns, Check::Looks::reach,
                                 stale,           findNowhere, briefNowhere};
const Check unreachedSpotsCheck = {"unreached-spots", "walk",        Check::Weight::warns, Check::Looks::reach, stale,
                                   findUnreached,     briefUnreached};

}  // namespace jam
