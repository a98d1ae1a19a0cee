#include "cover/rules.h"

#include <algorithm>
#include <cmath>

#include "brush/rows.h"
#include "level/cover_ground.h"
#include "level/hold_outside.h"

namespace jam {

namespace {

constexpr int kBandRows = 128;

// What rules lay: where a layer covers, or how densely a kind stands.
struct Laid {
    Ruled* ruled = nullptr;
    uint32_t own = 0;  // whose rules look at the layers below it alone (readRules)
    float most = 1;    // share of kFullCover where they hold altogether

    explicit operator bool() const { return ruled != nullptr; }
};

// What there is to lay by this id; nothing when it is protected, gone or the first layer.
Laid laidBy(Level& level, uint32_t id) {
    if (const int index = level.layerIndex(id); index >= 0) {
        Layer& l = level.layers[static_cast<size_t>(index)];
        return index > 0 && !l.locked ? Laid{&l, id, 1} : Laid{};
    }
    Kind* k = level.kind(id);
    return k && !k->locked ? Laid{k, 0, static_cast<float>(static_cast<double>(k->density) / kMostDensity)} : Laid{};
}

template <class F>
bool eachBand(const Region& region, const Context& context, F f) {
    for (int z = region.z0; z < region.z1; z += kBandRows) {
        if (context.cancelled()) return false;
        f(Region{region.x0, z, region.x1, std::min(z + kBandRows, region.z1)});
        context.report(static_cast<double>(z - region.z0) / region.depth());
    }
    return true;
}

// What the rules give at the cover samples of a region.
void readLaid(const Level& level, const Laid& laid, const Region& region, View<float> out) {
    readRules(level, laid.own, laid.ruled->rules, region, out);
    if (laid.most == 1) return;
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) out.at(x, z) *= laid.most;
}

uint16_t stored(float share) { return static_cast<uint16_t>(std::lround(std::clamp(share, 0.f, 1.f) * 65535)); }

// How much a cover sample lies outside of the fence.
uint16_t outsideFence(const Level& level, int x, int z) {
    const int f = level.coverFactor;
    return stored(1 - fenceShare(level, groundUnder(x, f, level.columns), groundUnder(z, f, level.rows)));
}

// All outside of the fence is the hand's from now on.
void leaveOutside(const Level& level, Ruled& layer) {
    if (!level.fenced) return;
    eachBand(level.coverBounds(), {}, [&](const Region& band) {
        Raster<uint16_t> held(band.width(), band.depth());
        layer.held.read(band, held.view());
        for (int z = 0; z < band.depth(); ++z)
            for (int x = 0; x < band.width(); ++x)
                held.at(x, z) = std::max(held.at(x, z), outsideFence(level, band.x0 + x, band.z0 + z));
        layer.held.write(band, held.view());
    });
}

// Who runs rules again: what they look at (a follower, which knows no fence), or somebody who works inside the fence.
enum class Caller { follower, hand };

// Moves the base to what the rules give now, and the coverage with it as far as the hand does not hold it. What a hand
// would change outside of the fence is held from now on.
bool runAgain(const Level& level, const Laid& laid, const Region& region, Caller caller, const Context& context) {
    Ruled& layer = *laid.ruled;
    return eachBand(region, context, [&](const Region& band) {
        Raster<float> given(band.width(), band.depth());
        readLaid(level, laid, band, given.view());
        Raster<uint16_t> base(band.width(), band.depth()), held = base, cover = base;
        layer.base.read(band, base.view());
        layer.held.read(band, held.view());
        layer.coverage.read(band, cover.view());
        for (int z = 0; z < band.depth(); ++z)
            for (int x = 0; x < band.width(); ++x) {
                const uint16_t next = stored(given.at(x, z));
                if (caller == Caller::hand && next != base.at(x, z))
                    held.at(x, z) = std::max(held.at(x, z), outsideFence(level, band.x0 + x, band.z0 + z));
                const float free = 1 - held.at(x, z) / 65535.0f;
                const float moved = static_cast<float>(cover.at(x, z)) +
                                    (static_cast<float>(next) - static_cast<float>(base.at(x, z))) * free;
                cover.at(x, z) = held.at(x, z) == 0
                                     ? next
                                     : static_cast<uint16_t>(std::clamp(std::round(moved), 0.f, 65535.f));
                base.at(x, z) = next;
            }
        layer.base.write(band, base.view());
        layer.held.write(band, held.view());
        layer.coverage.write(band, cover.view());
    });
}

// Moves what the hand holds below a dab towards a goal.
void changeHeld(Ruled& layer, const Dab& dab, float share, void (*kernel)(uint16_t*, const uint16_t*, int, uint16_t),
                uint16_t goal) {
    Raster<uint16_t> held(dab.region.width(), dab.region.depth());
    layer.held.read(dab.region, held.view());
    const DabRows rows(dab);
    std::vector<float> mask(static_cast<size_t>(dab.region.width()));
    std::vector<uint16_t> bits(mask.size());
    for (int z = dab.region.z0; z < dab.region.z1; ++z) {
        const Region span = dabSpan(dab, dab.region, z);
        if (span.empty()) continue;
        rows.mask(span.x0, z, span.width(), share, mask.data());
        rowKernels().bits(bits.data(), mask.data(), span.width());
        // The finest touch moves coverage, and so it counts here too.
        for (int i = 0; i < span.width(); ++i)
            if (const auto at = static_cast<size_t>(i); bits[at] == 0 && mask[at] > 0) bits[at] = 1;
        kernel(&held.at(span.x0 - dab.region.x0, z - dab.region.z0), bits.data(), span.width(), goal);
    }
    layer.held.write(dab.region, held.view());
}

bool looksAtCover(const Rule& r) { return r.kind == RuleKind::layer; }
// Whether what it looks at, by name, is other than before, whatever its samples are: a layer whose rules rest, a course
// that owns nothing.
bool looksAtNamed(const Rule& r, const Change& change) {
    const std::vector<uint32_t>* ids = r.kind == RuleKind::layer    ? &change.layers
                                       : r.kind == RuleKind::course ? &change.strata
                                                                    : nullptr;
    return ids && std::find(ids->begin(), ids->end(), r.layer) != ids->end();
}
bool isBehind(uint32_t id, const Change& change) {
    return std::find(change.behind.begin(), change.behind.end(), id) != change.behind.end();
}
bool looksAtWater(const Rule& r) {
    return r.kind == RuleKind::depth || r.kind == RuleKind::shore || r.kind == RuleKind::above;
}

}  // namespace

