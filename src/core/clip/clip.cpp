#include "clip/clip.h"

#include <algorithm>
#include <cmath>

#include "cover/rules.h"
#include "level/ground.h"
#include "level/resize.h"
#include "water/water.h"

namespace jam {

namespace {

// The samples that the fence holds at all.
Region boundsOf(const Fence& fence) {
    Region all;
    for (int tz = 0; tz < fence.tilesDown(); ++tz)
        for (int tx = 0; tx < fence.tilesAcross(); ++tx) {
            const uint16_t* t = fence.tile(tx, tz);
            if (!t) continue;
            const Region tile = fence.tileRegion(tx, tz);
            for (int z = tile.z0; z < tile.z1; ++z)
                for (int x = tile.x0; x < tile.x1; ++x)
                    if (t[(z % Fence::kTile) * Fence::kTile + x % Fence::kTile]) all = all.joined({x, z, x + 1, z + 1});
        }
    return all;
}

}  // namespace

Result<Level> liftClip(const Level& level, const Region& box, const std::string& name, const Context& context) {
    const Region inside = box.clipped(level.bounds());
    if (inside.width() < kMinSamples || inside.depth() < kMinSamples)
        return Error{"", "clip", "there is nothing of the level in it",
                     "draw it over at least 2 x 2 samples of ground"};
    Level light = level;
    // Strata are composed below; what rules or a hand keep to themselves is no part of what is seen.
    light.strata.resize(1);
    light.strata.front() = {};
    light.strata.front().heights = TiledGrid<float>(level.columns, level.rows, 0.f);
    for (Layer& l : light.layers)
        if (l.alive) restRules(light, l.id);
    // Of what stands, the densities and what was put down by hand; where plantings stand follows from where they come
    // to.
    for (Kind& k : light.kinds) restRules(light, k.id), k.rules.clear(), k.gone.clear(), k.locked = false;
    light.fences.clear();
    light.spots.clear();
    light.bodies.clear();
    light.body = Level{}.body;
    // Pools come along whose place does; streams stay with their courses.
    light.streams.clear();
    std::erase_if(light.pools, [&](const Pool& p) {
        const int c = static_cast<int>(std::lround(level.toColumn(p.x))),
                  r = static_cast<int>(std::lround(level.toRow(p.z)));
        return p.sea || !inside.contains(c, r);
    });
    Result<Level> cropped = cropLevel(light, inside, context);
    if (!cropped) return cropped;
    Level clip = cropped.take();
    clip.name = name;
    for (Layer& l : clip.layers) l.rules.clear(), l.locked = false;
    // With a start of 0 the stratum holds altitudes, and composing gives them back to the bit.
    clip.startHeight = 0;
    clip.lowest = std::min(level.lowest, 0.f);
    clip.highest = std::max(level.highest, 0.f);
    Raster<float> ground(inside.width(), inside.depth());
    readGround(level, inside, ground.view());
    Stratum& only = clip.strata.front();
    only.name = name;
    only.id = clip.activeStratum = clip.nextId++;
    only.heights.write(clip.bounds(), ground.view());
    clip.fenced = true;
    clip.fence = Fence(clip.columns, clip.rows, 0);
    for (int z = 0; z < clip.rows; ++z)
        for (int x = 0; x < clip.columns; ++x) clip.fence.set(x, z, kInside);
    refillWater(clip);
    return clip;
}

Result<Level> liftFenced(const Level& level, const std::string& name, const Context& context) {
    if (!level.fenced) return Error{"", "clip", "no fence is in force", "draw one round what is to be lifted"};
    const Region box = boundsOf(level.fence);
    if (box.empty()) return Error{"", "clip", "the fence holds nothing", "draw it round what is to be lifted"};
    Result<Level> lifted = liftClip(level, box, name, context);
    if (!lifted) return lifted;
    Raster<uint16_t> shape(box.width(), box.depth());
    level.fence.read(box, shape.view());
    lifted.value().fence.write(lifted.value().bounds(), shape.view());
    return lifted;
}

Region samplesBetween(const Level& level, double x0, double z0, double x1, double z1) {
    const auto nearest = [](double v) { return static_cast<int>(std::lround(std::clamp(v, -1e6, 1e6))); };
    const auto [west, east] = std::minmax({nearest(level.toColumn(x0)), nearest(level.toColumn(x1))});
    const auto [north, south] = std::minmax({nearest(level.toRow(z0)), nearest(level.toRow(z1))});
    return {west, north, east + 1, south + 1};
}

std::vector<RimSample> rimOf(const Level& clip) {
    const auto inside = [&](int x, int z) {
        return clip.bounds().contains(x, z) && (!clip.fenced || clip.fence.at(x, z) > kInside / 2);
    };
    std::vector<RimSample> rim;
    for (int z = 0; z < clip.rows; ++z)
        for (int x = 0; x < clip.columns; ++x)
            if (inside(x, z) && !(inside(x - 1, z) && inside(x + 1, z) && inside(x, z - 1) && inside(x, z + 1)))
                rim.push_back({x, z});
    return rim;
}

double clipFoot(const Level& clip) {
    double sum = 0;
    const std::vector<RimSample> rim = rimOf(clip);
    for (const RimSample& s : rim) sum += groundSample(clip, s.column, s.row);
    return rim.empty() ? groundSample(clip, clip.columns / 2, clip.rows / 2) : sum / static_cast<double>(rim.size());
}

}  // namespace jam
