// How much each place counts for rules: by slope, altitude, curvature, facing, nearness and noise (level/rule.h).
#pragma once

#include "level/changes.h"

namespace jam {

// Coverage, [0, 1], that the rules of one layer give at the cover samples of `region`. In order: what a rule adds is
// laid over what there is, `only` keeps what lies where it holds, `never` takes away where it holds. Without a rule
// that adds before it, `only` and `never` start from everywhere. Within a rule the share is 1 between from and to, and
// falls smoothly to 0 over `fade` beyond them. The same at every cover sample, whatever the region.
//
// Ground is looked at as it is. Layers are looked at so that no layer can follow itself, whatever rules there are: one
// below `own` counts where it would show if `own` and all above it were not there; one above counts where it covers,
// and where its own rules are alive only where the hand holds it altogether. So what a layer is given depends on the
// ground, on the layers below it and on what was painted, and laying layers by their rules from the bottom up is done
// in one go: doing it again changes nothing. `own`: the id of the layer that the rules lay; 0 looks at all layers as
// they show.
void readRules(const Level& level, uint32_t own, const std::vector<Rule>& rules, const Region& region, View<float> out);

// Metres around a place that its rules look at, at most.
double ruleReach(const Rule& rule);
// The cover samples whose coverage a rule may change, by what the level is now.
TileSet whereItCounts(const Level& level, const Rule& rule);
// The cover samples where two lists of rules of one layer may give different coverage.
TileSet rulesDiffer(const Level& level, const std::vector<Rule>& before, const std::vector<Rule>& after);

// Cover samples over ground samples.
TileSet overGround(const Level& level, const TileSet& ground);

}  // namespace jam