bool bakeRules(Level& level, uint32_t layer, const Context& context) {
    if (!laidBy(level, layer)) return true;
    Level origin = level;
    const Laid from = laidBy(origin, layer);
    Ruled& l = *level.ruled(layer);
    const bool done = eachBand(level.coverBounds(), context, [&](const Region& band) {
        Raster<float> given(band.width(), band.depth());
        Raster<uint16_t> cover(band.width(), band.depth());
        readLaid(origin, from, band, given.view());
        for (int z = 0; z < band.depth(); ++z)
            std::transform(given.view().row(z), given.view().row(z) + band.width(), cover.view().row(z), stored);
        l.coverage.write(band, cover.view());
    });
    if (!done) level = origin;
    else holdOutside(origin, level);
    return done;
}

Region ruleCover(Level& level, const Level& origin, const Dab& dab, float share, uint32_t layer) {
    const Laid laid = laidBy(level, layer);
    if (dab.region.empty() || !laid) return {};
    Ruled& l = *laid.ruled;
    Raster<float> given(dab.region.width(), dab.region.depth());
    Raster<uint16_t> cover(dab.region.width(), dab.region.depth());
    readLaid(origin, laid, dab.region, given.view());
    l.coverage.read(dab.region, cover.view());
    eachDabSample(dab, share, [&](int x, int z, float mask) {
        uint16_t& c = cover.at(x - dab.region.x0, z - dab.region.z0);
        const float way = given.at(x - dab.region.x0, z - dab.region.z0) * 65535 - c, step = way * mask;
        // At least one step, so that the finest share still gets there.
        if (step != 0 && std::abs(way) >= 0.5f)
            c = static_cast<uint16_t>(c + std::lround(std::copysign(std::max(std::abs(step), 0.5f), step)));
    });
    if (l.alive) {
        changeHeld(l, dab, share, rowKernels().thin, 0);
        // Where the hand holds nothing any more, the layer lies as its rules say, to the last step.
        Raster<uint16_t> held(dab.region.width(), dab.region.depth()), base(dab.region.width(), dab.region.depth());
        l.held.read(dab.region, held.view());
        l.base.read(dab.region, base.view());
        for (int z = 0; z < dab.region.depth(); ++z)
            for (int x = 0; x < dab.region.width(); ++x)
                if (held.at(x, z) == 0) cover.at(x, z) = base.at(x, z);
    }
    l.coverage.write(dab.region, cover.view());
    return dab.region;
}

