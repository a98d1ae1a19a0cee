#include "level/level.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <tuple>

#include "base/names.h"
#include "base/text.h"
#include "level/rasters.h"
#include "level/things.h"

namespace jam {

namespace {

Status inRange(const char* field, double value, double lowest, double highest, const char* unit) {
    if (std::isfinite(value) && value >= lowest && value <= highest) return {};
    return Error{"", field, number(value) + " is outside " + number(lowest) + " to " + number(highest) + unit,
                 "choose a value in that range"};
}

}  // namespace

bool Layer::operator==(const Layer& o) const {
    return Ruled::operator==(o) && id == o.id && name == o.name && tileSize == o.tileSize && blend == o.blend &&
           hidden == o.hidden && sides == o.sides && look == o.look && samePictures(*this, o);
}

bool samePictures(const Layer& a, const Layer& b) {
    for (const LayerSlot& s : kLayerSlots) {
        const Picture &p = a.*s.picture, &q = b.*s.picture;
        if (p != q && !(p && q && *p == *q)) return false;
    }
    return true;
}

const Stratum* Level::stratum(uint32_t id) const {
    const int i = stratumIndex(id);
    return i < 0 ? nullptr : &strata[static_cast<size_t>(i)];
}

int Level::stratumIndex(uint32_t id) const {
    for (size_t i = 0; i < strata.size(); ++i)
        if (strata[i].id == id) return static_cast<int>(i);
    return -1;
}

const Layer* Level::layer(uint32_t id) const {
    const int i = layerIndex(id);
    return i < 0 ? nullptr : &layers[static_cast<size_t>(i)];
}

int Level::layerIndex(uint32_t id) const {
    for (size_t i = 0; i < layers.size(); ++i)
        if (layers[i].id == id) return static_cast<int>(i);
    return -1;
}

const Pool* Level::pool(uint32_t id) const {
    for (const Pool& p : pools)
        if (p.id == id) return &p;
    return nullptr;
}

const Stream* Level::stream(uint32_t id) const {
    for (const Stream& s : streams)
        if (s.id == id) return &s;
    return nullptr;
}

const Spot* Level::spot(uint32_t id) const {
    for (const Spot& s : spots)
        if (s.id == id) return &s;
    return nullptr;
}

const Kind* Level::kind(uint32_t id) const {
    const int i = kindIndex(id);
    return i < 0 ? nullptr : &kinds[static_cast<size_t>(i)];
}

int Level::kindIndex(uint32_t id) const {
    for (size_t i = 0; i < kinds.size(); ++i)
        if (kinds[i].id == id) return static_cast<int>(i);
    return -1;
}

const Single* Level::single(uint32_t id) const {
    const auto at = std::lower_bound(singles.begin(), singles.end(), id,
                                     [](const Single& s, uint32_t wanted) { return s.id < wanted; });
    return at != singles.end() && at->id == id ? &*at : nullptr;
}

const Ruled* Level::ruled(uint32_t id) const {
    if (const Layer* l = layer(id)) return l;
    return kind(id);
}

const WaterLook* Level::waterLook(uint32_t id) const {
    if (const Pool* p = pool(id)) return &p->look;
    const Stream* s = stream(id);
    return s ? &s->look : nullptr;
}

Result<Level> makeLevel(const NewLevel& wish) {
    const Status ranges[] = {
        inRange("columns", wish.columns, kMinSamples, kMaxSamples, " samples"),
        inRange("rows", wish.rows, kMinSamples, kMaxSamples, " samples"),
        inRange("spacing", wish.spacing, kFinest, kCoarsest, " m"),
        inRange("lowest", wish.lowest, -kFarHeight, kFarHeight, " m"),
        inRange("highest", wish.highest, -kFarHeight, kFarHeight, " m"),
        inRange("start height", wish.startHeight, wish.lowest, wish.highest, " m"),
    };
    for (const Status& s : ranges)
        if (!s) return s.error();
    if (const Status s = checkName(wish.name); !s) return s.error();
    if (wish.highest - wish.lowest < kLeastHeightRange)
        return Error{"", "highest", "the height range is less than 1 m", "raise the highest or lower the lowest"};
    if (wish.coverFactor != 1 && wish.coverFactor != 2 && wish.coverFactor != 4)
        return Error{"", "cover factor", "it is " + std::to_string(wish.coverFactor), "choose 1, 2 or 4"};
    Level level;
    level.name = wish.name;
    level.columns = wish.columns;
    level.rows = wish.rows;
    level.spacing = wish.spacing;
    level.originX = -level.width() / 2;
    level.originZ = -level.depth() / 2;
    level.lowest = wish.lowest;
    level.highest = wish.highest;
    level.startHeight = wish.startHeight;
    level.coverFactor = wish.coverFactor;
    if (std::max(level.coverColumns(), level.coverRows()) > kMaxSamples)
        return Error{"", "cover factor", "cover would be larger than " + std::to_string(kMaxSamples) + " samples",
                     "choose a smaller factor or a coarser spacing"};
    level.wash = TiledGrid<Wash>(level.columns, level.rows, {});
    level.opening = level.noLand = level.hatches = Gaps(level.columns, level.rows, 0);
    level.fence = Fence(level.columns, level.rows, 0);
    level.water = TiledGrid<Wet>(level.columns, level.rows, {});
    level.activeStratum = level.nextId++;
    level.strata.push_back(
        {level.activeStratum, "Ground", 1, true, TiledGrid<float>(level.columns, level.rows, 0.f), {}, {}, {}, {}});
    return level;
}

Status checkNames(const Level& level) {
    std::optional<Error> wrong;
    const auto look = [&](const std::string& name) {
        if (const Status s = checkName(name); !s && !wrong) wrong = s.error();
    };
    look(level.name);
    look(level.body);
    const auto lookAtAll = [&](const auto& list) {
        for (const auto& one : list) look(one.name);
    };
    lookAtAll(level.strata), lookAtAll(level.layers), lookAtAll(level.fences), lookAtAll(level.pools);
    lookAtAll(level.streams), lookAtAll(level.spots), lookAtAll(level.bodies), lookAtAll(level.kinds);
    if (wrong) return *wrong;
    return {};
}

size_t memoryEstimate(const NewLevel& wish, int layers) {
    const size_t ground = static_cast<size_t>(wish.columns) * static_cast<size_t>(wish.rows);
    const size_t cover = ground * static_cast<size_t>(wish.coverFactor) * static_cast<size_t>(wish.coverFactor);
    return ground * sizeof(float) + cover * sizeof(uint16_t) * static_cast<size_t>(layers > 1 ? layers - 1 : 0);
}

uint32_t addLayer(Level& level, Layer layer) {
    assert(level.layers.size() < kMaxLayers);
    layer.id = level.nextId++;
    const uint16_t cover = level.layers.empty() ? kFullCover : 0;
    layer.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), cover);
    level.layers.push_back(std::move(layer));
    return level.layers.back().id;
}

