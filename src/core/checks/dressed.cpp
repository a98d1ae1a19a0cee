// What stands on the ground and floats over it, and what is under water over its head.
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

std::string some(long long n, const std::string& name) { return std::to_string(n) + " of “" + name + "”"; }

std::vector<Finding> findFloating(const Surveyed& s) {
    std::vector<Finding> found;
    for (const Kind& k : s.level.kinds) {
        const KindFigures& f = s.survey.dress.of(k.id);
        if (f.floats == 0) continue;
        Finding finding;
        finding.sentence = some(f.floats, k.name) +
                           (f.floats == 1 ? " floats over the ground" : " float over the ground");
        finding.things = {{ThingKind::kind, k.id}};
        finding.at = f.floatsAt;
        finding.mends.push_back({"Settle those put down by hand", [](Level& l, const Context&) -> Status {
                                     if (settleSingles(l) > 0) return {};
                                     return Error{"", "", "none of them was put down by hand",
                                                  "sink the kind deeper, or let it lean with the slope"};
                                 }});
        finding.mends.push_back({"Sink the kind deeper", [id = k.id](Level& l, const Context&) -> Status {
                                     const Kind* kind = l.kind(id);
                                     Kind deeper = *kind;
                                     deeper.sink = std::min(2 * deeper.sink + 0.1f, static_cast<float>(kMostSink));
                                     return changeKind(l, deeper);
                                 }});
        found.push_back(std::move(finding));
    }
    return found;
}

std::string briefFloating(const Surveyed& s, const std::vector<Finding>&) {
    long long n = 0;
    for (const auto& [kind, f] : s.survey.dress.all()) n += f.floats;
    return n == 1 ? "one floats" : std::to_string(n) + " float";
}

std::vector<Finding> findDrowned(const Surveyed& s) {
    std::vector<Finding> found;
    for (const Kind& k : s.level.kinds) {
        const KindFigures& f = s.survey.dress.of(k.id);
        if (f.drowned == 0) continue;
        Finding finding;
        finding.sentence = some(f.drowned, k.name) +
                           (f.drowned == 1 ? " is under water over its head" : " are under water over their heads");
        finding.things = {{ThingKind::kind, k.id}};
        finding.at = f.drownedAt;
        finding.mends.push_back({"Keep the kind off water", [id = k.id](Level& l, const Context&) -> Status {
                                     Kind dry = *l.kind(id);
                                     dry.keepsOff.push_back({KeptOff::What::water, 0, 0});
                                     return changeKind(l, dry);
                                 }});
        found.push_back(std::move(finding));
    }
    return found;
}

std::string briefDrowned(const Surveyed& s, const std::vector<Finding>&) {
    long long n = 0;
    for (const auto& [kind, f] : s.survey.dress.all()) n += f.drowned;
    return n == 1 ? "one is drowned" : std::to_string(n) + " are drowned";
}

}  // namespace

extern const Check floatingCheck, drownedCheck;
const Check floatingCheck = {"floating", "dress",      Check::Weight::warns, Check::Looks::figures,
                             stale,      findFloating, briefFloating};
const Check drownedCheck = {"drowned", "dress",     Check::Weight::note, Check::Looks::figures,
                            stale,     findDrowned, briefDrowned};

}  // namespace jam
