#include "water/stream.h"

#include <algorithm>

#include "course/legs.h"
#include "level/ground.h"

namespace jam {

namespace {
constexpr int kTile = TiledGrid<float>::kTile;
}

const Stratum* bedOf(const Level& level, const Stream& stream) {
    const Stratum* s = level.stratum(stream.course);
    return s && s->course && s->course->use == CourseUse::carve && s->visible ? s : nullptr;
}

void runStream(const Level& level, Stream& stream, const Context& context) {
    if (stream.surface.columns() != level.columns || stream.surface.rows() != level.rows)
        stream.surface = TiledGrid<float>(level.columns, level.rows, kDry);
    const Stratum* bed = bedOf(level, stream);
    TiledGrid<float> made(level.columns, level.rows, kDry);
    if (bed) {
        const std::vector<LinePoint> line = lineOf(level, static_cast<size_t>(level.stratumIndex(bed->id)));
        const LegsBy legs(line, level.originX - 0.5 * level.spacing, level.originZ - 0.5 * level.spacing,
                          kTile * level.spacing, made.tilesAcross(), made.tilesDown(), -1);
        BitTiles may(level.columns, level.rows), seeds(level.columns, level.rows);
        Raster<float> ground(kTile, kTile), surface(kTile, kTile);
        for (int tz = 0; tz < made.tilesDown(); ++tz)
            for (int tx = 0; tx < made.tilesAcross(); ++tx) {
                if (!legs.any(tx, tz) || context.cancelled()) continue;
                const Region r = made.tileRegion(tx, tz);
                readGround(level, r, ground.view());
                float* to = made.writableTile(tx, tz);
                eachNear(legs, tx, tz, r, level.originX, level.originZ, level.spacing,
                         [&](int x, int z, const Near& n) {
                             const auto h = static_cast<float>(n.height + stream.depth);
                             const double beyond = n.away - 0.5 * n.width;
                             if (beyond > n.shoulder || ground.at(x - r.x0, z - r.z0) >= h) return;
                             to[(z - r.z0) * kTile + x - r.x0] = h;
                             may.set(x, z);
                             if (beyond <= 0.5 * level.spacing) seeds.set(x, z);
                         });
            }
        // Hollows beside it that it does not reach stay dry.
        const BitTiles runs = flood(seeds, [&](int tx, int tz, TileBits& b) {
            const TileBits* m = may.tile(tx, tz);
            b = m ? *m : TileBits{};
        });
        may.each([&](int x, int z) {
            if (!runs.at(x, z)) made.set(x, z, kDry);
        });
        made.dropDefaultTiles();
    }
    Raster<float> tile(kTile, kTile);
    for (int tz = 0; tz < made.tilesDown(); ++tz)
        for (int tx = 0; tx < made.tilesAcross(); ++tx) {
            const Region r = made.tileRegion(tx, tz);
            if (!made.tile(tx, tz)) {
                if (stream.surface.tile(tx, tz)) stream.surface.clearTile(tx, tz);
                continue;
            }
            made.read(r, tile.view());
            stream.surface.write(r, tile.view());
        }
}

namespace {

// f(water) for the corners of the triangle that holds world (x, z), which lies inside the level. Below a surface, a
// triangle is wet with whichever of its corners is.
template <class F>
void eachCorner(const Level& level, double x, double z, F f) {
    const double cx = level.toColumn(x), cz = level.toRow(z);
    const int c = std::min(static_cast<int>(cx), level.columns - 2), r = std::min(static_cast<int>(cz), level.rows - 2);
    f(level.water.at(c, r));
    f(level.water.at(c + 1, r + 1));
    f(cx - c >= cz - r ? level.water.at(c + 1, r) : level.water.at(c, r + 1));
}

}  // namespace

Wet waterAt(const Level& level, double x, double z) {
    if (!level.holds(x, z) || level.water.columns() == 0) return {};
    const double ground = altitudeAt(level, x, z);
    Wet best;
    eachCorner(level, x, z, [&](const Wet& w) {
        if (w.wet() && w.surface > ground && w.surface > best.surface) best = w;
    });
    return best;
}

double depthAt(const Level& level, double x, double z) {
    const Wet w = waterAt(level, x, z);
    return w.wet() ? w.surface - altitudeAt(level, x, z) : 0;
}

std::vector<LinePoint> streamLine(const Level& level, const Stream& stream) {
    const Stratum* bed = bedOf(level, stream);
    if (!bed) return {};
    std::vector<LinePoint> line = lineOf(level, static_cast<size_t>(level.stratumIndex(bed->id)));
    for (LinePoint& p : line) {
        p.height += stream.depth;
        if (!level.holds(p.x, p.z)) continue;
        eachCorner(level, p.x, p.z, [&](const Wet& w) {
            if (level.pool(w.body)) p.height = std::max<double>(p.height, w.surface);
        });
    }
    return line;
}

}  // namespace jam
