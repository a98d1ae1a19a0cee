#include "files/handover.h"

#include <algorithm>
#include <cmath>
#include <deque>

#include "base/parallel.h"
#include "cover/weights.h"
#include "files/disk.h"
#include "files/layer_json.h"
#include "files/picture_out.h"
#include "files/spots_json.h"
#include "files/water_json.h"
#include "files/weights_file.h"
#include "level/ground.h"
#include "level/opening.h"
#include "walk/reach.h"
#include "water/outline.h"
#include "water/water.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

std::string setName(size_t set) { return "weights-" + std::to_string(set + 1) + ".png"; }

// "03-dry-stone-wall"
std::string numbered(const Level& level, size_t i) {
    const std::string n = std::to_string(i + 1);
    return std::string(n.size() < 2 ? "0" : "") + n + "-" + plainName(level.layers[i].name);
}
std::string layerFile(const Level& level, size_t i) { return "weight-" + numbered(level, i) + ".png"; }
std::string mapFile(const Level& level, size_t i, const LayerSlot& slot) {
    return "layers/" + numbered(level, i) + "/" + slot.name + ".png";
}

struct Range {
    float black, white;
};

Range heightRange(const Level& level, const HandoverWish& wish) {
    if (!wish.fitRange) return {level.lowest, level.highest};
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

size_t channelAt(const std::string& order, size_t layer) { return std::string("RGBA").find(order[layer % 4]); }

// Folders that were made on the way go again when they stayed empty.
class MadeFolders {
public:
    ~MadeFolders() {
        std::error_code none;
        for (size_t i = made_.size(); i-- > 0;) fs::remove(made_[i], none);
    }
    Status make(const fs::path& folder) {
        std::error_code trouble;
        for (const fs::path& f : {folder.parent_path(), folder}) {
            if (fs::create_directory(f, trouble)) made_.push_back(f);
            if (trouble) return diskError(f, trouble.value());
        }
        return {};
    }

private:
    std::vector<fs::path> made_;
};

// A picture of weights: one layer, or up to four, each in its channel.
struct WeightPicture {
    PictureOut out;
    size_t first, layers;
    bool set;
};

// One row of a picture from a row of all layers' weights; channels that no layer takes are 0.
template <class T>
void weightRow(WeightPicture& picture, const std::vector<View<T>>& planes, int z, const std::string& order) {
    const size_t step = picture.set ? 4 : 1;
    const auto n = static_cast<size_t>(planes.front().width);
    std::vector<uint16_t> samples(n * step);
    for (size_t c = 0; c < picture.layers; ++c) {
        const T* from = planes[picture.first + c].row(z);
        uint16_t* to = samples.data() + (picture.set ? channelAt(order, picture.first + c) : 0);
        for (size_t i = 0; i < n; ++i) to[i * step] = from[i];
    }
    picture.out.row(samples.data());
}

void readBand(const Level& level, const Region& band, const std::vector<View<uint8_t>>& planes) {
    readWeights(level, band, planes);
}
void readBand(const Level& level, const Region& band, const std::vector<View<uint16_t>>& planes) {
    readWeights16(level, band, planes);
}

// All pictures at once, a band of rows at a time: the weights of a large level would not fit otherwise.
template <class T>
Status writeWeights(const Level& level, const HandoverWish& wish, std::deque<WeightPicture>& pictures,
                    const Context& context) {
    constexpr int kBand = TiledGrid<uint16_t>::kTile;
    const int columns = level.coverColumns(), rows = level.coverRows();
    std::vector<Raster<T>> rasters(level.layers.size(), Raster<T>(columns, kBand));
    std::vector<View<T>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    for (int z0 = 0; z0 < rows; z0 += kBand) {
        const int z1 = std::min(z0 + kBand, rows);
        readBand(level, {0, z0, columns, z1}, planes);
        parallelFor(static_cast<int>(pictures.size()), 1, [&](int begin, int end) {
            for (int i = begin; i < end; ++i)
                for (int z = 0; z < z1 - z0; ++z) weightRow(pictures[static_cast<size_t>(i)], planes, z, wish.channels);
        });
        for (const WeightPicture& p : pictures)
            if (!p.out.trouble()) return p.out.trouble();
        context.report(0.3 + 0.5 * z1 / rows);
        if (context.cancelled()) return cancelledError();
    }
    for (WeightPicture& p : pictures)
        if (Status s = p.out.finish(); !s) return s;
    return {};
}

Status writeHeights(const Level& level, Range range, AtomicFile& file, const Context& context) {
    PictureOut out(file, {level.columns, level.rows, 1, 16});
    std::vector<uint16_t> samples(static_cast<size_t>(level.columns));
    for (int z = 0; z < level.rows; ++z) {
        heightRow(level, range, z, samples.data());
        out.row(samples.data());
        if (z % 64 != 0) continue;
        if (!out.trouble()) return out.trouble();
        context.report(0.3 * z / level.rows);
        if (context.cancelled()) return cancelledError();
    }
    return out.finish();
}

bool handsMask(const Level& level, const HandoverWish& wish) {
    return wish.groundMask && wish.heightmap && hasGaps(level);
}

// Where there is ground: 255, none: 0.
Status writeMask(const Level& level, AtomicFile& file, const Context& context) {
    PictureOut out(file, {level.columns, level.rows, 1, 8});
    Raster<uint8_t> gaps(level.columns, 1);
    std::vector<uint16_t> samples(static_cast<size_t>(level.columns));
    for (int z = 0; z < level.rows; ++z) {
        readGaps(level, {0, z, level.columns, z + 1}, gaps.view());
        for (int x = 0; x < level.columns; ++x)
            samples[static_cast<size_t>(x)] = static_cast<uint16_t>(255 - gaps.at(x, 0));
        out.row(samples.data());
        if (z % 64 != 0) continue;
        if (!out.trouble()) return out.trouble();
        if (context.cancelled()) return cancelledError();
    }
    return out.finish();
}

bool handsWater(const Level& level, const HandoverWish& wish) {
    return wish.water && wish.heightmap && level.water.presentTiles() > 0;
}

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

// The depth in 16 bits, 65535 for `deepest` metres, and where there is water at all: 255, none: 0.
Status writeWater(const Level& level, float deepest, AtomicFile& depthFile, AtomicFile& maskFile,
                  const Context& context) {
    PictureOut depths(depthFile, {level.columns, level.rows, 1, 16}), mask(maskFile, {level.columns, level.rows, 1, 8});
    const auto n = static_cast<size_t>(level.columns);
    std::vector<Wet> wet(n);
    std::vector<float> depth(n);
    std::vector<uint16_t> samples(n);
    Raster<float> ground(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        depthRow(level, z, wet, ground, depth);
        std::transform(depth.begin(), depth.end(), samples.begin(),
                       [&](float d) { return static_cast<uint16_t>(d / deepest * 65535 + 0.5f); });
        depths.row(samples.data());
        std::transform(wet.begin(), wet.end(), samples.begin(),
                       [](const Wet& w) { return static_cast<uint16_t>(w.wet() ? 255 : 0); });
        mask.row(samples.data());
        if (z % 64 != 0) continue;
        if (!depths.trouble()) return depths.trouble();
        if (!mask.trouble()) return mask.trouble();
        if (context.cancelled()) return cancelledError();
    }
    if (Status s = depths.finish(); !s) return s;
    return mask.finish();
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

Status checkWish(const HandoverWish& wish) {
    if (!wish.heightmap && !wish.weightSets && !wish.weightPerLayer && !wish.pictures)
        return Error{"", "", "nothing is chosen to hand over", "choose the heightmap or the weights"};
    if (wish.weightBits != 8 && wish.weightBits != 16)
        return Error{"", "weight bits", "they are " + std::to_string(wish.weightBits), "use 8 or 16"};
    return checkChannelOrder(wish.channels);
}

}  // namespace

std::string manifestText(const Level& level, const HandoverWish& wish, float black, float white) {
    Json j = {{"format", "jamhill-handover"},
              {"version", 1},
              {"level", level.name},
              {"axes",
               {{"x", "east"},
                {"y", "up"},
                {"z", "south"},
                {"unit", "metre"},
                {"firstSample", "north-west corner; rows run south, columns run east"}}},
              {"origin", {{"x", level.originX}, {"z", level.originZ}}},
              {"size", {{"width", level.width()}, {"depth", level.depth()}}}};
    if (wish.heightmap)
        j["heightmap"] = {{"file", "heightmap.png"},
                          {"columns", level.columns},
                          {"rows", level.rows},
                          {"spacing", level.spacing},
                          {"bits", 16},
                          {"black", black},
                          {"white", white}};
    if (handsMask(level, wish))
        j["ground"] = {{"file", "ground.png"},
                       {"columns", level.columns},
                       {"rows", level.rows},
                       {"spacing", level.spacing},
                       {"bits", 8},
                       {"there", 255},
                       {"endsAt", 255 - kGapEdge},
                       {"smooth", level.smoothEdges},
                       {"cliff", level.cliff}};
    if (handsWater(level, wish)) j["water"] = describeWater(level, std::max(deepestWater(level), 0.01f));
    Json spots = Json::array();
    for (const Spot& s : level.spots) {
        spots.push_back(spotToJson(s));
        spots.back()["y"] = altitudeAt(level, s.x, s.z);
    }
    j["spots"] = std::move(spots);
    j["body"] = bodyToJson(bodyOf(level));
    Json layers = Json::array();
    for (size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& l = level.layers[i];
        Json entry = layerToJson(l);
        entry["hidden"] = l.hidden;
        if (wish.weightSets)
            entry["set"] = {{"file", setName(i / 4)}, {"channel", std::string(1, wish.channels[i % 4])}};
        if (wish.pictures)
            for (const LayerSlot& slot : kLayerSlots)
                if (l.*slot.picture) entry["pictures"][slot.name] = mapFile(level, i, slot);
        if (wish.weightPerLayer) entry["weight"] = layerFile(level, i);
        layers.push_back(std::move(entry));
    }
    j["weights"] = {{"columns", level.coverColumns()},           {"rows", level.coverRows()},
                    {"spacing", level.coverSpacing()},           {"bits", wish.weightBits},
                    {"sum", wish.weightBits == 8 ? 255 : 65535}, {"layers", std::move(layers)}};
    return toText(j, 2) + "\n";
}

Result<std::vector<std::string>> handOver(const Level& level, const fs::path& folder, const HandoverWish& wish,
                                          const Context& context) {
    if (Status s = checkWish(wish); !s)
        return Error{folder.string(), s.error().field, s.error().problem, s.error().remedy};
    std::error_code trouble;
    fs::create_directories(folder, trouble);
    if (trouble) return diskError(folder, trouble.value());

    MadeFolders made;              // outlives the files in them
    std::deque<AtomicFile> files;  // a deque, since pictures under way keep hold of theirs
    std::vector<std::string> names;
    const auto begin = [&](const std::string& name) -> AtomicFile& {
        names.push_back(name);
        return files.emplace_back(folder / name);
    };
    Range range{level.lowest, level.highest};
    if (wish.heightmap) {
        range = heightRange(level, wish);
        if (Status s = writeHeights(level, range, begin("heightmap.png"), context); !s) return s.error();
    }
    if (handsMask(level, wish))
        if (Status s = writeMask(level, begin("ground.png"), context); !s) return s.error();
    if (handsWater(level, wish)) {
        AtomicFile &depth = begin("water-depth.png"), &mask = begin("water.png");
        if (Status s = writeWater(level, std::max(deepestWater(level), 0.01f), depth, mask, context); !s)
            return s.error();
    }
    std::deque<WeightPicture> weights;
    const PngShape cover{level.coverColumns(), level.coverRows(), 1, wish.weightBits};
    const PngShape coverSet{cover.width, cover.height, 4, cover.bits};
    for (size_t i = 0; wish.weightSets && i < level.layers.size(); i += 4)
        weights.emplace_back(PictureOut(begin(setName(i / 4)), coverSet), i,
                             std::min<size_t>(4, level.layers.size() - i), true);
    for (size_t i = 0; wish.weightPerLayer && i < level.layers.size(); ++i)
        weights.emplace_back(PictureOut(begin(layerFile(level, i)), cover), i, size_t{1}, false);
    if (!weights.empty()) {
        const auto write = wish.weightBits == 16 ? writeWeights<uint16_t> : writeWeights<uint8_t>;
        if (Status s = write(level, wish, weights, context); !s) return s.error();
    }
    const auto put = [&](const std::string& name, const Bytes& bytes) -> Status {
        if (context.cancelled()) return cancelledError();
        return begin(name).write(bytes);
    };
    for (size_t i = 0; wish.pictures && i < level.layers.size(); ++i)
        for (const LayerSlot& slot : kLayerSlots)
            if (const Picture& p = level.layers[i].*slot.picture) {
                if (Status s = made.make((folder / mapFile(level, i, slot)).parent_path()); !s) return s.error();
                if (Status s = put(mapFile(level, i, slot), p->bytes); !s) return s.error();
            }
    const std::string manifest = manifestText(level, wish, range.black, range.white);
    if (Status s = put("manifest.json", Bytes(manifest.begin(), manifest.end())); !s) return s.error();
    if (context.cancelled()) return cancelledError();
    for (AtomicFile& f : files)
        if (Status s = f.commit(); !s) return s.error();
    context.report(1);
    return names;
}

}  // namespace jam
