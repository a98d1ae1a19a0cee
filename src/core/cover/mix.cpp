#include "cover/mix.h"

#include <algorithm>
#include <cmath>

#include "brush/rows.h"
#include "cover/blend.h"
#include "cover/paint.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "level/hold_outside.h"
#include "level/things.h"

namespace jam {

namespace {

constexpr int kBandRows = 64;

template <class F>
void eachBand(const Level& level, F f) {
    for (int z = 0; z < level.coverRows(); z += kBandRows)
        f(Region{0, z, level.coverColumns(), std::min(z + kBandRows, level.coverRows())});
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
            // Of what those above let through, so that it is moved where they let through nothing, too.
            double open = 1;
            for (const int i : stack) {
                if (i > high) continue;
                const double c = i == stack.back() ? 1 : rasters[static_cast<size_t>(i)].at(x, z) / 65535.0;
                mix[static_cast<size_t>(i)] = open * c;
                open -= open * c;
            }
            double& taken = mix[static_cast<size_t>(from)];
            if (taken <= 0) continue;
            const double moved = std::min(taken, std::max(taken * share, 1.5 / 65535));
            mix[static_cast<size_t>(to)] += moved;
            taken = share >= 1 ? 0 : taken - moved;
            open = 1;
            for (const int i : stack) {
                if (i > high) continue;
                if (i < low || i == stack.back()) break;
                const double m = mix[static_cast<size_t>(i)];
                if (open > 1e-6)
                    rasters[static_cast<size_t>(i)].at(
                        x, z) = static_cast<uint16_t>(std::lround(std::clamp(m / open, 0.0, 1.0) * 65535));
                open -= m;
            }
        }
    for (const int i : stack)
        if (i >= low && i <= high && i != stack.back())
            level.layers[static_cast<size_t>(i)].coverage.write(region, rasters[static_cast<size_t>(i)].view());
}

// What was moved under living rules, so that the mix stays as it is, is the hand's from then on.
void holdWhatChanged(Layer& layer, const TiledGrid<uint16_t>& before) {
    std::vector<Region> tiles;
    layer.coverage.eachChangedTile(before, [&](int tx, int tz) { tiles.push_back(layer.coverage.tileRegion(tx, tz)); });
    for (const Region& t : tiles)
        for (int z = t.z0; z < t.z1; ++z)
            for (int x = t.x0; x < t.x1; ++x)
                if (layer.coverage.at(x, z) != before.at(x, z)) layer.held.set(x, z, kFullCover);
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
                cover.at(x, 0) = left == below[k] ? uint16_t{0}
                                                  : coverageFor(open[k], static_cast<uint16_t>(left * 257));
            }
            rowKernels().weigh(&cover.at(0, 0), n, open.data(), below.data(), shown.data());
            level.layers[i].coverage.write({region.x0, region.z0 + z, region.x1, region.z0 + z + 1}, cover.view());
        }
    }
}

Region replaceUnder(Level& level, const Dab& dab, float share, uint32_t from, uint32_t to) {
    const int a = level.layerIndex(from), b = level.layerIndex(to);
    assert(a >= 0 && b >= 0 && a != b);
    if (dab.region.empty() || level.layers[static_cast<size_t>(a)].locked ||
        level.layers[static_cast<size_t>(b)].locked)
        return {};
    const DabRows rows(dab);
    Raster<float> mask(dab.region.width(), dab.region.depth(), 0.f);
    for (int z = dab.region.z0; z < dab.region.z1; ++z) {
        const Region span = dabSpan(dab, dab.region, z);
        if (!span.empty())
            rows.mask(span.x0, z, span.width(), share, &mask.at(span.x0 - dab.region.x0, z - dab.region.z0));
    }
    transfer(level, dab.region, a, b, [&](int x, int z) { return mask.at(x - dab.region.x0, z - dab.region.z0); });
    return dab.region;
}

Status replaceLayer(Level& level, uint32_t from, uint32_t to) {
    const int a = level.layerIndex(from), b = level.layerIndex(to);
    if (a < 0 || b < 0) return goneError(ThingKind::layer);
    if (a == b) return Error{"", "layer", "it would take its own place", "choose another"};
    for (const int i : {a, b})
        if (const Layer& l = level.layers[static_cast<size_t>(i)]; l.locked)
            return Error{"", "", "“" + l.name + "” is protected", "let it go in the sheet to change it"};
    for (const uint32_t id : {from, to}) restRules(level, id);
    const Level before = level;
    eachBand(level, [&](const Region& band) { transfer(level, band, a, b, [](int, int) { return 1.0; }); });
    for (Layer& l : level.layers)
        if (l.alive) holdWhatChanged(l, before.layer(l.id)->coverage);
    return {};
}

Status mergeDown(Level& level, uint32_t layer) {
    const int index = level.layerIndex(layer);
    if (index < 0) return goneError(ThingKind::layer);
    const std::string& name = level.layers[static_cast<size_t>(index)].name;
    if (index == 0) return Error{"", "", "“" + name + "” is the lowest layer", "move it over another one first"};
    if (const Status s = replaceLayer(level, layer, level.layers[static_cast<size_t>(index) - 1].id); !s) return s;
    return removeLayer(level, layer);
}

Status fillLayer(Level& level, uint32_t layer, float target, const PaintWhere& where, const Context& context) {
    if (!level.layer(layer)) return goneError(ThingKind::layer);
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
    if (cancelled) {
        level = origin;
        return cancelledError();
    }
    holdOutside(origin, level);
    return {};
}

}  // namespace jam
