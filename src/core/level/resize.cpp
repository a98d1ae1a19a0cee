#include "level/resize.h"

#include <algorithm>
#include <cmath>

#include "grid/resample.h"
#include "level/ground.h"

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
    for (int z = 0; z < out.depth(); ++z) std::transform(out.view().row(z), out.view().row(z) + out.width(), stored.view().row(z), store);
    to.write(to.bounds(), stored.view());
    return true;
}

// The rasters of a layer that have the cover's samples; base and held may be empty.
constexpr TiledGrid<uint16_t> Layer::* kCoverGrids[] = {&Layer::coverage, &Layer::base, &Layer::held};

// The wash between four samples, each colour counting as much as it is strong.
Wash washBetween(const TiledGrid<Wash>& grid, double column, double row) {
    const double c = std::clamp(column, 0.0, grid.columns() - 1.0), r = std::clamp(row, 0.0, grid.rows() - 1.0);
    const int x = std::min(static_cast<int>(c), grid.columns() - 2), z = std::min(static_cast<int>(r), grid.rows() - 2);
    double sums[3] = {}, strength = 0;
    for (int k = 0; k < 4; ++k) {
        const Wash w = grid.at(x + k % 2, z + k / 2);
        const double share = (k % 2 ? c - x : 1 - (c - x)) * (k / 2 ? r - z : 1 - (r - z)) * w.strength;
        sums[0] += share * w.red, sums[1] += share * w.green, sums[2] += share * w.blue;
        strength += share;
    }
    if (strength < 0.5) return {};
    const auto stored = [](double v) { return static_cast<uint16_t>(std::lround(v)); };
    return {stored(sums[0] / strength), stored(sums[1] / strength), stored(sums[2] / strength), stored(strength)};
}

void resampleWash(const TiledGrid<Wash>& from, TiledGrid<Wash>& to, double ratio) {
    if (from.presentTiles() == 0) return;
    Raster<Wash> row(to.columns(), 1);
    for (int z = 0; z < to.rows(); ++z) {
        for (int x = 0; x < to.columns(); ++x) row.at(x, 0) = washBetween(from, x * ratio, z * ratio);
        to.write({0, z, to.columns(), z + 1}, row.view());
    }
}

// An empty level of another size with the same strata and layers.
Result<Level> frameFor(const Level& level, int columns, int rows, double spacing) {
    NewLevel wish{level.name, columns, rows, spacing, level.lowest, level.highest, level.startHeight, level.coverFactor};
    Result<Level> made = makeLevel(wish);
    if (!made) return made;
    Level out = level;
    out.columns = columns;
    out.rows = rows;
    out.spacing = spacing;
    for (Stratum& s : out.strata) s.heights = TiledGrid<float>(columns, rows, 0);
    for (Layer& l : out.layers)
        for (const auto grid : kCoverGrids)
            if ((l.*grid).columns() > 0) l.*grid = TiledGrid<uint16_t>(out.coverColumns(), out.coverRows(), (l.*grid).defaultValue());
    out.wash = TiledGrid<Wash>(columns, rows, {});
    return out;
}

}  // namespace

Result<Level> resampleLevel(const Level& level, int columns, int rows, double spacing, const Context& context) {
    Result<Level> framed = frameFor(level, columns, rows, spacing);
    if (!framed) return framed;
    Level out = framed.take();
    const double ratio = spacing / level.spacing, parts = static_cast<double>(level.strata.size() + level.layers.size());
    const auto part = [parts](const Context& whole, size_t i) {
        Context c = whole;
        c.progress = [&whole, parts, i](double share) { whole.report((static_cast<double>(i) + share) / parts); };
        return c;
    };
    for (size_t i = 0; i < level.strata.size(); ++i) {
        if (!resample(level.strata[i].heights, out.strata[i].heights, ratio, [](float v) { return v; }, part(context, i))) return cancelledError();
    }
    for (size_t i = 0; i < level.layers.size(); ++i) {
        const auto store = [](float v) { return static_cast<uint16_t>(std::clamp(v + 0.5f, 0.f, 65535.f)); };
        for (const auto grid : kCoverGrids)
            if (!resample(level.layers[i].*grid, out.layers[i].*grid, ratio, store, part(context, level.strata.size() + i))) return cancelledError();
    }
    resampleWash(level.wash, out.wash, ratio);
    // A cubic overshoots at cliffs; the ground stays within the level's range.
    constexpr int kBand = 64;
    for (int z0 = 0; z0 < rows; z0 += kBand) {
        if (context.cancelled()) return cancelledError();
        const Region band{0, z0, columns, std::min(z0 + kBand, rows)};
        Raster<float> before(columns, band.depth()), after;
        readGround(out, band, before.view());
        after = before;
        writeGround(out, band, before.view(), after.view());
    }
    return out;
}

Result<Level> cropLevel(const Level& level, const Region& piece, const Context& context) {
    if (piece.empty()) return Error{"", "size", "nothing is left", "keep at least 2 x 2 samples"};
    Result<Level> framed = frameFor(level, piece.width(), piece.depth(), level.spacing);
    if (!framed) return framed;
    Level out = framed.take();
    out.originX = level.originX + piece.x0 * level.spacing;
    out.originZ = level.originZ + piece.z0 * level.spacing;
    const auto copy = [&](const auto& from, auto& to, int factor) {
        const Region inside = Region{piece.x0 * factor, piece.z0 * factor, (piece.x1 - 1) * factor + 1, (piece.z1 - 1) * factor + 1}.clipped(from.bounds());
        if (inside.empty()) return;
        using T = std::remove_cvref_t<decltype(from.defaultValue())>;
        for (int z = inside.z0; z < inside.z1; ++z) {
            Raster<T> row(inside.width(), 1);
            from.read({inside.x0, z, inside.x1, z + 1}, row.view());
            const int x = inside.x0 - piece.x0 * factor, to_z = z - piece.z0 * factor;
            to.write({x, to_z, x + inside.width(), to_z + 1}, row.view());
        }
    };
    for (size_t i = 0; i < level.strata.size(); ++i) {
        if (context.cancelled()) return cancelledError();
        copy(level.strata[i].heights, out.strata[i].heights, 1);
    }
    for (size_t i = 0; i < level.layers.size(); ++i) {
        if (context.cancelled()) return cancelledError();
        for (const auto grid : kCoverGrids)
            if ((level.layers[i].*grid).columns() > 0) copy(level.layers[i].*grid, out.layers[i].*grid, level.coverFactor);
    }
    copy(level.wash, out.wash, 1);
    return out;
}

}  // namespace jam
