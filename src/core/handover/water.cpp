// Water: its depth, where it is, and in the manifest its outlines and lines.
#include <algorithm>

#include "files/water_json.h"
#include "handover/handover.h"
#include "handover/picture_rows.h"
#include "level/ground.h"
#include "water/outline.h"
#include "water/water.h"

namespace jam {

namespace {

bool hasWater(const Level& level) { return level.water.presentTiles() > 0; }

// Metres of water over each sample, 0 where it is dry.
void depthRow(const Level& level, int z, std::vector<Wet>& wet, Raster<float>& ground, std::vector<float>& depth) {
    const Region row{0, z, level.columns, z + 1};
    level.water.read(row, {wet.data(), level.columns, 1, level.columns});
    readGround(level, row, ground.view());
    for (int x = 0; x < level.columns; ++x) {
        const auto i = static_cast<size_t>(x);
        depth[i] = wet[i].wet() ? std::max(wet[i].surface - ground.at(x, 0), 0.f) : 0;
    }
}

float deepestWater(const Level& level) {
    const auto n = static_cast<size_t>(level.columns);
    std::vector<Wet> wet(n);
    std::vector<float> depth(n);
    Raster<float> ground(level.columns, 1);
    float deepest = 0;
    for (int z = 0; z < level.rows; ++z) {
        depthRow(level, z, wet, ground, depth);
        deepest = std::max(deepest, *std::max_element(depth.begin(), depth.end()));
    }
    return deepest;
}

Json describeWater(const Level& level, float deepest) {
    const Json raster = {{"columns", level.columns}, {"rows", level.rows}, {"spacing", level.spacing}};
    Json depth = raster, mask = raster;
    depth.update({{"file", "water-depth.png"}, {"bits", 16}, {"white", deepest}});
    mask.update({{"file", "water.png"}, {"bits", 8}, {"there", 255}});
    Json pools = Json::array(), streams = Json::array();
    for (const Pool& p : level.pools) {
        pools.push_back(poolToJson(p));
        pools.back()["outlines"] = outlineOf(level, p);
    }
    for (const Stream& s : level.streams) {
        streams.push_back(streamToJson(s));
        streams.back().erase("course");
        Json line = Json::array();
        for (const LinePoint& p : streamLine(level, s))
            line.push_back({{"x", p.x}, {"z", p.z}, {"height", p.height}, {"width", p.width}});
        streams.back()["line"] = std::move(line);
    }
    return {{"depth", depth}, {"mask", mask}, {"pools", pools}, {"streams", streams}};
}

std::string facts(const Level& level, const HandoverWish&) {
    return "water-depth.png, water.png: " + sized(level.columns, level.rows) + ", depth and where";
}

// The depth in 16 bits, 65535 for the deepest, and where there is water at all: 255, none: 0.
Status write(const Level& level, const HandoverWish&, HandoverFiles& files, const Context& context) {
    const float deepest = std::max(deepestWater(level), 0.01f);
    Result<PictureOut> depths = beginPicture(files, "water-depth.png", {level.columns, level.rows, 1, 16});
    if (!depths) return depths.error();
    Result<PictureOut> mask = beginPicture(files, "water.png", {level.columns, level.rows, 1, 8});
    if (!mask) return mask.error();
    files.manifest["water"] = describeWater(level, deepest);
    const auto n = static_cast<size_t>(level.columns);
    std::vector<Wet> wet(n);
    std::vector<float> depth(n);
    Raster<float> ground(level.columns, 1);
    return writeRows({&depths.value(), &mask.value()}, level.columns, level.rows, context, [&](int z, auto& samples) {
        depthRow(level, z, wet, ground, depth);
        std::transform(depth.begin(), depth.end(), samples[0].begin(),
                       [&](float d) { return static_cast<uint16_t>(d / deepest * 65535 + 0.5f); });
        std::transform(wet.begin(), wet.end(), samples[1].begin(),
                       [](const Wet& w) { return static_cast<uint16_t>(w.wet() ? 255 : 0); });
    });
}

}  // namespace

extern const Writer waterWriter;
const Writer waterWriter = {
    "water", "Depth of water", "How deep it stands, and where, two grey PNGs", true, {}, hasWater, facts, 1, write};

}  // namespace jam
