#include "files/handover.h"

#include <cmath>

#include "files/disk.h"
#include "files/fields.h"
#include "files/png.h"
#include "level/ground.h"
#include "cover/weights.h"
#include "survey/slope.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

const Error kCancelled{"", "", "it was cancelled", "start again when you like"};

std::string setName(size_t set) { return "weights-" + std::to_string(set + 1) + ".png"; }

// "Dry-stone wall" -> "dry-stone-wall"; safe in every file system.
std::string plainName(const std::string& name) {
    std::string out;
    for (const char c : name) {
        const auto u = static_cast<unsigned char>(c);
        if (std::isalnum(u)) out += static_cast<char>(std::tolower(u));
        else if (!out.empty() && out.back() != '-') out += '-';
    }
    while (!out.empty() && out.back() == '-') out.pop_back();
    return out.empty() ? "layer" : out;
}

std::string layerFile(const Level& level, size_t i) {
    const std::string n = std::to_string(i + 1);
    return "weight-" + std::string(n.size() < 2 ? "0" : "") + n + "-" + plainName(level.layers[i].name) + ".png";
}

struct Range { float black, white; };

Range heightRange(const Level& level, const HandoverWish& wish) {
    if (!wish.fitRange) return {level.lowest, level.highest};
    const Relief relief = surveyRelief(level);
    // Flat ground still needs a range to divide by.
    return {relief.lowest, relief.highest - relief.lowest < 1e-3f ? relief.lowest + 1 : relief.highest};
}

Pixels heightPicture(const Level& level, Range range) {
    Pixels p{level.columns, level.rows, 1, 16, {}};
    p.samples.resize(static_cast<size_t>(p.width) * static_cast<size_t>(p.height));
    Raster<float> row(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        readGround(level, {0, z, level.columns, z + 1}, row.view());
        for (int x = 0; x < level.columns; ++x) {
            const double share = (static_cast<double>(row.at(x, 0)) - range.black) / (static_cast<double>(range.white) - range.black);
            p.samples[static_cast<size_t>(z) * static_cast<size_t>(p.width) + static_cast<size_t>(x)] =
                static_cast<uint16_t>(std::lround(std::clamp(share, 0.0, 1.0) * 65535));
        }
    }
    return p;
}

std::vector<std::vector<uint8_t>> allWeights(const Level& level) {
    std::vector<std::vector<uint8_t>> planes(level.layers.size(),
                                             std::vector<uint8_t>(static_cast<size_t>(level.coverBounds().area())));
    std::vector<View<uint8_t>> views;
    for (auto& p : planes) views.push_back({p.data(), level.coverColumns(), level.coverRows(), level.coverColumns()});
    readWeights(level, level.coverBounds(), views);
    return planes;
}

// Interleaves up to four planes, from `first` on; missing ones are 0.
Pixels weightPicture(const Level& level, const std::vector<std::vector<uint8_t>>& planes, size_t first, int channels) {
    Pixels p{level.coverColumns(), level.coverRows(), channels, 8, {}};
    const size_t n = planes.front().size(), step = static_cast<size_t>(channels);
    p.samples.assign(n * step, 0);
    for (size_t c = 0; c < step && first + c < planes.size(); ++c)
        for (size_t i = 0; i < n; ++i) p.samples[i * step + c] = planes[first + c][i];
    return p;
}

}  // namespace

std::string manifestText(const Level& level, const HandoverWish& wish, float black, float white) {
    Json j = {{"format", "jamhill-handover"}, {"version", 1}, {"level", level.name},
              {"axes", {{"x", "east"}, {"y", "up"}, {"z", "south"}, {"unit", "metre"},
                        {"firstSample", "north-west corner; rows run south, columns run east"}}},
              {"origin", {{"x", level.originX}, {"z", level.originZ}}},
              {"size", {{"width", level.width()}, {"depth", level.depth()}}}};
    if (wish.heightmap)
        j["heightmap"] = {{"file", "heightmap.png"}, {"columns", level.columns}, {"rows", level.rows},
                          {"spacing", level.spacing}, {"bits", 16}, {"black", black}, {"white", white}};
    Json layers = Json::array();
    for (size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& l = level.layers[i];
        Json entry = {{"name", l.name}, {"tileSize", l.tileSize}, {"blend", l.blend}, {"hidden", l.hidden}};
        if (wish.weightSets) entry["set"] = {{"file", setName(i / 4)}, {"channel", std::string(1, "RGBA"[i % 4])}};
        if (wish.weightPerLayer) entry["weight"] = layerFile(level, i);
        layers.push_back(std::move(entry));
    }
    j["weights"] = {{"columns", level.coverColumns()}, {"rows", level.coverRows()}, {"spacing", level.coverSpacing()},
                    {"bits", 8}, {"sum", 255}, {"layers", std::move(layers)}};
    return j.dump(2) + "\n";
}

Result<std::vector<std::string>> handOver(const Level& level, const fs::path& folder, const HandoverWish& wish,
                                          const Context& context) {
    if (!wish.heightmap && !wish.weightSets && !wish.weightPerLayer)
        return Error{folder.string(), "", "nothing is chosen to hand over", "choose the heightmap or the weights"};
    std::error_code trouble;
    fs::create_directories(folder, trouble);
    if (trouble) return diskError(folder, trouble.value());

    std::vector<AtomicFile> files;
    std::vector<std::string> names;
    const auto put = [&](const std::string& name, const Bytes& bytes) -> Status {
        files.emplace_back(folder / name);
        names.push_back(name);
        context.report(static_cast<double>(names.size()) / (3.0 + 1.25 * static_cast<double>(level.layers.size())));
        if (context.cancelled()) return kCancelled;
        return files.back().write(bytes);
    };
    Range range{level.lowest, level.highest};
    if (wish.heightmap) {
        range = heightRange(level, wish);
        if (Status s = put("heightmap.png", encodePng(heightPicture(level, range))); !s) return s.error();
    }
    if (wish.weightSets || wish.weightPerLayer) {
        const auto planes = allWeights(level);
        for (size_t i = 0; wish.weightSets && i < planes.size(); i += 4)
            if (Status s = put(setName(i / 4), encodePng(weightPicture(level, planes, i, 4))); !s) return s.error();
        for (size_t i = 0; wish.weightPerLayer && i < planes.size(); ++i)
            if (Status s = put(layerFile(level, i), encodePng(weightPicture(level, planes, i, 1))); !s) return s.error();
    }
    const std::string manifest = manifestText(level, wish, range.black, range.white);
    if (Status s = put("manifest.json", Bytes(manifest.begin(), manifest.end())); !s) return s.error();
    if (context.cancelled()) return kCancelled;
    for (AtomicFile& f : files) if (Status s = f.commit(); !s) return s.error();
    context.report(1);
    return names;
}

}  // namespace jam
