// How much of each layer shows, in sets of four or one by one.
#include <algorithm>

#include "base/parallel.h"
#include "cover/weights.h"
#include "handover/handover.h"
#include "handover/names.h"
#include "handover/picture_rows.h"

namespace jam {

namespace {

const char* const kBits[] = {"8", "16"};
const char* const kOrders[] = {"RGBA", "BGRA", "ARGB", "ABGR", "GRBA", "RBGA", "RGAB", "RBAG",
                               "RABG", "RAGB", "GBRA", "GBAR", "GRAB", "GARB", "GABR", "BRGA",
                               "BRAG", "BGAR", "BARG", "BAGR", "AGRB", "AGBR", "ARBG", "ABRG"};
const WriterOption kOptions[] = {
    {"weight-sets", "Four layers a picture", "Sets in RGBA; their sum is exact"},
    {"single-weights", "One picture a layer", "Grey, under the layers' names"},
    {"weight-bits", "Bits", "Of every weight; sums are exact in both", kBits, 0},
    {"channels", "Channels", "In which channel of a set the first, second, third and fourth layer goes", kOrders, 0}};

std::string setName(size_t set) { return "weights-" + std::to_string(set + 1) + ".png"; }
std::string layerFile(const Level& level, size_t i) { return "weight-" + numberedName(level, i) + ".png"; }

size_t channelAt(const std::string& order, size_t layer) { return std::string("RGBA").find(order[layer % 4]); }

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
Status writeAll(const Level& level, const std::string& order, std::deque<WeightPicture>& pictures,
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
                for (int z = 0; z < z1 - z0; ++z) weightRow(pictures[static_cast<size_t>(i)], planes, z, order);
        });
        for (const WeightPicture& p : pictures)
            if (!p.out.trouble()) return p.out.trouble();
        context.report(static_cast<double>(z1) / rows);
        if (context.cancelled()) return cancelledError();
    }
    for (WeightPicture& p : pictures)
        if (Status s = p.out.finish(); !s) return s;
    return {};
}

bool always(const Level&) { return true; }

std::string facts(const Level& level, const HandoverWish& wish) {
    const size_t n = level.layers.size(), sets = (n + 3) / 4;
    std::string text;
    if (wish.is("weight-sets"))
        text = setName(0) + (sets > 1 ? " to " + setName(sets - 1) : "") + ": " +
               sized(level.coverColumns(), level.coverRows()) + ", RGBA";
    if (wish.is("single-weights"))
        text += (text.empty() ? "" : "\n") + std::string("weight-01-… to weight-") + (n < 10 ? "0" : "") +
                std::to_string(n) + "-…: one grey picture for each of " + std::to_string(n) + " layers";
    return text;
}

Status write(const Level& level, const HandoverWish& wish, HandoverFiles& files, const Context& context) {
    const int bits = wish.of("weight-bits") == 1 ? 16 : 8;
    const std::string order = wish.word(kOptions[3]);
    const size_t n = level.layers.size();
    std::deque<WeightPicture> pictures;
    const PngShape cover{level.coverColumns(), level.coverRows(), 1, bits};
    const PngShape coverSet{cover.width, cover.height, 4, cover.bits};
    Json& said = files.manifest["weights"];
    said["bits"] = bits, said["sum"] = bits == 8 ? 255 : 65535;
    const auto begin = [&](const std::string& name, const PngShape& shape, size_t first, size_t layers) -> Status {
        Result<PictureOut> out = beginPicture(files, name, shape);
        if (!out) return out.error();
        pictures.push_back({out.take(), first, layers, shape.channels == 4});
        return {};
    };
    for (size_t i = 0; wish.is("weight-sets") && i < n; i += 4)
        if (Status s = begin(setName(i / 4), coverSet, i, std::min<size_t>(4, n - i)); !s) return s;
    for (size_t i = 0; wish.is("single-weights") && i < n; ++i)
        if (Status s = begin(layerFile(level, i), cover, i, 1); !s) return s;
    for (size_t i = 0; i < n; ++i) {
        Json& entry = said["layers"][i];
        if (wish.is("weight-sets"))
            entry["set"] = {{"file", setName(i / 4)}, {"channel", std::string(1, order[i % 4])}};
        if (wish.is("single-weights")) entry["weight"] = layerFile(level, i);
    }
    if (pictures.empty()) return {};
    return bits == 16 ? writeAll<uint16_t>(level, order, pictures, context)
                      : writeAll<uint8_t>(level, order, pictures, context);
}

}  // namespace

extern const Writer weightsWriter;
const Writer weightsWriter = {"weights", "Weights", "How much of each layer shows where", true, kOptions, always, facts,
                              5,         write};

}  // namespace jam
