// What stands on the ground and floats over it, what is under water over its head, and what stands in the way.
#include <algorithm>

#include "base/text.h"
#include "checks/check.h"
#include "dress/figures.h"
#include "dress/kinds.h"
#include "survey/level_survey.h"

namespace jam {

namespace {

bool stale(const Change& c) {
    return !c.kinds.empty() || !c.plantings.empty() || !c.ground.empty() || !c.gaps.empty() || !c.water.empty() ||
           !c.strata.empty() || c.spots;
}

// One that is not right, and several; on the trail, the same.
struct Words {
    KindFigures::Amiss KindFigures::*which;
    const char *one, *several;
    const char *oneBrief, *severalBrief;
};
constexpr Words kFloats{&KindFigures::floats, "floats over the ground", "float over the ground", "one floats", "float"};
constexpr Words kDrowned{&KindFigures::drowned, "is under water over its head", "are under water over their heads",
                         "one is drowned", "are drowned"};
constexpr Words kInTheWay{&KindFigures::inTheWay, "stands in a course or on a spot", "stand in a course or on a spot",
                          "one is in the way", "are in the way"};

// A finding for each kind of which some are not right, with the mends that `mend` gives it.
template <class MendsOf>
std::vector<Finding> findAmiss(const Surveyed& s, const Words& words, MendsOf mendsOf) {
    std::vector<Finding> found;
    for (const Kind& k : s.level.kinds) {
        const KindFigures::Amiss& amiss = s.survey.dress.of(k.id).*words.which;
        if (amiss.count == 0) continue;
        found.push_back(
            {std::to_string(amiss.count) + " of “" + k.name + "” " + (amiss.count == 1 ? words.one : words.several),
             {{ThingKind::kind, k.id}},
             amiss.at,
             mendsOf(k.id)});
    }
    return found;
}

std::string briefAmiss(const Surveyed& s, const Words& words) {
    long long n = 0;
    for (const auto& [kind, f] : s.survey.dress.all()) n += (f.*words.which).count;
    return n == 1 ? words.oneBrief : std::to_string(n) + " " + words.severalBrief;
}

Mend keepOff(const char* what, uint32_t id, std::vector<KeptOff> kept) {
    return {what, [id, kept = std::move(kept)](Level& l, const Context&) -> Status {
                Kind k = *l.kind(id);
                const size_t before = k.keepsOff.size();
                for (const KeptOff& one : kept)
                    if (std::find(k.keepsOff.begin(), k.keepsOff.end(), one) == k.keepsOff.end())
                        k.keepsOff.push_back(one);
                if (k.keepsOff.size() == before)
                    return Error{"", k.name, "it keeps off that already, so those were put down by hand",
                                 "move them, or delete them"};
                return changeKind(l, k);
            }};
}

std::vector<Mend> settleOrSink(uint32_t id) {
    return {{"Settle those put down by hand",
             [id](Level& l, const Context&) -> Status {
                 if (settleSingles(l, id) > 0) return {};
                 return Error{"", "", "none of them was put down by hand",
                              "sink the kind deeper, or let it lean with the slope"};
             }},
            {"Sink the kind deeper", [id](Level& l, const Context&) -> Status {
                 Kind deeper = *l.kind(id);
                 deeper.sink = std::min(2 * deeper.sink + 0.1f, static_cast<float>(kMostSink));
                 return changeKind(l, deeper);
             }}};
}

std::vector<Finding> findFloating(const Surveyed& s) { return findAmiss(s, kFloats, settleOrSink); }
std::vector<Finding> findDrowned(const Surveyed& s) {
    return findAmiss(s, kDrowned, [](uint32_t id) {
        return std::vector<Mend>{keepOff("Keep the kind off water", id, {{KeptOff::What::water, 0, 0}})};
    });
}
std::vector<Finding> findInTheWay(const Surveyed& s) {
    return findAmiss(s, kInTheWay, [](uint32_t id) {
        return std::vector<Mend>{keepOff("Keep the kind off courses and spots", id,
                                         {{KeptOff::What::course, 0, 0.5f}, {KeptOff::What::spot, 0, 1.5f}})};
    });
}

std::string briefFloating(const Surveyed& s, const std::vector<Finding>&) { return briefAmiss(s, kFloats); }
std::string briefDrowned(const Surveyed& s, const std::vector<Finding>&) { return briefAmiss(s, kDrowned); }
std::string briefInTheWay(const Surveyed& s, const std::vector<Finding>&) { return briefAmiss(s, kInTheWay); }

}  // namespace

extern const Check floatingCheck, drownedCheck, inTheWayCheck;
const Check floatingCheck = {"floating", "dress",      Check::Weight::warns, Check::Looks::figures,
                             stale,      findFloating, briefFloating};
const Check inTheWayCheck = {"in-the-way", "dress",      Check::Weight::warns, Check::Looks::figures,
                             stale,        findInTheWay, briefInTheWay};
const Check drownedCheck = {"drowned", "dress",     Check::Weight::note, Check::Looks::figures,
                            stale,     findDrowned, briefDrowned};

}  // namespace jam
