// Layers that show nowhere, and take memory in whatever reads the level.
#include "checks/check.h"
#include "checks/words.h"
#include "survey/level_survey.h"

namespace jam {

namespace {

constexpr double kUnused = 1e-5;  // share of the level below which a layer counts as not used

bool stale(const Change& c) { return !c.layers.empty() || c.looks || !c.cover.empty() || !c.gaps.empty(); }

std::vector<Finding> find(const Surveyed& s) {
    std::vector<Finding> found;
    for (size_t i = 0; i < s.level.layers.size(); ++i) {
        const Layer& l = s.level.layers[i];
        if (s.survey.shares[i] >= kUnused) continue;
        Finding f;
        f.sentence = l.name + (l.hidden ? " is hidden" : " shows nowhere");
        f.things = {{ThingKind::layer, l.id}};
        f.mends.push_back(
            {"Delete the layer", [id = l.id](Level& level, const Context&) { return removeLayer(level, id); }});
        found.push_back(std::move(f));
    }
    return found;
}

std::string brief(const Surveyed& s, const std::vector<Finding>& found) {
    return std::to_string(found.size()) + " of " + std::to_string(s.level.layers.size()) + " layers unused";
}

}  // namespace

extern const Check unusedLayersCheck;
const Check unusedLayersCheck = {
    "unused-layers", "cover", Check::Weight::note, Check::Looks::figures, stale, find, brief};

}  // namespace jam
