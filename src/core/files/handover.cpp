#include "files/handover.h"

#include <algorithm>
#include <cmath>

#include "cover/weights.h"
#include "files/disk.h"
#include "files/layer_json.h"
#include "files/png.h"
#include "files/weights_file.h"
#include "level/ground.h"
#include "survey/slope.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

const Error kCancelled{"", "", "it was cancelled", "start again when you like"};

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
    const GroundFigures figures = surveyGround(level);
    // Flat ground still needs a range to divide by.
    return {figures.lowest, figures.highest - figures.lowest < 1e-3f ? figures.lowest + 1 : figures.highest};
}

Pixels heightPicture(const Level& level, Range range) {
    Pixels p{level.columns, level.rows, 1, 16, {}};
    p.samples.resize(static_cast<size_t>(p.width) * static_cast<size_t>(p.height));
    Raster<float> row(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        readGround(level, {0, z, level.columns, z + 1}, row.view());
        for (int x = 0; x < level.columns; ++x) {
            const double share = (static_cast<double>(row.at(x, 0)) - range.black) /
                                 (static_cast<double>(range.white) - range.black);
            p.samples[static_cast<size_t>(z) * static_cast<size_t>(p.width) + static_cast<size_t>(x)] =
                static_cast<uint16_t>(std::lround(std::clamp(share, 0.0, 1.0) * 65535));
        }
    }
    return p;
}

using Planes = std::vector<std::vector<uint16_t>>;

Planes allWeights(const Level& level, int bits) {
    const auto n = static_cast<size_t>(level.coverBounds().area());
    Planes planes(level.layers.size(), std::vector<uint16_t>(n));
    const int w = level.coverColumns(), d = level.coverRows();
    if (bits == 16) {
        std::vector<View<uint16_t>> views;
        for (auto& p : planes) views.push_back({p.data(), w, d, w});
        readWeights16(level, level.coverBounds(), views);
        return planes;
    }
    std::vector<std::vector<uint8_t>> bytes(planes.size(), std::vector<uint8_t>(n));
    std::vector<View<uint8_t>> views;
    for (auto& p : bytes) views.push_back({p.data(), w, d, w});
    readWeights(level, level.coverBounds(), views);
    for (size_t i = 0; i < planes.size(); ++i) std::copy(bytes[i].begin(), bytes[i].end(), planes[i].begin());
    return planes;
}

size_t channelAt(const std::string& order, size_t layer) { return std::string("RGBA").find(order[layer % 4]); }

// One plane, or up to four from `first` on, each in its channel; missing ones are 0.
Pixels weightPicture(const Level& level, const Planes& planes, size_t first, const HandoverWish& wish, bool set) {
    const size_t step = set ? 4 : 1;
    Pixels p{level.coverColumns(), level.coverRows(), static_cast<int>(step), wish.weightBits, {}};
    const size_t n = planes.front().size();
    p.samples.assign(n * step, 0);
    for (size_t c = 0; c < step && first + c < planes.size(); ++c) {
        const size_t to = set ? channelAt(wish.channels, first + c) : 0;
        for (size_t i = 0; i < n; ++i) p.samples[i * step + to] = planes[first + c][i];
    }
    return p;
}

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
    return j.dump(2) + "\n";
}

Result<std::vector<std::string>> handOver(const Level& level, const fs::path& folder, const HandoverWish& wish,
                                          const Context& context) {
    if (Status s = checkWish(wish); !s)
        return Error{folder.string(), s.error().field, s.error().problem, s.error().remedy};
    std::error_code trouble;
    fs::create_directories(folder, trouble);
    if (trouble) return diskError(folder, trouble.value());

    MadeFolders made;  // outlives the files in them
    std::vector<AtomicFile> files;
    std::vector<std::string> names;
    const auto put = [&](const std::string& name, const Bytes& bytes) -> Status {
        files.emplace_back(folder / name);
        names.push_back(name);
        context.report(static_cast<double>(names.size()) / (3.0 + 6 * static_cast<double>(level.layers.size())));
        if (context.cancelled()) return kCancelled;
        return files.back().write(bytes);
    };
    Range range{level.lowest, level.highest};
    if (wish.heightmap) {
        range = heightRange(level, wish);
        if (Status s = put("heightmap.png", encodePng(heightPicture(level, range))); !s) return s.error();
    }
    if (wish.weightSets || wish.weightPerLayer) {
        const Planes planes = allWeights(level, wish.weightBits);
        for (size_t i = 0; wish.weightSets && i < planes.size(); i += 4)
            if (Status s = put(setName(i / 4), encodePng(weightPicture(level, planes, i, wish, true))); !s)
                return s.error();
        for (size_t i = 0; wish.weightPerLayer && i < planes.size(); ++i)
            if (Status s = put(layerFile(level, i), encodePng(weightPicture(level, planes, i, wish, false))); !s)
                return s.error();
    }
    for (size_t i = 0; wish.pictures && i < level.layers.size(); ++i)
        for (const LayerSlot& slot : kLayerSlots)
            if (const Picture& p = level.layers[i].*slot.picture) {
                if (Status s = made.make((folder / mapFile(level, i, slot)).parent_path()); !s) return s.error();
                if (Status s = put(mapFile(level, i, slot), p->bytes); !s) return s.error();
            }
    const std::string manifest = manifestText(level, wish, range.black, range.white);
    if (Status s = put("manifest.json", Bytes(manifest.begin(), manifest.end())); !s) return s.error();
    if (context.cancelled()) return kCancelled;
    for (AtomicFile& f : files)
        if (Status s = f.commit(); !s) return s.error();
    context.report(1);
    return names;
}

}  // namespace jam
