// How far anything of a level may lie, for fields, commands, writers and readers alike.
#pragma once

namespace jam {

constexpr float kFarHeight = 10000;                // metres, the largest altitude either way
constexpr double kFarPlace = 1e6;                  // metres from the origin, each way, that anything of a level may lie
constexpr double kLeastHeightRange = 1;            // metres from a level's lowest to its highest ground, at least
constexpr double kFinest = 0.01, kCoarsest = 100;  // metres between samples

}  // namespace jam