void wakeRules(Level& level, uint32_t layer, bool keepPaint) {
    const Laid laid = laidBy(level, layer);
    if (!laid || laid.ruled->alive) return;
    Ruled& l = *laid.ruled;
    l.alive = true;
    l.base = l.held = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    if (!keepPaint) {
        // Outside of the fence it goes on from what lies there. Not the same grid: that may have another default.
        eachBand(level.coverBounds(), {}, [&](const Region& band) {
            Raster<uint16_t> cover(band.width(), band.depth());
            l.coverage.read(band, cover.view());
            l.base.write(band, cover.view());
        });
        leaveOutside(level, l);
        runAgain(level, laid, level.coverBounds(), Caller::hand, {});
        return;
    }
    // What differs from the rules was painted: wholly where much, less where little.
    const auto painted = [](int by) { return static_cast<uint16_t>(std::min(8 * std::abs(by), 65535)); };
    if (l.rules.empty()) {
        Raster<uint16_t> part;
        for (int tz = 0; tz < l.coverage.tilesDown(); ++tz)
            for (int tx = 0; tx < l.coverage.tilesAcross(); ++tx) {
                if (!l.coverage.tile(tx, tz) && l.coverage.defaultValue() == 0) continue;
                const Region tile = l.coverage.tileRegion(tx, tz);
                part.reshape(tile.width(), tile.depth());
                l.coverage.read(tile, part.view());
                std::transform(part.view().data, part.view().data + tile.area(), part.view().data, painted);
                l.held.write(tile, part.view());
            }
        return;
    }
    eachBand(level.coverBounds(), {}, [&](const Region& band) {
        Raster<float> given(band.width(), band.depth());
        Raster<uint16_t> base(band.width(), band.depth()), held = base, cover = base;
        readLaid(level, laid, band, given.view());
        l.coverage.read(band, cover.view());
        for (int z = 0; z < band.depth(); ++z)
            for (int x = 0; x < band.width(); ++x) {
                base.at(x, z) = stored(given.at(x, z));
                held.at(x, z) = painted(cover.at(x, z) - base.at(x, z));
            }
        l.base.write(band, base.view());
        l.held.write(band, held.view());
    });
    leaveOutside(level, l);
}

void restRules(Level& level, uint32_t layer) {
    Ruled* l = level.ruled(layer);
    if (!l) return;
    l->alive = false;
    l->base = l->held = {};
}

TileSet refreshLaid(Level& level, uint32_t layer, const Context& context) {
    const Laid laid = laidBy(level, layer);
    if (!laid || !laid.ruled->alive) return {};
    runAgain(level, laid, level.coverBounds(), Caller::follower, context);
    return level.coverBounds();
}

TileSet changeRules(Level& level, uint32_t layer, std::vector<Rule> rules, const Context& context) {
    Ruled* l = level.ruled(layer);
    if (!l) return {};
    TileSet where = rulesDiffer(level, l->rules, rules);
    // The course of a rule that goes may have moved in the same step: what it gave lies where it was.
    for (const Rule& r : l->rules)
        if (r.kind == RuleKind::course && std::find(rules.begin(), rules.end(), r) == rules.end())
            where.add(presentTiles(l->base));
    l->rules = std::move(rules);
    const Laid laid = laidBy(level, layer);
    if (!laid || !l->alive) return {};
    for (const Region& spot : where.spots()) runAgain(level, laid, spot, Caller::hand, context);
    return where;
}

