#include "dress/density.h"

#include <algorithm>
#include <cmath>

#include "cover/rules.h"

namespace jam {

namespace {

// next = f(now, mask) at every sample of a kind's raster that the dab reaches.
template <class F>
Region eachSample(Kind& kind, TiledGrid<uint16_t> Kind::*raster, const Dab& dab, float share, F f) {
    if (dab.region.empty() || kind.locked) return {};
    Raster<uint16_t> now(dab.region.width(), dab.region.depth());
    (kind.*raster).read(dab.region, now.view());
    eachDabSample(dab, share, [&](int x, int z, float mask) {
        uint16_t& d = now.at(x - dab.region.x0, z - dab.region.z0);
        if (mask > 0) d = f(d, mask);
    });
    (kind.*raster).write(dab.region, now.view());
    return dab.region;
}

constexpr TiledGrid<uint16_t> Kind::*kDensity = &Kind::coverage;

// A share of the way, and at least one step.
uint16_t towards(uint16_t from, uint16_t goal, float share) {
    const float way = static_cast<float>(goal) - static_cast<float>(from), step = way * share;
    if (way == 0) return from;
    return static_cast<uint16_t>(from + std::lround(std::copysign(std::max(std::abs(step), 0.5f), way)));
}

}  // namespace

uint16_t storedDensity(double onHundred) {
    return static_cast<uint16_t>(std::lround(std::clamp(onHundred / kDensityStep, 0.0, 65535.0)));
}

Region plantKind(Level& level, const Dab& dab, float share, uint32_t kind, uint16_t goal) {
    Kind* k = level.kind(kind);
    if (!k) return {};
    return eachSample(*k, kDensity, dab, share,
                      [goal](uint16_t d, float m) { return d < goal ? towards(d, goal, m) : d; });
}

Region thinKind(Level& level, const Dab& dab, float share, uint32_t kind) {
    Kind* k = level.kind(kind);
    if (!k) return {};
    return eachSample(*k, kDensity, dab, share, [](uint16_t d, float m) { return towards(d, 0, m); });
}

Region sizeKind(Level& level, const Dab& dab, float share, uint32_t kind, double times) {
    Kind* k = level.kind(kind);
    if (!k) return {};
    const double way = std::log2(std::clamp(times, 1 / kMostResized, kMostResized)) * kSizeStep;
    const auto goal = static_cast<uint16_t>(std::lround(kSameSize + way));
    return eachSample(*k, &Kind::sizes, dab, share, [goal](uint16_t d, float m) { return towards(d, goal, m); });
}

Region clearKinds(Level& level, const Dab& dab, uint32_t kind) {
    if (dab.region.empty()) return {};
    Raster<uint8_t> bare(dab.region.width(), dab.region.depth());
    eachDabSample(dab, 1,
                  [&](int x, int z, float mask) { bare.at(x - dab.region.x0, z - dab.region.z0) = mask > 0.5f; });
    const auto cleared = [&](const Kind& k) { return !k.locked && (kind == 0 || k.id == kind); };
    for (Kind& k : level.kinds) {
        if (!cleared(k)) continue;
        for (TiledGrid<uint16_t>* grid : {&k.coverage, &k.held}) {
            if (grid->columns() == 0) continue;
            Raster<uint16_t> now(dab.region.width(), dab.region.depth());
            grid->read(dab.region, now.view());
            for (int z = 0; z < now.depth(); ++z)
                for (int x = 0; x < now.width(); ++x)
                    if (bare.at(x, z)) now.at(x, z) = grid == &k.held ? kFullCover : 0;
            grid->write(dab.region, now.view());
        }
    }
    std::erase_if(level.singles, [&](const Single& s) {
        const Kind* k = level.kind(s.kind);
        if (k && !cleared(*k)) return false;
        const int c = static_cast<int>(std::lround((s.x - level.originX) / level.coverSpacing())),
                  r = static_cast<int>(std::lround((s.z - level.originZ) / level.coverSpacing()));
        return dab.region.contains(c, r) && bare.at(c - dab.region.x0, r - dab.region.z0);
    });
    return dab.region;
}

}  // namespace jam
