// Where there is ground.
#include "handover/handover.h"
#include "handover/picture_rows.h"
#include "level/opening.h"

namespace jam {

namespace {

std::string facts(const Level& level, const HandoverWish&) {
    return "ground.png: " + sized(level.columns, level.rows) + ", where there is ground";
}

// Ground: 255, none: 0.
Status write(const Level& level, const HandoverWish&, HandoverFiles& files, const Context& context) {
    Result<PictureOut> out = beginPicture(files, "ground.png", {level.columns, level.rows, 1, 8});
    if (!out) return out.error();
    files.manifest["ground"] = {{"file", "ground.png"},
                                {"columns", level.columns},
                                {"rows", level.rows},
                                {"spacing", level.spacing},
                                {"bits", 8},
                                {"there", 255},
                                {"endsAt", 255 - kGapEdge},
                                {"smooth", level.smoothEdges},
                                {"cliff", level.cliff}};
    Raster<uint8_t> gaps(level.columns, 1);
    return writeRows({&out.value()}, level.columns, level.rows, context, [&](int z, auto& samples) {
        readGaps(level, {0, z, level.columns, z + 1}, gaps.view());
        for (int x = 0; x < level.columns; ++x)
            samples[0][static_cast<size_t>(x)] = static_cast<uint16_t>(255 - gaps.at(x, 0));
    });
}

}  // namespace

extern const Writer groundMaskWriter;
const Writer groundMaskWriter = {
    "ground-mask", "Where there is ground", "Openings and where the land ends, a grey PNG", true, {}, hasGaps, facts, 1,
    write};

}  // namespace jam
