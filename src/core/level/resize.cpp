#include "level/resize.h"

#include <cmath>

#include "base/parallel.h"
#include "base/text.h"
#include "level/ground.h"

namespace jam {

namespace {

// Samples and their weights for one output sample along one axis.
struct Taps {
    int first = 0;
    std::vector<float> weights;
};

double cubic(double t) {
    t = std::abs(t);
    if (t < 1) return (1.5 * t - 2.5) * t * t + 1;
    if (t < 2) return ((-0.5 * t + 2.5) * t - 4) * t + 2;
    return 0;
}

std::vector<Taps> tapsFor(int from, int to, double ratio) {
    // Output sample i lies at i * ratio in the input.
    const double wide = std::max(ratio, 1.0);
    std::vector<Taps> all(static_cast<size_t>(to));
    for (int i = 0; i < to; ++i) {
        const double at = i * ratio;
        const int first = static_cast<int>(std::ceil(at - 2 * wide)), last = static_cast<int>(std::floor(at + 2 * wide));
        Taps& t = all[static_cast<size_t>(i)];
        // The edge is repeated: weights beyond it fall on it.
        t.first = std::clamp(first, 0, from - 1);
        const int end = std::clamp(last, 0, from - 1);
        t.weights.assign(static_cast<size_t>(end - t.first + 1), 0.f);
        double sum = 0;
        for (int k = first; k <= last; ++k) sum += cubic((k - at) / wide);
        for (int k = first; k <= last; ++k)
            t.weights[static_cast<size_t>(std::clamp(k, t.first, end) - t.first)] += static_cast<float>(cubic((k - at) / wide) / sum);
    }
    return all;
}

// Resamples a grid band by band; `store` turns a float back into a sample.
template <class T, class Store>
bool resample(const TiledGrid<T>& from, TiledGrid<T>& to, double ratio, Store store, const Context& context) {
    if (from.presentTiles() == 0) return !context.cancelled();
    const std::vector<Taps> across = tapsFor(from.columns(), to.columns(), ratio), down = tapsFor(from.rows(), to.rows(), ratio);
    constexpr int kBand = 64;
    for (int z0 = 0; z0 < to.rows(); z0 += kBand) {
        if (context.cancelled()) return false;
        const int z1 = std::min(z0 + kBand, to.rows());
        const int first = down[static_cast<size_t>(z0)].first;
        const Taps& lastTaps = down[static_cast<size_t>(z1 - 1)];
        const int end = std::max(lastTaps.first + static_cast<int>(lastTaps.weights.size()), first + 1);
        Raster<T> rows(from.columns(), end - first);
        from.read({0, first, from.columns(), end}, rows.view());
        Raster<float> narrow(to.columns(), end - first);
        parallelFor(end - first, 8, [&](int a, int b) {
            for (int z = a; z < b; ++z)
                for (int x = 0; x < to.columns(); ++x) {
                    const Taps& t = across[static_cast<size_t>(x)];
                    float sum = 0;
                    for (size_t k = 0; k < t.weights.size(); ++k) sum += t.weights[k] * static_cast<float>(rows.at(t.first + static_cast<int>(k), z));
                    narrow.at(x, z) = sum;
                }
        });
        Raster<T> out(to.columns(), z1 - z0);
        parallelFor(z1 - z0, 8, [&](int a, int b) {
            for (int z = a; z < b; ++z) {
                const Taps& t = down[static_cast<size_t>(z0 + z)];
                for (int x = 0; x < to.columns(); ++x) {
                    float sum = 0;
                    for (size_t k = 0; k < t.weights.size(); ++k) sum += t.weights[k] * narrow.at(x, t.first + static_cast<int>(k) - first);
                    out.at(x, z) = store(sum);
                }
            }
        });
        to.write({0, z0, to.columns(), z1}, out.view());
    }
    return true;
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
    for (Layer& l : out.layers) l.coverage = TiledGrid<uint16_t>(out.coverColumns(), out.coverRows(), l.coverage.defaultValue());
    return out;
}

}  // namespace

Result<Level> resampleLevel(const Level& level, int columns, int rows, double spacing, const Context& context) {
    Result<Level> framed = frameFor(level, columns, rows, spacing);
    if (!framed) return framed;
    Level out = framed.take();
    const double ratio = spacing / level.spacing, parts = static_cast<double>(level.strata.size() + level.layers.size());
    for (size_t i = 0; i < level.strata.size(); ++i) {
        context.report(static_cast<double>(i) / parts);
        if (!resample(level.strata[i].heights, out.strata[i].heights, ratio, [](float v) { return v; }, context)) return cancelledError();
    }
    for (size_t i = 0; i < level.layers.size(); ++i) {
        context.report(static_cast<double>(level.strata.size() + i) / parts);
        const auto store = [](float v) { return static_cast<uint16_t>(std::clamp(v + 0.5f, 0.f, 65535.f)); };
        if (!resample(level.layers[i].coverage, out.layers[i].coverage, ratio, store, context)) return cancelledError();
    }
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
        copy(level.layers[i].coverage, out.layers[i].coverage, level.coverFactor);
    }
    return out;
}

}  // namespace jam
