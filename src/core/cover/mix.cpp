#include "cover/mix.h"

#include <algorithm>
#include <cmath>

#include "brush/rows.h"
#include "cover/blend.h"
#include "cover/paint.h"
#include "cover/rules.h"
#include "cover/weights.h"

namespace jam {

namespace {

constexpr int kBandRows = 64;

template <class F>
void eachBand(const Level& level, F f) {
    for (int z = 0; z < level.coverRows(); z += kBandRows) f(Region{0, z, level.coverColumns(), std::min(z + kBandRows, level.coverRows())});
}

// Coverage that leaves `left` of `open`, both of 65535.
uint16_t coverageFor(uint16_t open, uint16_t left) {
    if (open == 0) return 0;
    const double cover = 65535.0 * (1 - static_cast<double>(left) / open);
    return static_cast<uint16_t>(std::clamp(std::lround(cover), 0L, 65535L));
}

// Moves weight from one layer to another in `region`; shareAt(x, z) of it.
template <class Share>
void transfer(Level& level, const Region& region, int from, int to, Share shareAt) {
    // Layers over both are not touched by this, and those under both get what is left as before.
    const int low = std::min(from, to), high = std::max(from, to);
    std::vector<int> stack;  // top to bottom
    for (int i = static_cast<int>(level.layers.size()) - 1; i >= 0; --i)
        if (!level.layers[static_cast<size_t>(i)].hidden || i == from || i == to) stack.push_back(i);
    std::vector<Raster<uint16_t>> rasters(level.layers.size());
    for (const int i : stack) {
        Raster<uint16_t>& r = rasters[static_cast<size_t>(i)] = Raster<uint16_t>(region.width(), region.depth());
        level.layers[static_cast<size_t>(i)].coverage.read(region, r.view());
    }
    std::vector<double> mix(level.layers.size());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) {
            const double share = shareAt(region.x0 + x, region.z0 + z);
            if (share <= 0) continue;
            double open = 1, openAbove = 1;
            for (const int i : stack) {
                if (i == high) openAbove = open;
                const double c = i == stack.back() ? 1 : rasters[static_cast<size_t>(i)].at(x, z) / 65535.0;
                mix[static_cast<size_t>(i)] = open * c;
                open -= open * c;
            }
            double& taken = mix[static_cast<size_t>(from)];
            if (taken <= 0) continue;
            const double moved = std::min(taken, std::max(taken * share, 1.5 / 65535));
            mix[static_cast<size_t>(to)] += moved;
            taken = share >= 1 ? 0 : taken - moved;
            open = openAbove;
            for (const int i : stack) {
                if (i > high) continue;
                if (i < low || i == stack.back()) break;
                const double m = mix[static_cast<size_t>(i)];
                if (open > 1e-6) rasters[static_cast<size_t>(i)].at(x, z) = static_cast<uint16_t>(std::lround(std::clamp(m / open, 0.0, 1.0) * 65535));
                open -= m;
            }
        }
    for (const int i : stack)
        if (i >= low && i <= high && i != stack.back()) level.layers[static_cast<size_t>(i)].coverage.write(region, rasters[static_cast<size_t>(i)].view());
}

}  // namespace

void writeWeights(Level& level, const Region& region, const std::vector<View<const uint8_t>>& planes) {
    for (Layer& l : level.layers) l.hidden = false;
    const int n = region.width();
    std::vector<uint16_t> open(static_cast<size_t>(n));
    std::vector<uint8_t> below(open.size()), shown(open.size());
    Raster<uint16_t> cover(n, 1);
    for (int z = 0; z < region.depth(); ++z) {
        std::fill(open.begin(), open.end(), kFullCover);
        std::fill(below.begin(), below.end(), uint8_t{255});
        for (size_t i = level.layers.size(); i-- > 1;) {
            for (int x = 0; x < n; ++x) {
                const auto k = static_cast<size_t>(x);
                const int left = below[k] - planes[i].at(x, z);
                // Aimed at the middle of what rounds to the byte that has to be left over.
                cover.at(x, 0) = left == below[k] ? uint16_t{0} : coverageFor(open[k], static_cast<uint16_t>(left * 257));
            }
            rowKernels().weigh(&cover.at(0, 0), n, open.data(), below.data(), shown.data());
            level.layers[i].coverage.write({region.x0, region.z0 + z, region.x1, region.z0 + z + 1}, cover.view());
        }
    }
}

Region replaceUnder(Level& level, const Dab& dab, float share, uint32_t from, uint32_t to) {
    const int a = level.layerIndex(from), b = level.layerIndex(to);
    assert(a >= 0 && b >= 0 && a != b);
    if (dab.region.empty() || level.layers[static_cast<size_t>(a)].locked || level.layers[static_cast<size_t>(b)].locked) return {};
    Raster<float> mask(dab.region.width(), dab.region.depth(), 0.f);
    for (int z = dab.region.z0; z < dab.region.z1; ++z) {
        const Region span = dabSpan(dab, dab.region, z);
        if (!span.empty()) dabMask(dab, span.x0, z, span.width(), share, &mask.at(span.x0 - dab.region.x0, z - dab.region.z0));
    }
    transfer(level, dab.region, a, b, [&](int x, int z) { return mask.at(x - dab.region.x0, z - dab.region.z0); });
    return dab.region;
}

