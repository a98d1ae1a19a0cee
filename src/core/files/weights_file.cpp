#include "files/weights_file.h"

#include <algorithm>
#include <map>

#include "cover/mix.h"
#include "cover/rules.h"
#include "files/png.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

Result<Pixels> readPicture(const fs::path& file) {
    Result<Bytes> bytes = readFile(file, 1024u << 20);
    if (!bytes) return bytes.error();
    return decodePng(bytes.value(), file.string(), kMaxSamples);
}

// Brings parts to a sum of 255; what rounding leaves goes to those that lost most.
void apportion(const std::vector<uint32_t>& parts, uint64_t sum, uint8_t* out, size_t stride) {
    uint64_t given = 0;
    std::array<std::pair<uint64_t, size_t>, kMaxLayers> lost;
    for (size_t i = 0; i < parts.size(); ++i) {
        const uint64_t share = uint64_t{255} * parts[i];
        out[i * stride] = static_cast<uint8_t>(share / sum);
        given += share / sum;
        lost[i] = {share % sum, parts.size() - i};
    }
    std::sort(lost.begin(), lost.begin() + static_cast<ptrdiff_t>(parts.size()), std::greater<>());
    for (size_t k = 0; given < 255; ++k, ++given) ++out[(parts.size() - lost[k].second) * stride];
}

}  // namespace

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

Status checkChannelOrder(const std::string& order) {
    std::string letters = order;
    std::sort(letters.begin(), letters.end());
    if (letters == "ABGR") return {};
    return Error{"", "channels", "\"" + order + "\" is not an order of R, G, B and A",
                 "write each letter once, such as RGBA or BGRA"};
}

Result<std::vector<WeightChannel>> guessWeightChannels(const Level& level, const std::vector<fs::path>& files,
                                                       const std::string& order) {
    if (Status s = checkChannelOrder(order); !s) return s.error();
    std::vector<bool> taken(level.layers.size());
    std::vector<WeightChannel> channels;
    std::vector<std::pair<fs::path, int>> left;
    for (const fs::path& file : files) {
        Result<Pixels> p = readPicture(file);
        if (!p) return p.error();
        const std::string name = plainName(file.stem().string());
        size_t best = level.layers.size();
        for (size_t i = 0; i < level.layers.size(); ++i)
            if (!taken[i] && name.ends_with(plainName(level.layers[i].name)) &&
                (best == level.layers.size() || level.layers[i].name.size() > level.layers[best].name.size()))
                best = i;
        if (p.value().channels <= 2 && best < level.layers.size()) {
            taken[best] = true;
            channels.push_back({file, 0, level.layers[best].id});
        } else {
            left.emplace_back(file, p.value().channels <= 2 ? 1 : p.value().channels);
        }
    }
    size_t next = 0;
    for (const auto& [file, n] : left)
        for (const char letter : order) {
            const int c = static_cast<int>(std::string("RGBA").find(letter));
            if (c >= n) continue;
            while (next < taken.size() && taken[next]) ++next;
            if (next == taken.size()) return channels;
            taken[next] = true;
            channels.push_back({file, c, level.layers[next].id});
        }
    return channels;
}

Result<Level> importWeights(const Level& level, const std::vector<WeightChannel>& channels, const Context& context) {
    if (channels.empty())
        return Error{"", "weights", "no channel is given to a layer", "choose a layer for at least one channel"};
    std::map<fs::path, Pixels> pictures;
    std::vector<size_t> layerOf;
    for (const WeightChannel& c : channels) {
        const int layer = level.layerIndex(c.layer);
        if (layer < 0)
            return Error{c.file.string(), "layer", "the level has no layer " + std::to_string(c.layer),
                         "choose a layer of this level"};
        if (std::find(layerOf.begin(), layerOf.end(), static_cast<size_t>(layer)) != layerOf.end())
            return Error{c.file.string(), "layer",
                         "“" + level.layers[static_cast<size_t>(layer)].name + "” is given two channels",
                         "give each layer one"};
        layerOf.push_back(static_cast<size_t>(layer));
        if (!pictures.contains(c.file)) {
            if (context.cancelled()) return cancelledError();
            Result<Pixels> p = readPicture(c.file);
            if (!p) return p.error();
            if (p.value().width != level.coverColumns() || p.value().height != level.coverRows())
                return Error{c.file.string(), "size",
                             "it is " + std::to_string(p.value().width) + " x " + std::to_string(p.value().height) +
                                 ", and cover is " + std::to_string(level.coverColumns()) + " x " +
                                 std::to_string(level.coverRows()),
                             "export it in that size, or change the level's cover resolution"};
            pictures.emplace(c.file, p.take());
        }
        if (c.channel >= pictures.at(c.file).channels)
            return Error{c.file.string(), "channel",
                         "it has " + std::to_string(pictures.at(c.file).channels) + " channels",
                         "choose another channel"};
    }
    Level out = level;
    for (Layer& l : out.layers) restRules(out, l.id);
    const size_t n = level.layers.size(), columns = static_cast<size_t>(level.coverColumns());
    std::vector<const Pixels*> sources;
    for (const WeightChannel& c : channels) sources.push_back(&pictures.at(c.file));
    std::vector<uint8_t> row(n * columns);
    std::vector<uint32_t> parts(channels.size());
    std::vector<uint8_t> shares(channels.size());
    for (int z = 0; z < level.coverRows(); ++z) {
        if (context.cancelled()) return cancelledError();
        std::fill(row.begin(), row.end(), uint8_t{0});
        for (int x = 0; x < level.coverColumns(); ++x) {
            uint64_t sum = 0;
            for (size_t i = 0; i < channels.size(); ++i) {
                // Both depths on one scale, on which 8 bits lose nothing.
                parts[i] = sources[i]->at(x, z, channels[i].channel) * (sources[i]->bits == 8 ? 257u : 1u);
                sum += parts[i];
            }
            if (sum == 0) sum = parts[0] = 65535;
            apportion(parts, sum, shares.data(), 1);
            for (size_t i = 0; i < channels.size(); ++i) row[layerOf[i] * columns + static_cast<size_t>(x)] = shares[i];
        }
        std::vector<View<const uint8_t>> planes;
        for (size_t i = 0; i < n; ++i)
            planes.push_back({row.data() + i * columns, static_cast<int>(columns), 1, static_cast<int>(columns)});
        writeWeights(out, {0, z, level.coverColumns(), z + 1}, planes);
        context.report(static_cast<double>(z) / level.coverRows());
    }
    return out;
}

}  // namespace jam
