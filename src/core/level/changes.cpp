#include "level/changes.h"

#include <algorithm>
#include <cassert>

namespace jam {

namespace {

// Adds the tiles that may differ, inside `within` when it is given.
template <class T>
void addChangedTiles(const TiledGrid<T>& now, const TiledGrid<T>& before, const TileSet* within, TileSet& out) {
    if (now.sharesAll(before) || (now.columns() == 0 && before.columns() == 0)) return;
    if (now.columns() != before.columns()) {
        // One that comes or goes with what its owner is: after undoing, another may have got the same id.
        out.add(presentTiles(now));
        out.add(presentTiles(before));
        return;
    }
    if (within) {
        within->each([&](int tx, int tz, const Region& part) {
            if (!now.sharesTile(before, tx, tz)) out.add(part);
        });
        return;
    }
    now.eachChangedTile(before, [&](int tx, int tz) { out.add(now.tileRegion(tx, tz)); });
}

void note(std::vector<uint32_t>& ids, uint32_t id) {
    if (std::find(ids.begin(), ids.end(), id) == ids.end()) ids.push_back(id);
}

template <class Objects>
bool sameOrder(const Objects& a, const Objects& b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                      [](const auto& x, const auto& y) { return x.id == y.id; });
}

void compareStrata(const Level& now, const Level& before, const TileSet* within, Change& change) {
    // Composing begins with the one and ends within the others.
    if (now.startHeight != before.startHeight || now.lowest != before.lowest || now.highest != before.highest)
        change.ground.add(now.bounds());
    // Those that both have come in the same order when nothing but coming and going happened.
    const auto kept = [](const Level& level, const Level& other) {
        std::vector<uint32_t> ids;
        for (const Stratum& s : level.strata)
            if (other.stratum(s.id)) ids.push_back(s.id);
        return ids;
    };
    const bool ordered = kept(now, before) == kept(before, now);
    for (const Stratum& a : now.strata) {
        const Stratum* b = before.stratum(a.id);
        if (b && a.opacity == b->opacity && a.visible == b->visible && ordered) {
            eachKind(kStratumRasters,
                     [&](const auto& k) { addChangedTiles(a.*k.grid, b->*k.grid, within, change.ground); });
            if (!within &&
                (a.name != b->name || a.locked != b->locked || a.course != b->course || a.border != b->border))
                note(change.strata, a.id);
            continue;
        }
        // It weighs otherwise wherever it has heights.
        eachKind(kStratumRasters, [&](const auto& k) {
            change.ground.add(presentTiles(a.*k.grid));
            if (b) change.ground.add(presentTiles(b->*k.grid));
        });
        note(change.strata, a.id);
    }
    for (const Stratum& b : before.strata)
        if (!now.stratum(b.id)) {
            eachKind(kStratumRasters, [&](const auto& k) { change.ground.add(presentTiles(b.*k.grid)); });
            note(change.strata, b.id);
        }
}

// Whether a layer is drawn alike, its samples apart.
bool drawnAlike(const Layer& a, const Layer& b) {
    return a.tileSize == b.tileSize && a.blend == b.blend && a.hidden == b.hidden && a.sides == b.sides &&
           a.look == b.look && samePictures(a, b);
}

const Layer* bottom(const Level& level) {
    for (const Layer& l : level.layers)
        if (!l.hidden) return &l;
    return nullptr;
}

void compareLayers(const Level& now, const Level& before, const TileSet* within, Change& change) {
    const Layer *a0 = bottom(now), *b0 = bottom(before);
    // The first layer shown covers everything, so another one changes everything; and so does another order.
    const bool all = !sameOrder(now.layers, before.layers) || !a0 != !b0 || (a0 && a0->id != b0->id);
    if (all) change.cover.add(now.coverBounds());
    for (const Layer& a : now.layers) {
        const Layer* b = before.layer(a.id);
        if (!b) {
            note(change.layers, a.id);
            continue;
        }
        if (!all && a.hidden != b->hidden)
            change.cover.add(presentTiles(a.coverage)), change.cover.add(presentTiles(b->coverage));
        if (!all) addChangedTiles(a.coverage, b->coverage, within, change.cover);
        if (within) continue;
        const auto follows = [](const Level& level, const Layer& l) {
            return l.alive && !l.locked && level.layerIndex(l.id) > 0;
        };
        if (follows(now, a) && b->alive && !follows(before, *b)) note(change.behind, a.id);
        const bool alike = drawnAlike(a, *b);
        change.looks |= !alike;
        if (!alike || a.name != b->name || a.locked != b->locked || a.rules != b->rules || a.alive != b->alive)
            note(change.layers, a.id);
    }
    for (const Layer& b : before.layers)
        if (!now.layer(b.id)) note(change.layers, b.id);
    change.looks |= all || now.pairs != before.pairs;
}

// Where a single stands, as a sample of the cover.
Region sampleUnder(const Level& level, const Single& s) {
    const int c = std::clamp(static_cast<int>((s.x - level.originX) / level.coverSpacing()), 0,
                             level.coverColumns() - 1),
              r = std::clamp(static_cast<int>((s.z - level.originZ) / level.coverSpacing()), 0, level.coverRows() - 1);
    return {c, r, c + 1, r + 1};
}

void compareKinds(const Level& now, const Level& before, const Change* within, Change& change) {
    const bool ordered = sameOrder(now.kinds, before.kinds);
    const TileSet* tiles = within ? &within->plantings : nullptr;
    for (const Kind& a : now.kinds) {
        const Kind* b = before.kind(a.id);
        if (!b || !ordered || a.hidden != b->hidden) {
            change.plantings.add(presentTiles(a.coverage));
            if (b) change.plantings.add(presentTiles(b->coverage));
            note(change.kinds, a.id);
            continue;
        }
        addChangedTiles(a.coverage, b->coverage, tiles, change.plantings);
        addChangedTiles(a.sizes, b->sizes, tiles, change.plantings);
        if (within) continue;
        // Their samples apart.
        Kind bare = a, other = *b;
        for (Kind* k : {&bare, &other}) k->coverage = k->base = k->held = k->sizes = {};
        if (!(bare == other)) {
            // How it stands, or looks, is other than before wherever it does.
            note(change.kinds, a.id);
            change.plantings.add(presentTiles(a.coverage));
            for (const Single& s : now.singles)
                if (s.kind == a.id) change.plantings.add(sampleUnder(now, s));
        }
        if (a.alive && !a.locked && b->alive && b->locked) note(change.behind, a.id);
    }
    for (const Kind& b : before.kinds)
        if (!now.kind(b.id)) change.plantings.add(presentTiles(b.coverage)), note(change.kinds, b.id);
    if (within) {
        // Of singles, and of how kinds stand, whoever knows where the change lies knows all of it.
        for (const uint32_t id : within->kinds) note(change.kinds, id);
        if (!within->kinds.empty()) change.plantings.add(within->plantings);
        return;
    }
    if (now.singles == before.singles) return;
    for (const auto& [one, other] : {std::pair(&now, &before), std::pair(&before, &now)})
        for (const Single& s : one->singles)
            if (const Single* o = other->single(s.id); !o || !(*o == s)) {
                change.plantings.add(sampleUnder(*one, s));
                note(change.kinds, s.kind);
            }
}

// Their surfaces apart, which follow.
bool sameStreams(const Level& a, const Level& b) {
    return std::equal(a.streams.begin(), a.streams.end(), b.streams.begin(), b.streams.end(),
                      [](const Stream& s, const Stream& t) {
                          return s.id == t.id && s.name == t.name && s.course == t.course && s.depth == t.depth &&
                                 s.manning == t.manning && s.look == t.look;
                      });
}

bool sameWaterLooks(const Level& now, const Level& before) {
    const auto same = [&](const auto& all) {
        return std::all_of(all.begin(), all.end(), [&](const auto& water) {
            const WaterLook* look = before.waterLook(water.id);
            return !look || *look == water.look;
        });
    };
    return same(now.pools) && same(now.streams);
}

}  // namespace