TileSet changeDensity(Level& level, uint32_t kind, float density, const Context& context) {
    Kind* k = level.kind(kind);
    if (!k || k->density == density) return {};
    k->density = density;
    const Laid laid = laidBy(level, kind);
    if (!laid || !k->alive) return {};
    TileSet where = presentTiles(k->base);
    for (const Rule& r : k->rules) where.add(whereItCounts(level, r));
    for (const Region& spot : where.spots()) runAgain(level, laid, spot, Caller::hand, context);
    return where;
}

namespace {

// About how many samples following a change would look at, for one that rules lay.
long long workFor(const Level& level, const Ruled& l, uint32_t id, const Change& change) {
    if (!l.alive || l.locked) return 0;
    const long long finer = static_cast<long long>(level.coverFactor) * level.coverFactor,
                    all = level.coverBounds().area();
    const bool named = std::any_of(l.rules.begin(), l.rules.end(),
                                   [&](const Rule& r) { return looksAtNamed(r, change); });
    long long work = change.raster || isBehind(id, change)
                         ? all
                         : (change.ground.area() + change.water.area()) * finer + change.cover.area();
    if (named) work += 1 + static_cast<long long>(l.base.presentTiles()) * TileSet::kTile * TileSet::kTile;
    return work;
}

// Where what rules lay may be other than before; `made` is cover that changed on the way.
TileSet whereAgain(const Level& level, const Ruled& l, uint32_t id, const Change& change, const TileSet& made) {
    if (!l.alive || l.locked) return {};
    if (change.raster || isBehind(id, change)) return level.coverBounds();
    TileSet again;
    for (const Rule& r : l.rules) {
        // Where it counted before, and where it does now.
        if (looksAtNamed(r, change)) again.add(presentTiles(l.base)), again.add(whereItCounts(level, r));
        if (r.kind == RuleKind::noise) continue;
        TileSet seen = overGround(level, change.ground);
        if (looksAtWater(r)) seen.add(overGround(level, change.water));
        if (looksAtCover(r)) seen.add(change.cover), seen.add(made);
        const int far = static_cast<int>(std::ceil((ruleReach(r) + 3 * level.spacing) / level.coverSpacing()));
        again.add(seen.grown(far, level.coverBounds()));
    }
    return again;
}

}  // namespace

long long rulesWork(const Level& level, const Change& change) {
    long long work = 0;
    for (const Layer& l : level.layers) work += workFor(level, l, l.id, change);
    return work;
}

TileSet refreshRules(Level& level, const Change& change, const Context& context) {
    TileSet made;
    for (size_t i = 1; i < level.layers.size() && !context.cancelled(); ++i) {
        const uint32_t id = level.layers[i].id;
        const TileSet again = whereAgain(level, level.layers[i], id, change, made);
        for (const Region& spot : again.spots()) runAgain(level, laidBy(level, id), spot, Caller::follower, context);
        made.add(again);
    }
    return made;
}

long long densitiesWork(const Level& level, const Change& change) {
    long long work = 0;
    for (const Kind& k : level.kinds) work += workFor(level, k, k.id, change);
    return work;
}

TileSet refreshDensities(Level& level, const Change& change, const Context& context) {
    TileSet made;
    for (Kind& k : level.kinds) {
        if (context.cancelled()) break;
        const TileSet again = whereAgain(level, k, k.id, change, {});
        for (const Region& spot : again.spots()) runAgain(level, laidBy(level, k.id), spot, Caller::follower, context);
        made.add(again);
    }
    return made;
}

void holdByHand(Ruled& layer, const Dab& dab, float share) {
    if (layer.alive && !dab.region.empty()) changeHeld(layer, dab, share, rowKernels().cover, kFullCover);
}

}  // namespace jam
