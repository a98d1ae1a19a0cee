// The ground as an ASCII grid: a text of heights in metres that nearly everything reads.
#include <charconv>

#include "handover/handover.h"
#include "handover/picture_rows.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

constexpr const char* kNoValue = "-99999";  // far below any level's range

bool always(const Level&) { return true; }

std::string facts(const Level& level, const HandoverWish&) {
    return "heights.asc: " + sized(level.columns, level.rows) + ", metres";
}

// As short as it comes back to the bit.
template <class T>
void add(std::string& text, T value) {
    char digits[64];
    const auto end = std::to_chars(digits, digits + sizeof digits, value).ptr;
    text.append(digits, end);
}

// Its y runs north: the last row is the lowest.
std::string head(const Level& level) {
    std::string text = "ncols " + std::to_string(level.columns) + "\nnrows " + std::to_string(level.rows) +
                       "\nxllcenter ";
    add(text, level.originX);
    text += "\nyllcenter ";
    add(text, -(level.originZ + level.depth()));
    text += "\ncellsize ";
    add(text, level.spacing);
    return text + "\nNODATA_value " + kNoValue + "\n";
}

Status write(const Level& level, const HandoverWish&, HandoverFiles& files, const Context& context) {
    const Result<AtomicFile*> file = files.begin("heights.asc");
    if (!file) return file.error();
    files.manifest["grid"] = {
        {"file", "heights.asc"}, {"columns", level.columns}, {"rows", level.rows}, {"spacing", level.spacing}};
    std::string text = head(level);
    Raster<float> heights(level.columns, 1);
    Raster<uint8_t> gaps(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        const Region row{0, z, level.columns, z + 1};
        readGround(level, row, heights.view());
        readGaps(level, row, gaps.view());
        for (int x = 0; x < level.columns; ++x) {
            if (x > 0) text += ' ';
            if (gaps.at(x, 0) >= kGapEdge) text += kNoValue;
            else add(text, heights.at(x, 0));
        }
        text += '\n';
        if (text.size() < (1u << 20) && z + 1 < level.rows) continue;
        if (Status s = file.value()->append(reinterpret_cast<const uint8_t*>(text.data()), text.size()); !s) return s;
        text.clear();
        context.report(static_cast<double>(z + 1) / level.rows);
        if (context.cancelled()) return cancelledError();
    }
    return {};
}

}  // namespace

extern const Writer asciiGridWriter;
const Writer asciiGridWriter = {"ascii-grid",
                                "Heights as an ASCII grid",
                                "A text of metres that nearly everything reads",
                                false,
                                {},
                                always,
                                facts,
                                2,
                                write};

}  // namespace jam