Status moveLayer(Level& level, uint32_t id, int to) {
    const int from = level.layerIndex(id);
    if (from < 0) return goneError(ThingKind::layer);
    auto& layers = level.layers;
    to = std::clamp(to, 0, static_cast<int>(layers.size()) - 1);
    if (from == to) return {};
    Layer moved = std::move(layers[static_cast<size_t>(from)]);
    layers.erase(layers.begin() + from);
    layers.insert(layers.begin() + to, std::move(moved));
    return {};
}

Status removeLayer(Level& level, uint32_t id) {
    const int index = level.layerIndex(id);
    if (index < 0) return goneError(ThingKind::layer);
    if (level.layers.size() == 1)
        return Error{"", "", "“" + level.layers.front().name + "” is the only layer", "add another one first"};
    level.layers.erase(level.layers.begin() + index);
    std::erase_if(level.pairs, [id](const BlendPair& p) { return p.one == id || p.other == id; });
    return {};
}

Result<uint32_t> duplicateLayer(Level& level, uint32_t id) {
    const int index = level.layerIndex(id);
    if (index < 0) return goneError(ThingKind::layer);
    if (level.layers.size() >= kMaxLayers)
        return Error{"", "layers", "a level has at most " + std::to_string(kMaxLayers), "delete or merge one first"};
    Layer copy = level.layers[static_cast<size_t>(index)];
    copy.id = level.nextId++;
    copy.locked = false;
    copy.alive = false;
    copy.base = copy.held = {};
    copy.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    level.layers.insert(level.layers.begin() + index + 1, std::move(copy));
    return level.layers[static_cast<size_t>(index) + 1].id;
}

float blendBetween(const Level& level, const Layer& one, const Layer& other) {
    const auto [low, high] = std::minmax(one.id, other.id);
    for (const BlendPair& p : level.pairs)
        if (p.one == low && p.other == high) return p.blend;
    return one.blend;
}

void setBlendBetween(Level& level, uint32_t one, uint32_t other, std::optional<float> blend) {
    assert(one != other);
    const BlendPair pair{std::min(one, other), std::max(one, other), blend.value_or(0)};
    std::erase_if(level.pairs, [&](const BlendPair& p) { return p.one == pair.one && p.other == pair.other; });
    if (!blend) return;
    const auto at = std::find_if(level.pairs.begin(), level.pairs.end(), [&](const BlendPair& p) {
        return std::tie(p.one, p.other) > std::tie(pair.one, pair.other);
    });
    level.pairs.insert(at, pair);
}

size_t bytesBeside(const Level& level, const Level& beside) {
    size_t n = 0;
    eachRasterOfBoth(level, beside, [&](const auto&, const auto& grid, const auto* other) {
        n += other ? grid.bytesBeside(*other) : grid.bytes();
    });
    // Pictures are shared between levels, and between layers.
    std::set<const PictureFile*> known;
    for (const Layer& l : beside.layers)
        for (const LayerSlot& s : kLayerSlots) known.insert((l.*s.picture).get());
    for (const Layer& l : level.layers)
        for (const LayerSlot& s : kLayerSlots)
            if (const Picture& p = l.*s.picture; p && known.insert(p.get()).second) n += p->bytes.size();
    return n;
}

}  // namespace jam
