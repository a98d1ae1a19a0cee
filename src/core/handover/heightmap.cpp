// The ground as a picture of 16 bits.
#include <algorithm>
#include <cmath>

#include "handover/handover.h"
#include "handover/picture_rows.h"
#include "level/ground.h"

namespace jam {

namespace {

const char* const kRanges[] = {"ground", "level"};
const WriterOption kOptions[] = {
    {"range", "Range",
     "What black and white are: the lowest and highest ground, so that all steps are used, or the level's range",
     kRanges, 0}};

struct Range {
    float black, white;
};

Range heightRange(const Level& level, const HandoverWish& wish) {
    if (wish.of("range") == 1) return {level.lowest, level.highest};
    // Of all samples: those without ground still say how it slopes up to its edge.
    Raster<float> row(level.columns, 1);
    float low = level.highest, high = level.lowest;
    for (int z = 0; z < level.rows; ++z) {
        readGround(level, {0, z, level.columns, z + 1}, row.view());
        const auto [least, most] = std::minmax_element(row.view().data, row.view().data + level.columns);
        low = std::min(low, *least), high = std::max(high, *most);
    }
    // Flat ground still needs a range to divide by.
    return {low, high - low < 1e-3f ? low + 1 : high};
}

void heightRow(const Level& level, Range range, int z, uint16_t* out) {
    Raster<float> row(level.columns, 1);
    readGround(level, {0, z, level.columns, z + 1}, row.view());
    for (int x = 0; x < level.columns; ++x) {
        const double share = (static_cast<double>(row.at(x, 0)) - range.black) /
                             (static_cast<double>(range.white) - range.black);
        out[x] = static_cast<uint16_t>(std::lround(std::clamp(share, 0.0, 1.0) * 65535));
    }
}

bool always(const Level&) { return true; }

std::string facts(const Level& level, const HandoverWish&) {
    return "heightmap.png: " + sized(level.columns, level.rows) + ", 16 bits";
}

Status write(const Level& level, const HandoverWish& wish, HandoverFiles& files, const Context& context) {
    const Range range = heightRange(level, wish);
    Result<PictureOut> out = beginPicture(files, "heightmap.png", {level.columns, level.rows, 1, 16});
    if (!out) return out.error();
    files.manifest["heightmap"] = {{"file", "heightmap.png"},
                                   {"columns", level.columns},
                                   {"rows", level.rows},
                                   {"spacing", level.spacing},
                                   {"bits", 16},
                                   {"black", range.black},
                                   {"white", range.white}};
    return writeRows({&out.value()}, level.columns, level.rows, context,
                     [&](int z, auto& samples) { heightRow(level, range, z, samples[0].data()); });
}

}  // namespace

extern const Writer heightmapWriter;
const Writer heightmapWriter = {"heightmap",
                                "Heightmap, 16-bit PNG",
                                "Every sample of the ground, as fine as it is",
                                true,
                                kOptions,
                                always,
                                facts,
                                3,
                                write};

}  // namespace jam
