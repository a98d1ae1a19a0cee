// Ground from nothing: whole landscapes to start from.
#pragma once

#include <optional>
#include <string_view>

#include "base/context.h"
#include "level/level.h"

namespace jam {

enum class Landscape { rollingHills, ridges, island, canyon, terraces, craterLakes };
constexpr int kLandscapes = 6;

std::string_view landscapeName(Landscape kind);  // "rolling-hills", ...
std::optional<Landscape> landscapeFromName(std::string_view name);

struct LandscapeWish {
    Landscape kind = Landscape::rollingHills;
    uint32_t seed = 1;
    float scale = 260;     // metres from one large form to the next, [1, 50000]
    float height = 60;     // metres from its lowest to its highest ground, about, [0.1, 8000]
    float edge = 0;        // metres of height of mountains along the border that enclose the level, [0, 8000]
    float edgeWidth = 90;  // metres that they reach inwards, [1, 5000]
};

// Errors: a value out of its range, naming the field.
Status checkLandscape(const LandscapeWish& wish);

// Height above the base at a place in metres; (u, v) is the same place as a share of the level, [0, 1].
// About [0, height]; an island's shore lies at a third of its height. The edge comes on top.
float landscapeAt(const LandscapeWish& wish, double x, double z, double u, double v, double width, double depth);

// The whole raster, sample by sample. False when cancelled.
bool generateLandscape(const LandscapeWish& wish, const Level& level, Raster<float>& out, const Context& context = {});

}  // namespace jam
