// A raster that rules lay and hands paint: what a layer covers, how densely a kind stands.
#pragma once

#include <cstdint>
#include <vector>

#include "grid/tiled_grid.h"
#include "level/rule.h"

namespace jam {

struct Ruled {
    TiledGrid<uint16_t> coverage;  // 0..65535, at the cover's samples
    bool locked = false;           // protected: no brush changes it

    // Rules that say where it lies. While they are alive, coverage = base * (1 - held) + what was painted by hand, so
    // that the hand always wins; cover/rules.h keeps that true when the ground or the rules change.
    std::vector<Rule> rules;
    bool alive = false;
    TiledGrid<uint16_t> base;  // what the rules gave last; empty unless alive
    TiledGrid<uint16_t> held;  // share that the hand has made its own; empty unless alive

    bool operator==(const Ruled&) const = default;
};

}  // namespace jam
