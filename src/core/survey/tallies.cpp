#include "survey/tallies.h"

#include "grid/tally.h"

namespace jam {

void Tallies::follow(const Level& level, const Change* change, const Context& context) {
    const Region all = level.bounds(), allCover = level.coverBounds();
    TileSet ground(all), cover(allCover), stretch(all);
    if (change) {
        // Slopes look one sample to every side.
        ground = change->ground.joined(change->gaps).grown(1, all);
        if (!change->looks) {
            cover = change->cover.joined(change->gaps.finer(level.coverFactor)).clipped(allCover);
            stretch = ground.joined(change->cover.coarser(level.coverFactor).clipped(all));
        }
    }
    tally(ground_, all, ground, context, [&](const Region& tile) { return tallyGround(level, tile); });
    tally(layers_, allCover, cover, context, [&](const Region& tile) { return tallyLayers(level, tile); });
    tally(stretch_, all, stretch, context, [&](const Region& tile) { return tallyStretch(level, tile, kStretched); });
}

}  // namespace jam
