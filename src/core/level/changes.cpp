#include "level/changes.h"

namespace jam {

namespace {

template <class T>
Region changedTiles(const TiledGrid<T>& now, const TiledGrid<T>& before, const Region& within) {
    if (within.empty() || now.sharesAll(before)) return {};
    Region changed;
    const Region tiles = TiledGrid<T>::tilesOf(within);
    for (int tz = tiles.z0; tz < tiles.z1; ++tz)
        for (int tx = tiles.x0; tx < tiles.x1; ++tx)
            if (!now.sharesTile(before, tx, tz)) changed = changed.joined(now.tileRegion(tx, tz).clipped(within));
    return changed;
}

Region changedGround(const Level& now, const Level& before, const Region& within) {
    if (now.startHeight != before.startHeight || now.strata.size() != before.strata.size()) return now.bounds();
    Region changed;
    for (size_t i = 0; i < now.strata.size(); ++i) {
        const Stratum &a = now.strata[i], &b = before.strata[i];
        if (a.id != b.id || a.opacity != b.opacity || a.visible != b.visible) return now.bounds();
        changed = changed.joined(changedTiles(a.heights, b.heights, within));
    }
    return changed;
}

Region changedCover(const Level& now, const Level& before, const Region& within) {
    if (now.layers.size() != before.layers.size()) return now.coverBounds();
    Region changed;
    for (size_t i = 0; i < now.layers.size(); ++i) {
        const Layer &a = now.layers[i], &b = before.layers[i];
        if (a.id != b.id || a.hidden != b.hidden) return now.coverBounds();
        changed = changed.joined(changedTiles(a.coverage, b.coverage, within));
    }
    return changed;
}

}  // namespace

Region touchedGround(const Level& level, const Change& change) {
    const int f = level.coverFactor;
    const Region& c = change.cover;
    const Region own = change.ground.joined(change.wash);
    if (c.empty()) return own;
    return own.joined(Region{c.x0 / f, c.z0 / f, (c.x1 - 1) / f + 2, (c.z1 - 1) / f + 2}.clipped(level.bounds()));
}

bool sameRaster(const Level& a, const Level& b) {
    return a.columns == b.columns && a.rows == b.rows && a.spacing == b.spacing && a.originX == b.originX &&
           a.originZ == b.originZ && a.coverFactor == b.coverFactor;
}

Change changesBetween(const Level& now, const Level& before, const Change* within) {
    return {changedGround(now, before, within ? within->ground : now.bounds()),
            changedCover(now, before, within ? within->cover : now.coverBounds()),
            changedTiles(now.wash, before.wash, within ? within->wash : now.bounds())};
}

}  // namespace jam
