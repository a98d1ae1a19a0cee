// Rules: where a layer lies by slope, altitude, curvature, facing, nearness and noise (level/rule.h).
#pragma once

#include "base/context.h"
#include "brush/dab.h"
#include "level/changes.h"

namespace jam {

// Coverage, [0, 1], that the rules give at the cover samples of `region`. In order: what a rule adds is laid over what there
// is, `only` keeps what lies where it holds, `never` takes away where it holds. Without a rule that adds before it, `only`
// and `never` start from everywhere. Within a rule the share is 1 between from and to, and falls smoothly to 0 over `fade`
// beyond them. Ground and layers are looked at in `level` as it is. The same at every cover sample, whatever the region.
void readRules(const Level& level, const std::vector<Rule>& rules, const Region& region, View<float> out);

// Sets a layer's coverage to what its rules give, everywhere; a kept or the first layer stays. False when cancelled, and the level stays.
bool bakeRules(Level& level, uint32_t layer, const Context& context = {});
// Draws a layer's coverage by share * falloff towards what its rules give on `origin`;
// living rules get back what the hand held there. Returns the samples it may have changed.
Region ruleCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer);

// Keeps the rules alive: from now on refreshRules() brings the layer up to date when what they look at changes, and what
// is painted by hand stays (Layer::held). What the layer covers now and the rules do not give counts as painted by hand
// when `keepPaint`, otherwise the rules give all of it.
void wakeRules(Level& level, uint32_t layer, bool keepPaint);
// The coverage stays as it is; the rules no longer look after it.
void restRules(Level& level, uint32_t layer);

// Runs the living rules again where `change` may alter what they give; returns the cover samples that this may have changed. Layers
// from the bottom up, so that one may follow another. A cancelled run leaves some layers as they were.
TileSet refreshRules(Level& level, const Change& change, const Context& context = {});
// The same for one layer whose rules themselves changed.
TileSet refreshLayer(Level& level, uint32_t layer, const Context& context = {});

// Notes that the hand works on a layer below a dab: as far as the mask goes, the rules no longer count.
void holdByHand(Layer& layer, const Dab& dab, float share);

// Metres around a place that its rules look at, at most.
double ruleReach(const Rule& rule);

}  // namespace jam
