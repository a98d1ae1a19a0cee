#include "survey/check.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "base/text.h"
#include "cover/weights.h"
#include "dress/kinds.h"
#include "level/ground.h"
#include "level/rasters.h"
#include "walk/spots.h"
#include "water/water.h"

namespace jam {

namespace {

std::string place(const Level& level, int c, int r) {
    return "column " + std::to_string(c) + ", row " + std::to_string(r) + " (x " +
           number(level.originX + c * level.spacing) + " m, z " + number(level.originZ + r * level.spacing) + " m)";
}

// True when nothing in the header would make looking at the samples unsafe.
bool checkShape(const Level& level, std::vector<std::string>& wrong) {
    const size_t sofar = wrong.size();
    if (level.columns < kMinSamples || level.columns > kMaxSamples || level.rows < kMinSamples ||
        level.rows > kMaxSamples)
        wrong.push_back("The level has " + std::to_string(level.columns) + " x " + std::to_string(level.rows) +
                        " samples.");
    if (level.strata.empty()) wrong.push_back("There is no stratum.");
    if (level.layers.empty()) wrong.push_back("There is no layer.");
    if (level.layers.size() > kMaxLayers) wrong.push_back("There are more than 16 layers.");
    std::set<uint32_t> strata, layers;
    for (const Stratum& s : level.strata) {
        if (!strata.insert(s.id).second || s.id >= level.nextId)
            wrong.push_back("Stratum \"" + s.name + "\" has a bad id.");
        if (!(s.opacity >= 0 && s.opacity <= (s.mixes() ? 1 : kMaxOpacity)))
            wrong.push_back("Stratum \"" + s.name + "\" has a bad opacity.");
    }
    if (level.strata.size() > kMaxStrata)
        wrong.push_back("There are more than " + std::to_string(kMaxStrata) + " strata.");
    const Stratum* active = level.stratum(level.activeStratum);
    if (!active) wrong.push_back("The active stratum does not exist.");
    else if (active->mixes()) wrong.push_back("The active stratum is a course or a border.");
    for (const Layer& l : level.layers) {
        if (!layers.insert(l.id).second || l.id >= level.nextId)
            wrong.push_back("Layer \"" + l.name + "\" has a bad id.");
        if (!l.colour) wrong.push_back("Layer \"" + l.name + "\" has no colour picture.");
        if (!(l.tileSize >= kMinTile && l.tileSize <= kMaxTile))
            wrong.push_back("Layer \"" + l.name + "\" has a bad tile size.");
        if (l.rules.size() > kMaxRules) wrong.push_back("Layer \"" + l.name + "\" has too many rules.");
    }
    std::set<uint32_t> waters;
    const auto checkWater = [&](const auto& w, const Status& fine) {
        if (!waters.insert(w.id).second || w.id >= level.nextId)
            wrong.push_back("Water \"" + w.name + "\" has a bad id.");
        if (!fine) wrong.push_back("Water \"" + w.name + "\": " + fine.error().sentence());
    };
    for (const Pool& p : level.pools) checkWater(p, checkPool(level, p, p.id));
    for (const Stream& s : level.streams) {
        // A course that was deleted or reversed since leaves its stream dry, which is no fault of the level.
        const Stratum* bed = level.stratum(s.course);
        checkWater(s, bed ? Status{} : Error{"", "course", "it is gone", "delete the stream"});
    }
    std::set<uint32_t> spots;
    for (const Spot& s : level.spots) {
        if (!spots.insert(s.id).second || s.id >= level.nextId)
            wrong.push_back("Spot \"" + s.name + "\" has a bad id.");
        if (const Status fine = checkKeptSpot(level, s, s.id); !fine)
            wrong.push_back("Spot \"" + s.name + "\": " + fine.error().sentence());
    }
    for (const Kind& k : level.kinds) {
        if (!layers.insert(k.id).second || k.id >= level.nextId)
            wrong.push_back("Kind \"" + k.name + "\" has a bad id.");
        if (const Status fine = checkKind(level, k, k.id); !fine)
            wrong.push_back("Kind \"" + k.name + "\": " + fine.error().sentence());
        if (!std::is_sorted(k.gone.begin(), k.gone.end()))
            wrong.push_back("Kind \"" + k.name + "\" has marks that are out of order.");
    }
    uint32_t before = 0;
    for (const Single& s : level.singles) {
        if (s.id <= before || s.id >= level.nextId) wrong.push_back("A single has a bad id.");
        before = s.id;
        if (const Status fine = checkSingle(level, s); !fine) wrong.push_back("A single: " + fine.error().sentence());
    }
    std::set<uint32_t> fences;
    for (const KeptFence& f : level.fences)
        if (!fences.insert(f.id).second || f.id >= level.nextId)
            wrong.push_back("Fence \"" + f.name + "\" has a bad id.");
    for (const BlendPair& p : level.pairs)
        if (!layers.contains(p.one) || !layers.contains(p.other) || p.one >= p.other)
            wrong.push_back("A blend is set for layers that do not exist.");
    eachRaster(level, [&](const auto& kind, const auto& owner, uint32_t, const auto& grid) {
        const bool there = !kind.there || kind.there(owner);
        if (grid.columns() == (there ? columnsOf(level, kind.resolution) : 0) &&
            grid.rows() == (there ? rowsOf(level, kind.resolution) : 0))
            return;
        wrong.push_back(std::string("The raster \"") + kind.name + "\" of \"" + owner.name +
                        (there ? "\" is not the size of the level." : "\" should not be there."));
    });
    return wrong.size() == sofar;
}

void checkHeights(const Level& level, std::vector<std::string>& wrong) {
    Raster<float> row(level.columns, 1);
    // Sums of strata round; the range may be left by that much.
    const float slack = 1e-4f * (1 + std::max(std::abs(level.lowest), std::abs(level.highest)));
    for (int r = 0; r < level.rows; ++r) {
        readGround(level, {0, r, level.columns, r + 1}, row.view());
        for (int c = 0; c < level.columns; ++c) {
            const float h = row.at(c, 0);
            if (std::isfinite(h) && h >= level.lowest - slack && h <= level.highest + slack) continue;
            wrong.push_back("The altitude at " + place(level, c, r) + " is " + number(h) + " m, outside " +
                            number(level.lowest) + " to " + number(level.highest) + " m.");
            return;  // one example is enough to act on
        }
    }
}

void checkWeights(const Level& level, std::vector<std::string>& wrong) {
    std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(level.coverColumns(), 1));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    for (int r = 0; r < level.coverRows(); ++r) {
        readWeights(level, {0, r, level.coverColumns(), r + 1}, planes);
        for (int c = 0; c < level.coverColumns(); ++c) {
            int sum = 0;
            for (const auto& p : planes) sum += p.at(c, 0);
            if (sum == 255) continue;
            wrong.push_back("The weights at cover column " + std::to_string(c) + ", row " + std::to_string(r) +
                            " sum to " + std::to_string(sum) + ", not 255.");
            return;
        }
    }
}

}  // namespace

std::vector<std::string> checkLevel(const Level& level, const Context& context) {
    std::vector<std::string> wrong;
    if (!checkShape(level, wrong)) return wrong;
    context.report(0.1);
    checkHeights(level, wrong);
    context.report(0.5);
    if (!context.cancelled()) checkWeights(level, wrong);
    return wrong;
}

}  // namespace jam
