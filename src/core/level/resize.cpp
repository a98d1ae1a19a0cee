#include "level/resize.h"

#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "grid/resample.h"
#include "level/between.h"
#include "level/ground.h"
#include "level/rasters.h"

namespace jam {

namespace {

// Resamples a grid; `store` turns a float back into a sample.
template <class T, class Store>
bool resample(const TiledGrid<T>& from, TiledGrid<T>& to, double ratio, Store store, const Context& context) {
    if (from.presentTiles() == 0) return !context.cancelled();
    Raster<T> whole(from.columns(), from.rows()), stored(to.columns(), to.rows());
    from.read(from.bounds(), whole.view());
    Raster<float> in(from.columns(), from.rows()), out(to.columns(), to.rows());
    for (int z = 0; z < in.depth(); ++z) std::copy_n(whole.view().row(z), in.width(), in.view().row(z));
    if (!resampleRaster(in.view(), out.view(), ratio, ratio, 0, 0, Kernel::cubic, context)) return false;
    for (int z = 0; z < out.depth(); ++z)
        std::transform(out.view().row(z), out.view().row(z) + out.width(), stored.view().row(z), store);
    to.write(to.bounds(), stored.view());
    return true;
}

// How each type of sample goes to another raster; a raster of a new type needs one more of these.
bool resampleGrid(const TiledGrid<Wash>& from, TiledGrid<Wash>& to, double ratio, const Context& context) {
    if (from.presentTiles() == 0) return !context.cancelled();
    Raster<Wash> row(to.columns(), 1);
    for (int z = 0; z < to.rows(); ++z) {
        if (context.cancelled()) return false;
        for (int x = 0; x < to.columns(); ++x) row.at(x, 0) = washBetween(from, x * ratio, z * ratio);
        to.write({0, z, to.columns(), z + 1}, row.view());
        context.report(static_cast<double>(z) / to.rows());
    }
    return true;
}
bool resampleGrid(const TiledGrid<float>& from, TiledGrid<float>& to, double ratio, const Context& context) {
    return resample(
        from, to, ratio, [](float v) { return v; }, context);
}
bool resampleGrid(const TiledGrid<uint8_t>& from, TiledGrid<uint8_t>& to, double ratio, const Context& context) {
    return resample(
        from, to, ratio, [](float v) { return static_cast<uint8_t>(std::clamp(v + 0.5f, 0.f, 255.f)); }, context);
}
bool resampleGrid(const TiledGrid<uint16_t>& from, TiledGrid<uint16_t>& to, double ratio, const Context& context) {
    return resample(
        from, to, ratio, [](float v) { return static_cast<uint16_t>(std::clamp(v + 0.5f, 0.f, 65535.f)); }, context);
}

// It follows the ground that comes.
bool resampleGrid(const TiledGrid<Wet>&, TiledGrid<Wet>&, double, const Context& context) {
    return !context.cancelled();
}

// An empty level of another size with the same strata and layers.
Result<Level> frameFor(const Level& level, int columns, int rows, double spacing) {
    NewLevel wish{level.name,        columns,          rows, spacing, level.lowest, level.highest,
                  level.startHeight, level.coverFactor};
    Result<Level> made = makeLevel(wish);
    if (!made) return made;
    Level out = level;
    out.columns = columns;
    out.rows = rows;
    out.spacing = spacing;
    eachRaster(out, [&](const auto& kind, const auto&, uint32_t, auto& grid) {
        if (grid.columns() > 0)
            grid = std::remove_cvref_t<decltype(grid)>(columnsOf(out, kind.resolution), rowsOf(out, kind.resolution),
                                                       grid.defaultValue());
    });
    return out;
}

// The rasters that have samples, old and new side by side: f(kind, from, to, place of how many) until it says no.
template <class F>
bool eachToMove(const Level& level, Level& out, F f) {
    size_t count = 0, at = 0;
    eachRaster(level, [&](const auto&, const auto&, uint32_t, const auto& grid) { count += grid.columns() > 0; });
    bool going = true;
    eachRasterOfBoth(out, level, [&](const auto& kind, auto& to, const auto* from) {
        if (going && to.columns() > 0) going = f(kind, *from, to, at++, count);
    });
    return going;
}

// Pools whose place was cut off stand by the deepest of their samples that are left; without any they go.
void keepPools(Level& level) {
    std::erase_if(level.pools, [&](Pool& pool) {
        if (level.holds(pool.x, pool.z)) return false;
        if (pool.sea) {
            pool.x = level.originX, pool.z = level.originZ;
            return false;
        }
        float lowest = pool.height;
        bool left = false;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c) {
                if (level.water.at(c, r).body != pool.id) continue;
                const float h = groundSample(level, c, r);
                if (left && h >= lowest) continue;
                lowest = h, left = true;
                pool.x = level.originX + c * level.spacing, pool.z = level.originZ + r * level.spacing;
            }
        return !left;
    });
}

// Spots that were cut off go, and their pads with them.
void keepSpots(Level& level) {
    std::erase_if(level.spots, [&](const Spot& spot) {
        if (level.holds(spot.x, spot.z)) return false;
        std::erase_if(level.strata, [&](const Stratum& s) {
            return s.id == spot.pad && s.course && s.course->use == CourseUse::pad;
        });
        return true;
    });
}

// Posts that were cut off keep the height that the ground gave them, so that their course runs on as it did.
void keepPosts(const Level& before, Level& out) {
    for (size_t i = 0; i < out.strata.size(); ++i) {
        std::optional<Course>& course = out.strata[i].course;
        if (!course || course->use == CourseUse::bank) continue;
        Level below = before;
        below.strata.resize(i);
        for (Post& p : course->posts)
            if (!p.height && before.holds(p.x, p.z) && !out.holds(p.x, p.z))
                p.height = static_cast<float>(altitudeAt(below, p.x, p.z)) -
                           (course->use == CourseUse::carve ? course->sunk : 0);
    }
}

}  // namespace

