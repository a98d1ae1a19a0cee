// How much each place counts for rules: by slope, altitude, curvature, facing, nearness and noise (level/rule.h).
#pragma once

#include "level/level.h"

namespace jam {

// Coverage, [0, 1], that the rules give at the cover samples of `region`. In order: what a rule adds is laid over what
// there is, `only` keeps what lies where it holds, `never` takes away where it holds. Without a rule that adds before
// it, `only` and `never` start from everywhere. Within a rule the share is 1 between from and to, and falls smoothly to
// 0 over `fade` beyond them. Ground and layers are looked at in `level` as it is. The same at every cover sample,
// whatever the region.
void readRules(const Level& level, const std::vector<Rule>& rules, const Region& region, View<float> out);

// Metres around a place that its rules look at, at most.
double ruleReach(const Rule& rule);

}  // namespace jam