Change allOf(const Level& level) {
    Change all;
    for (const Shows shows : kAllShown) all.of(shows) = onCover(shows) ? level.coverBounds() : level.bounds();
    for (const Stratum& s : level.strata) all.strata.push_back(s.id);
    for (const Layer& l : level.layers) all.layers.push_back(l.id);
    for (const Kind& k : level.kinds) all.kinds.push_back(k.id);
    all.raster = all.looks = all.sun = all.name = all.fence = all.waters = all.waterLooks = all.spots = true;
    return all;
}

TileSet& Change::of(Shows shows) {
    switch (shows) {
        case Shows::ground: return ground;
        case Shows::weights: return cover;
        case Shows::wash: return wash;
        case Shows::gaps: return gaps;
        case Shows::water: return water;
        case Shows::plantings: return plantings;
        case Shows::nothing: break;
    }
    assert(false);
    return ground;
}

bool Change::samples() const {
    return std::any_of(std::begin(kAllShown), std::end(kAllShown), [this](Shows s) { return !of(s).empty(); });
}

bool Change::empty() const {
    return !samples() && strata.empty() && layers.empty() && kinds.empty() && !raster && !looks && !sun && !name &&
           !fence && !waters && !spots;
}

void Change::add(const Change& o) {
    for (const Shows shows : kAllShown) of(shows).add(o.of(shows));
    for (const uint32_t id : o.strata) note(strata, id);
    for (const uint32_t id : o.layers) note(layers, id);
    for (const uint32_t id : o.kinds) note(kinds, id);
    for (const uint32_t id : o.behind) note(behind, id);
    raster |= o.raster;
    looks |= o.looks;
    sun |= o.sun;
    name |= o.name;
    fence |= o.fence;
    waters |= o.waters;
    waterLooks |= o.waterLooks;
    spots |= o.spots;
}

