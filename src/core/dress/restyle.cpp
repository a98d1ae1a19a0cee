#include "dress/restyle.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "dress/chance.h"
#include "dress/kinds.h"
#include "grow/recipe.h"
#include "level/ground.h"

namespace jam {

namespace {

// One of the kind that it becomes, drawn by numbers that belong to its place.
Single becoming(const Kind& kind, const Planting& p, const Chance& chance) {
    Single s;
    s.kind = kind.id;
    s.x = p.x, s.z = p.z;
    s.turn = p.turn;
    s.size = kind.sizeFrom + (kind.sizeTo - kind.sizeFrom) * static_cast<float>(chance.of(41));
    const auto variants = meshesOf(kind)->variants.size();
    s.variant = static_cast<uint8_t>(
        std::min(static_cast<size_t>(chance.of(42) * static_cast<double>(variants)), variants - 1));
    return s;
}

}  // namespace

Region restyle(Level& level, const Dab& dab, float share, uint32_t kind, uint32_t of, Plantings& stood, int stamp) {
    const Kind* becomes = level.kind(kind);
    if (!becomes || becomes->locked || dab.region.empty()) return {};
    Raster<float> masks(dab.region.width(), dab.region.depth(), 0.f);
    eachDabSample(dab, share, [&](int x, int z, float mask) { masks.at(x - dab.region.x0, z - dab.region.z0) = mask; });
    const int f = level.coverFactor;
    const Region ground{dab.region.x0 / f, dab.region.z0 / f, (dab.region.x1 - 1) / f + 1, (dab.region.z1 - 1) / f + 1};
    const Region tiles = TiledGrid<float>::tilesOf(ground.grown(1).clipped(level.bounds()));
    const std::vector<Kind>& then = stood.level().kinds;
    for (size_t k = 0; k < then.size(); ++k) {
        const uint32_t id = then[k].id;
        Kind* was = level.kind(id);
        if (id == kind || (of && id != of) || !was || was->locked || was->hidden) continue;
        for (int tz = tiles.z0; tz < tiles.z1; ++tz)
            for (int tx = tiles.x0; tx < tiles.x1; ++tx)
                for (const Planting& p : stood.tile(k, tx, tz)) {
                    const int c = static_cast<int>(std::lround((p.x - level.originX) / level.coverSpacing())),
                              r = static_cast<int>(std::lround((p.z - level.originZ) / level.coverSpacing()));
                    if (!dab.region.contains(c, r)) continue;
                    // What stands between a sample inside the fence and one outside goes by the nearer one.
                    if (const auto [gc, gr] = nearestSample(level, p.x, p.z); dab.fence && dab.fence->at(gc, gr) == 0)
                        continue;
                    const Chance chance(p.single ? p.single : p.place, was->seed);
                    if (static_cast<double>(masks.at(c - dab.region.x0, r - dab.region.z0)) <=
                        chance.of(100 + static_cast<uint32_t>(stamp)))
                        continue;
                    if (p.single) {
                        Single* s = level.single(p.single);
                        if (!s || s->kind != id) continue;
                        Single next = becoming(*becomes, p, chance);
                        next.id = s->id, next.group = s->group, next.above = s->above;
                        *s = next;
                        continue;
                    }
                    if (level.singles.size() >= kMaxSingles || was->gone.size() >= kMaxGone) return dab.region;
                    const auto at = std::lower_bound(was->gone.begin(), was->gone.end(), p.place);
                    if (at != was->gone.end() && *at == p.place) continue;
                    was->gone.insert(at, p.place);
                    Single next = becoming(*becomes, p, chance);
                    next.id = level.nextId++;
                    level.singles.push_back(next);
                }
    }
    return dab.region;
}

}  // namespace jam
