// Levels to stand things on.
#pragma once

#include "dress/density.h"
#include "dress/kinds.h"
#include "grow/recipe.h"
#include "levels.h"

namespace jam::test {

// Hills, oblong, off the origin, two samples of the cover to each of the ground.
inline Level lopsidedHills(uint32_t seed, int layers = 3) {
    Level level = hillyLevel(170, 81, seed, layers);
    level.originX = -43.5, level.originZ = 1207;
    level.coverFactor = 2;
    for (Layer& l : level.layers) l.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    return level;
}

// Adds a kind that grows by a recipe, as it usually does.
inline uint32_t addGrown(Level& level, const char* recipe) {
    Kind k;
    k.name = recipe;
    k.growth = usualGrowth(*recipeNamed(recipe));
    return addKind(level, k).value();
}

// So many of it on 100 m2, everywhere, whatever rules say.
inline void fill(Level& level, uint32_t kind, double onHundred) {
    Kind& k = *level.kind(kind);
    for (int z = 0; z < level.coverRows(); ++z)
        for (int x = 0; x < level.coverColumns(); ++x) k.coverage.set(x, z, storedDensity(onHundred));
    k.alive = false, k.base = k.held = {};
}

}  // namespace jam::test
