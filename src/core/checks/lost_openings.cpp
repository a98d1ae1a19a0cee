// Openings that the body that goes cannot walk up to.
#include <algorithm>

#include "checks/check.h"
#include "checks/words.h"
#include "survey/level_survey.h"
#include "walk/reach.h"

namespace jam {

namespace {

bool stale(const Change& c) { return c.spots || !c.ground.empty() || !c.gaps.empty(); }

std::vector<Finding> find(const Surveyed& s) {
    std::vector<Finding> found;
    for (const FoundOpening& o : s.survey.openings)
        if (!o.reached)
            found.push_back({"An opening of " + std::to_string(std::max(1, static_cast<int>(o.area + 0.5))) +
                                 " m² is out of reach for the " + bodyOf(s.level).name,
                             {},
                             {{o.x, o.z}}});
    return found;
}

std::string brief(const Surveyed&, const std::vector<Finding>& found) {
    return found.size() == 1 ? "an opening out of reach" : counted(found.size(), "", "openings out of reach");
}

}  // namespace

extern const Check lostOpeningsCheck;
const Check lostOpeningsCheck = {"openings", "shape", Check::Weight::warns, Check::Looks::figures, stale, find, brief};

}  // namespace jam