TileSet shownGround(const Level& level, const Change& change, Shows shows) {
    if (onCover(shows)) return change.of(shows).coarser(level.coverFactor).clipped(level.bounds());
    return change.of(shows);
}

TileSet touchedGround(const Level& level, const Change& change) {
    TileSet all;
    for (const Shows shows : kAllShown) all.add(shownGround(level, change, shows));
    return all;
}

bool sameRaster(const Level& a, const Level& b) {
    return a.columns == b.columns && a.rows == b.rows && a.spacing == b.spacing && a.originX == b.originX &&
           a.originZ == b.originZ && a.coverFactor == b.coverFactor;
}

Change changesBetween(const Level& now, const Level& before, const Change* within) {
    if (!sameRaster(now, before)) return allOf(now);
    Change change;
    compareStrata(now, before, within ? &within->ground : nullptr, change);
    compareLayers(now, before, within ? &within->cover : nullptr, change);
    compareKinds(now, before, within, change);
    // Cut otherwise, gaps end elsewhere.
    const bool cut = now.smoothEdges != before.smoothEdges || now.cliff != before.cliff;
    eachKind(kLevelRasters, [&](const auto& k) {
        if (k.shows == Shows::nothing) return;
        addChangedTiles(now.*k.grid, before.*k.grid, within ? &within->of(k.shows) : nullptr, change.of(k.shows));
        if (cut && k.shows == Shows::gaps) change.gaps.add(presentTiles(now.*k.grid));
    });
    change.looks |= now.cliff != before.cliff;
    if (!within) {
        change.waters = now.pools != before.pools || !sameStreams(now, before);
        change.waterLooks = change.waters && !sameWaterLooks(now, before);
        change.spots = now.spots != before.spots || now.bodies != before.bodies || now.body != before.body;
        change.sun = !(now.sun == before.sun);
        change.name = now.name != before.name;
        change.fence = now.fenced != before.fenced || !now.fence.sharesAll(before.fence) || now.fences != before.fences;
    }
    return change;
}

}  // namespace jam
