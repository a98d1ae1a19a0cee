#include "clip/fit_layers.h"

#include <algorithm>

#include "cover/mix.h"
#include "cover/weights.h"

namespace jam {

namespace {

int placeOf(const Level& level, const std::string& name) {
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (level.layers[i].name == name) return static_cast<int>(i);
    return -1;
}

// Layers that have any weight, as bits.
uint32_t shownIn(const Level& clip) {
    uint32_t bits = 0;
    std::vector<Raster<uint8_t>> rows(clip.layers.size(), Raster<uint8_t>(clip.coverColumns(), 1));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rows) planes.push_back(r.view());
    for (int z = 0; z < clip.coverRows(); ++z) {
        const Region row{0, z, clip.coverColumns(), z + 1};
        readWeights(clip, row, planes);
        for (size_t i = 0; i < planes.size(); ++i)
            if (!(bits >> i & 1) &&
                std::any_of(planes[i].data, planes[i].data + row.width(), [](uint8_t w) { return w > 0; }))
                bits |= 1u << i;
    }
    return bits;
}

}  // namespace

Status fitLayers(Level& level, Level& clip) {
    if (clip.layers.empty()) return {};
    const uint32_t shown = shownIn(clip);
    Level fitted = level;
    for (size_t i = 0; i < clip.layers.size(); ++i) {
        if (!(shown >> i & 1) || placeOf(fitted, clip.layers[i].name) >= 0) continue;
        if (fitted.layers.size() >= kMaxLayers)
            return Error{"", "layers",
                         "the level has " + std::to_string(kMaxLayers) + " layers and none of them is “" +
                             clip.layers[i].name + "”",
                         "delete one, rename one so, or leave the cover out"};
        Layer added = clip.layers[i];
        added.hidden = false;
        addLayer(fitted, std::move(added));
    }
    // Where the layers of the clip that matter stand in the level, from the bottom.
    bool ordered = true;
    int last = -1;
    for (size_t i = 0; i < clip.layers.size(); ++i) {
        const int at = placeOf(fitted, clip.layers[i].name);
        if (at < 0) continue;
        ordered &= at > last;
        last = at;
    }
    const auto lowest = static_cast<size_t>(
        std::find_if(clip.layers.begin(), clip.layers.end(), [](const Layer& l) { return !l.hidden; }) -
        clip.layers.begin());
    std::vector<Layer> layers;
    for (const Layer& own : fitted.layers) {
        Layer l = own;
        l.alive = false;
        l.base = l.held = {};
        l.coverage = TiledGrid<uint16_t>(clip.coverColumns(), clip.coverRows(), 0);
        const int at = placeOf(clip, own.name);
        if (at >= 0 && static_cast<size_t>(at) == lowest && &own != &fitted.layers.front())
            // What covered everything by being the lowest has to say so where it is not.
            l.coverage = TiledGrid<uint16_t>(clip.coverColumns(), clip.coverRows(), kFullCover);
        else if (at >= 0) l.coverage = clip.layers[static_cast<size_t>(at)].coverage;
        layers.push_back(std::move(l));
    }
    if (ordered) {
        clip.layers = std::move(layers);
    } else {
        const Level before = clip;
        for (Layer& l : layers) l.coverage = TiledGrid<uint16_t>(clip.coverColumns(), clip.coverRows(), 0);
        clip.layers = std::move(layers);
        std::vector<Raster<uint8_t>> rows(before.layers.size(), Raster<uint8_t>(clip.coverColumns(), 1));
        std::vector<View<uint8_t>> from;
        for (auto& r : rows) from.push_back(r.view());
        const Raster<uint8_t> none(clip.coverColumns(), 1);
        std::vector<View<const uint8_t>> to;
        for (const Layer& l : clip.layers) {
            const int at = placeOf(before, l.name);
            to.push_back(at >= 0 ? View<const uint8_t>(from[static_cast<size_t>(at)]) : none.view());
        }
        for (int z = 0; z < clip.coverRows(); ++z) {
            const Region row{0, z, clip.coverColumns(), z + 1};
            readWeights(before, row, from);
            writeWeights(clip, row, to);
        }
    }
    level = std::move(fitted);
    return {};
}

}  // namespace jam
