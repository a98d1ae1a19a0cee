// Where one leaves the level on foot, and where one gets in and never out again.
#include <algorithm>

#include "checks/check.h"
#include "checks/words.h"
#include "survey/mend_reach.h"

namespace jam {

namespace {

bool stale(const Change& c) {
    return c.spots || !c.ground.empty() || !c.gaps.empty() || !c.water.empty() || !c.kinds.empty() ||
           !c.plantings.empty();
}

// Looks at reach as it is on the level that is mended, and takes what that makes of it.
template <class F>
Status mended(Level& level, const Context& context, F mend) {
    const Reach now = surveyReach(level, bodyOf(level), context);
    if (context.cancelled()) return cancelledError();
    Result<Mended> done = mend(now);
    if (!done) return done.error();
    level = std::move(done.value().level);
    return {};
}

std::vector<Finding> findWaysOut(const Surveyed& s) {
    std::vector<Finding> found;
    if (!s.reach) return found;
    for (const ReachPlace& p : s.reach->waysOut) {
        Finding f;
        f.sentence = "Way out " + std::string(p.towards == "coast" ? "at" : "in") + " the " + p.towards + ", " +
                     metres(p.size, 0) + " wide";
        f.at = {p.x, p.z};
        f.mends.push_back(
            {"Raise a bank along it", [place = p](Level& level, const Context& context) {
                 return mended(level, context, [&](const Reach& now) -> Result<Mended> {
                     for (const ReachPlace& w : now.waysOut)
                         if (std::find(w.samples.begin(), w.samples.end(), place.samples.front()) != w.samples.end())
                             return bankAlong(level, now, w, EdgeBank{}, context);
                     return Error{"", "bank", "nobody gets out there any more", "nothing has to be mended"};
                 });
             }});
        found.push_back(std::move(f));
    }
    return found;
}

std::string briefWaysOut(const Surveyed&, const std::vector<Finding>& found) {
    return counted(found.size(), "way out", "ways out");
}

std::vector<Finding> findTraps(const Surveyed& s) {
    std::vector<Finding> found;
    if (!s.reach) return found;
    for (const ReachPlace& p : s.reach->traps) {
        const Spot* spot = p.spots.empty() ? nullptr : s.level.spot(p.spots.front());
        Finding f;
        f.sentence = "Trap of " + std::to_string(static_cast<int>(p.size + 0.5)) + " m²" +
                     (spot ? ", with " + spot->name : "");
        f.at = {p.x, p.z};
        f.mends.push_back({"Grade a ramp to it", [x = p.x, z = p.z](Level& level, const Context& context) {
                               return mended(level, context,
                                             [&](const Reach& now) { return rampTo(level, now, x, z, context); });
                           }});
        found.push_back(std::move(f));
    }
    return found;
}

std::string briefTraps(const Surveyed&, const std::vector<Finding>& found) {
    return counted(found.size(), "trap", "traps");
}

}  // namespace

extern const Check waysOutCheck, trapsCheck;
const Check waysOutCheck = {"ways-out", "walk",      Check::Weight::warns, Check::Looks::reach,
                            stale,      findWaysOut, briefWaysOut};
const Check trapsCheck = {"traps", "walk", Check::Weight::warns, Check::Looks::reach, stale, findTraps, briefTraps};

}  // namespace jam
