#include "files/field_level.h"

#include <algorithm>
#include <cmath>

#include "base/names.h"
#include "base/text.h"
#include "level/ground.h"
#include "shape/steps.h"

namespace jam {

bool cellsFit(const HeightField& field) {
    return field.cellX <= 0 ||
           (std::min(field.cellX, field.cellZ) >= kFinest && std::max(field.cellX, field.cellZ) <= kCoarsest);
}

std::string cellNote(const HeightField& field) {
    return "its samples lie " + number(std::round(field.cellX * 1000) / 1000) + " x " +
           number(std::round(field.cellZ * 1000) / 1000) + " m apart, and those of a level " + number(kFinest) +
           " to " + number(kCoarsest) + " m";
}

FieldSize sizeOf(const HeightField& field, const FieldWish& wish) {
    if (wish.fit == Fit::keep) return {field.width(), field.depth()};
    const auto samples = [&](double metres) {
        return static_cast<int>(std::min(std::round(metres / wish.spacing) + 1, 1e6));
    };
    return {samples(wish.width), samples(wish.depth)};
}

Result<Level> levelFromField(const HeightField& field, const FieldWish& wish, float margin, const Context& context) {
    // A flat field has one value, which stands for one height.
    const bool flat = !(field.white > field.black);
    if (!(wish.white > wish.black) && !(flat && wish.white == wish.black))
        return Error{field.name, "white",
                     "it stands for " + number(wish.white) + " m, not above black at " + number(wish.black) + " m",
                     "give white a greater height than black"};
    const FieldSize size = sizeOf(field, wish);
    NewLevel start;
    start.name = shortened(asText(std::filesystem::path(field.name).stem().string()));
    start.columns = size.columns;
    start.rows = size.rows;
    start.spacing = wish.spacing;
    const double perValue =
        flat ? 0 : (static_cast<double>(wish.white) - wish.black) / (static_cast<double>(field.white) - field.black);
    const auto metresOf = [&](double v) { return static_cast<float>(wish.black + (v - field.black) * perValue); };
    start.startHeight = metresOf(field.low);
    start.lowest = std::min(wish.black, metresOf(field.low)) - margin;
    start.highest = std::max(wish.white, metresOf(field.high)) + margin;
    Result<Level> made = makeLevel(start);
    if (!made) return Error{field.name, made.error().field, made.error().problem, made.error().remedy};
    Level level = made.take();

    Raster<float> values = field.values;
    const double stepValues = field.steps > 0 ? surveySteps(values.view()).height : 0;
    if (wish.soften && stepValues > 0 && !softenSteps(values, static_cast<float>(stepValues), context))
        return cancelledError();
    Raster<float> heights(level.columns, level.rows);
    if (wish.fit == Fit::keep) {
        heights = std::move(values);
    } else {
        double ratioX = (values.width() - 1.0) / std::max(level.columns - 1, 1),
               ratioZ = (values.depth() - 1.0) / std::max(level.rows - 1, 1), offX = 0, offZ = 0;
        if (wish.fit == Fit::crop) {
            ratioX = ratioZ = std::min(ratioX, ratioZ);
            offX = (values.width() - 1 - ratioX * (level.columns - 1)) / 2;
            offZ = (values.depth() - 1 - ratioZ * (level.rows - 1)) / 2;
        }
        if (!resampleRaster(values.view(), heights.view(), ratioX, ratioZ, offX, offZ, wish.kernel, context))
            return cancelledError();
    }
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x)
            heights.at(x, z) = std::clamp(metresOf(heights.at(x, z)), level.lowest, level.highest) - level.startHeight;
    level.strata.front().heights.write(level.bounds(), heights.view());
    level.strata.front().heights.dropDefaultTiles();
    return level;
}

}  // namespace jam
