// Streams that stand over the ground beside them.
#include <algorithm>

#include "checks/check.h"
#include "checks/words.h"
#include "survey/level_survey.h"

namespace jam {

namespace {

bool stale(const Change& c) {
    return c.waters || !c.water.empty() || !c.ground.empty() || !c.gaps.empty() || !c.strata.empty();
}

std::vector<Finding> find(const Surveyed& s) {
    std::vector<Finding> found;
    for (const Stream& stream : s.level.streams) {
        const auto at = s.survey.streams.find(stream.id);
        if (at == s.survey.streams.end() || at->second.over <= kOverBanks) continue;
        found.push_back({stream.name + " stands " + metres(at->second.over, 2) + " over its banks",
                         {{ThingKind::stream, stream.id}},
                         {{at->second.x, at->second.z}}});
    }
    return found;
}

std::string brief(const Surveyed& s, const std::vector<Finding>& found) {
    const Stream* stream = s.level.stream(found.front().things.front().id);
    return (stream ? stream->name : "A stream") + " is over its banks";
}

}  // namespace

extern const Check overBanksCheck;
const Check overBanksCheck = {"over-banks", "water", Check::Weight::warns, Check::Looks::figures, stale, find, brief};

}  // namespace jam