Result<Level> resampleLevel(const Level& level, int columns, int rows, double spacing, const Context& context) {
    if (columns == level.columns && rows == level.rows && spacing == level.spacing) return level;
    Result<Level> framed = frameFor(level, columns, rows, spacing);
    if (!framed) return framed;
    Level out = framed.take();
    // The far edges may lie a little nearer now.
    for (Pool& p : out.pools) {
        p.x = std::min(p.x, out.originX + out.width());
        p.z = std::min(p.z, out.originZ + out.depth());
    }
    for (Spot& s : out.spots) {
        s.x = std::min(s.x, out.originX + out.width());
        s.z = std::min(s.z, out.originZ + out.depth());
    }
    for (Single& s : out.singles) {
        s.x = std::min(s.x, out.originX + out.width());
        s.z = std::min(s.z, out.originZ + out.depth());
    }
    const double ratio = spacing / level.spacing;
    const bool done = eachToMove(level, out,
                                 [&](const auto& kind, const auto& from, auto& to, size_t at, size_t count) {
                                     if (!kind.kStored) return true;
                                     Context part = context;
                                     part.progress = [&](double share) {
                                         context.report((static_cast<double>(at) + share) / static_cast<double>(count));
                                     };
                                     return resampleGrid(from, to, ratio, part);
                                 });
    if (!done) return cancelledError();
    // A cubic overshoots at cliffs; the ground stays within the level's range. Without a stratum that shows it is flat.
    const uint32_t active = out.activeStratum;
    activateShown(out);
    if (!checkShapeable(out)) return out;
    constexpr int kBand = 64;
    for (int z0 = 0; z0 < rows; z0 += kBand) {
        if (context.cancelled()) return cancelledError();
        const Region band{0, z0, columns, std::min(z0 + kBand, rows)};
        Raster<float> before(columns, band.depth()), after;
        readGround(out, band, before.view());
        after = before;
        writeGround(out, band, before.view(), after.view());
    }
    out.activeStratum = active;
    return out;
}

Result<Level> cropLevel(const Level& level, const Region& piece, const Context& context) {
    if (piece.empty()) return Error{"", "size", "nothing is left", "keep at least 2 x 2 samples"};
    if (piece == level.bounds()) return level;
    Result<Level> framed = frameFor(level, piece.width(), piece.depth(), level.spacing);
    if (!framed) return framed;
    Level out = framed.take();
    out.originX = level.originX + piece.x0 * level.spacing;
    out.originZ = level.originZ + piece.z0 * level.spacing;
    if (std::abs(out.originX) > kFarPlace || std::abs(out.originZ) > kFarPlace)
        return Error{"", "size", "the level would begin farther than " + number(kFarPlace / 1000) + " km away",
                     "keep a piece that lies nearer"};
    const bool done = eachToMove(
        level, out, [&](const auto& kind, const auto& from, auto& to, size_t at, size_t count) {
            const int f = kind.resolution == Resolution::cover ? level.coverFactor : 1;
            const Region inside =
                Region{piece.x0 * f, piece.z0 * f, (piece.x1 - 1) * f + 1, (piece.z1 - 1) * f + 1}.clipped(
                    from.bounds());
            Raster<std::remove_cvref_t<decltype(from.defaultValue())>> row(std::max(inside.width(), 1), 1);
            for (int z = inside.z0; z < inside.z1 && !inside.empty(); ++z) {
                if (context.cancelled()) return false;
                from.read({inside.x0, z, inside.x1, z + 1}, row.view());
                const int x = inside.x0 - piece.x0 * f, below = z - piece.z0 * f;
                to.write({x, below, x + inside.width(), below + 1}, row.view());
            }
            context.report(static_cast<double>(at + 1) / static_cast<double>(count));
            return true;
        });
    if (!done) return cancelledError();
    keepPosts(level, out);
    keepPools(out);
    keepSpots(out);
    std::erase_if(out.singles, [&](const Single& s) { return !out.holds(s.x, s.z); });
    return out;
}

}  // namespace jam
