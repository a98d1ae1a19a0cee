// Spots on ground that is steeper than the body that goes can stand on.
#include "checks/check.h"
#include "checks/words.h"
#include "level/opening.h"
#include "survey/slope.h"
#include "walk/reach.h"
#include "walk/spots.h"

namespace jam {

namespace {

bool stale(const Change& c) { return c.spots || !c.ground.empty() || !c.gaps.empty(); }

std::vector<Finding> find(const Surveyed& s) {
    const Body body = bodyOf(s.level);
    std::vector<Finding> found;
    for (const Spot& spot : s.level.spots) {
        if (!groundAt(s.level, spot.x, spot.z)) continue;
        const double slope = slopeAt(s.level, spot.x, spot.z);
        if (slope <= body.slope) continue;
        Finding f;
        f.sentence = spot.name + " stands on " + degrees(slope) + ", too steep for the " + body.name;
        f.things = {{ThingKind::spot, spot.id}};
        f.at = {spot.x, spot.z};
        f.mends.push_back({"Level a pad below it",
                           [id = spot.id](Level& level, const Context&) { return setPad(level, id, Pad{}); }});
        found.push_back(std::move(f));
    }
    return found;
}

std::string brief(const Surveyed& s, const std::vector<Finding>& found) {
    if (found.size() > 1) return counted(found.size(), "", "spots stand too steep");
    return s.level.spot(found.front().things.front().id)->name + " is too steep to stand on";
}

}  // namespace

extern const Check steepSpotsCheck;
const Check steepSpotsCheck = {"steep-spots", "walk", Check::Weight::warns, Check::Looks::figures, stale, find, brief};

}  // namespace jam