void replaceLayer(Level& level, uint32_t from, uint32_t to) {
    for (const uint32_t id : {from, to}) restRules(level, id);
    eachBand(level, [&](const Region& band) { transfer(level, band, level.layerIndex(from), level.layerIndex(to), [](int, int) { return 1.0; }); });
}

void mergeDown(Level& level, int index) {
    assert(index > 0);
    replaceLayer(level, level.layers[static_cast<size_t>(index)].id, level.layers[static_cast<size_t>(index) - 1].id);
    removeLayer(level, index);
}

bool fillLayer(Level& level, uint32_t layer, float target, const PaintWhere& where, const Context& context) {
    const Level origin = level;
    bool cancelled = false;
    eachBand(origin, [&](const Region& band) {
        if (cancelled || (cancelled = context.cancelled())) return;
        Raster<float> shares(band.width(), band.depth(), 1.f);
        if (!where.anywhere()) limitPaint(origin, band, where, shares.view());
        Dab dab;
        dab.region = band;
        dab.shares = &shares;
        paintLayer(level, dab, 1, layer, target);
        for (auto i = static_cast<size_t>(std::max(origin.layerIndex(layer), 1)); i < level.layers.size(); ++i)
            if (Layer& l = level.layers[i]; !l.locked && (!l.hidden || l.id == layer)) holdByHand(l, dab, 1);
        context.report(static_cast<double>(band.z1) / origin.coverRows());
    });
    if (cancelled) level = origin;
    return !cancelled;
}

namespace {

TiledGrid<uint16_t> regridded(const TiledGrid<uint16_t>& from, int columns, int rows) {
    TiledGrid<uint16_t> to(columns, rows, from.defaultValue());
    if (from.presentTiles() == 0) return to;
    const int finer = (columns - 1) / (from.columns() - 1), coarser = (from.columns() - 1) / (columns - 1);
    Raster<uint16_t> above(from.columns(), 1), below(from.columns(), 1), out(columns, 1);
    const auto read = [&](int z, Raster<uint16_t>& row) { from.read({0, z, from.columns(), z + 1}, row.view()); };
    for (int z = 0; z < rows; ++z) {
        if (finer <= 1) {
            read(z * coarser, above);
            for (int x = 0; x < columns; ++x) out.at(x, 0) = above.at(x * coarser, 0);
        } else {
            const int z0 = z / finer, v = z % finer;
            read(z0, above);
            read(std::min(z0 + 1, from.rows() - 1), below);
            for (int x = 0; x < columns; ++x) {
                const int x0 = x / finer, u = x % finer, x1 = std::min(x0 + 1, from.columns() - 1);
                const long sum = static_cast<long>(finer - v) * ((finer - u) * above.at(x0, 0) + u * above.at(x1, 0)) + static_cast<long>(v) * ((finer - u) * below.at(x0, 0) + u * below.at(x1, 0));
                out.at(x, 0) = static_cast<uint16_t>((sum + finer * finer / 2) / (finer * finer));
            }
        }
        to.write({0, z, columns, z + 1}, out.view());
    }
    return to;
}

}  // namespace

Status changeCoverFactor(Level& level, int factor) {
    if (factor != 1 && factor != 2 && factor != 4) return Error{"", "cover factor", "it is " + std::to_string(factor), "choose 1, 2 or 4"};
    const int columns = (level.columns - 1) * factor + 1, rows = (level.rows - 1) * factor + 1;
    if (std::max(columns, rows) > kMaxSamples)
        return Error{"", "cover factor", "cover would be " + std::to_string(std::max(columns, rows)) + " samples long, more than " + std::to_string(kMaxSamples), "choose a smaller factor"};
    for (Layer& l : level.layers)
        for (const auto grid : {&Layer::coverage, &Layer::base, &Layer::held})
            if ((l.*grid).columns() > 0) l.*grid = regridded(l.*grid, columns, rows);
    level.coverFactor = factor;
    return {};
}

int lossAtFactor(const Level& level, int factor) {
    Level there = level;
    if (!changeCoverFactor(there, factor) || !changeCoverFactor(there, level.coverFactor)) return 255;
    int most = 0;
    const size_t n = level.layers.size();
    std::vector<Raster<uint8_t>> a(n, Raster<uint8_t>(level.coverColumns(), kBandRows)), b = a;
    eachBand(level, [&](const Region& band) {
        std::vector<View<uint8_t>> pa, pb;
        for (size_t i = 0; i < n; ++i) pa.push_back(a[i].view()), pb.push_back(b[i].view());
        readWeights(level, band, pa);
        readWeights(there, band, pb);
        for (size_t i = 0; i < n; ++i)
            for (int z = 0; z < band.depth(); ++z)
                for (int x = 0; x < band.width(); ++x) most = std::max(most, std::abs(a[i].at(x, z) - b[i].at(x, z)));
    });
    return most;
}

}  // namespace jam
