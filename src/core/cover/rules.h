// What is laid by rules (what those give: cover/rule_masks.h), once or for as long as they are alive: the coverage of
// layers, and the density of kinds. `layer` is the id of either; a kind's rules look at all layers as they show.
#pragma once

#include "base/context.h"
#include "brush/dab.h"
#include "cover/rule_masks.h"
#include "level/changes.h"

namespace jam {

// Sets a layer's coverage to what its rules give, everywhere; a kept or the first layer stays. False when cancelled,
// and the level stays.
bool bakeRules(Level& level, uint32_t layer, const Context& context = {});
// Draws a layer's coverage by share * falloff towards what its rules give on `origin`;
// living rules get back what the hand held there. Returns the samples it may have changed.
Region ruleCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer);

// Keeps the rules alive: from now on refreshRules() brings the layer up to date when what they look at changes, and
// what is painted by hand stays (Layer::held). What the layer covers now and the rules do not give counts as painted by
// hand when `keepPaint`, otherwise the rules give all of it. What lies outside of the fence is the hand's for good; a
// layer without rules has none to keep inside.
void wakeRules(Level& level, uint32_t layer, bool keepPaint);
// The coverage stays as it is; the rules no longer look after it.
void restRules(Level& level, uint32_t layer);

// Runs the living rules again where `change` may alter what they give; returns the cover samples that this may have
// changed. Layers from the bottom up, so that one may follow another. A cancelled run leaves some layers as they were.
TileSet refreshRules(Level& level, const Change& change, const Context& context = {});
// Samples that it would have to look at, about.
long long rulesWork(const Level& level, const Change& change);
// The same for the kinds, after the layers.
TileSet refreshDensities(Level& level, const Change& change, const Context& context = {});
long long densitiesWork(const Level& level, const Change& change);
// The same for one layer or kind, everywhere.
TileSet refreshLaid(Level& level, uint32_t layer, const Context& context = {});
// Gives a layer other rules, and runs them where they may give something else. Nothing changes outside of the fence:
// what the rules would change there counts as painted by hand. The coverage of a protected layer stays, and the
// first's. Returns the cover samples that this may have changed.
TileSet changeRules(Level& level, uint32_t layer, std::vector<Rule> rules, const Context& context = {});

// Makes a kind stand as densely where its rules hold altogether. Returns what it may have changed.
TileSet changeDensity(Level& level, uint32_t kind, float density, const Context& context = {});

// Notes that the hand works on a layer below a dab: as far as the mask goes, the rules no longer count.
void holdByHand(Ruled& layer, const Dab& dab, float share);

}  // namespace jam
