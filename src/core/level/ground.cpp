#include "level/ground.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {
constexpr int kTile = TiledGrid<float>::kTile;

float share(const Stratum& s) { return s.visible ? s.opacity : 0; }
}  // namespace

void readGround(const Level& level, const Region& region, View<float> out) {
    // The first stratum that counts is written, the others are added.
    bool first = true;
    for (const Stratum& s : level.strata) {
        const float opacity = share(s), start = level.startHeight;
        if (opacity == 0) continue;
        s.heights.eachPart(region, [&](int tx, int tz, const Region& part) {
            const float* tile = s.heights.tile(tx, tz);
            if (first) {
                for (int z = part.z0; z < part.z1; ++z) {
                    float* to = out.row(z - region.z0) + (part.x0 - region.x0);
                    const int n = part.width();
                    if (!tile) {
                        std::fill_n(to, n, start);
                        continue;
                    }
                    const float* from = tile + (z % kTile) * kTile + part.x0 % kTile;
                    for (int i = 0; i < n; ++i) to[i] = start + opacity * from[i];
                }
                return;
            }
            if (!tile) return;
            for (int z = part.z0; z < part.z1; ++z) {
                const float* from = tile + (z % kTile) * kTile + part.x0 % kTile;
                float* to = out.row(z - region.z0) + (part.x0 - region.x0);
                for (int i = 0, n = part.width(); i < n; ++i) to[i] += opacity * from[i];
            }
        });
        first = false;
    }
    if (first)
        for (int z = 0; z < region.depth(); ++z) std::fill_n(out.row(z), region.width(), level.startHeight);
}

void readGroundBeyond(const Level& level, const Region& region, View<float> out) {
    const Region inner = region.clipped(level.bounds());
    if (inner == region) return readGround(level, region, out);
    if (inner.empty()) {
        for (int z = region.z0; z < region.z1; ++z)
            for (int x = region.x0; x < region.x1; ++x)
                out.at(x - region.x0, z - region.z0) = groundSample(level, std::clamp(x, 0, level.columns - 1),
                                                                    std::clamp(z, 0, level.rows - 1));
        return;
    }
    const int left = inner.x0 - region.x0, top = inner.z0 - region.z0;
    readGround(level, inner, out.part(left, top, inner.width(), inner.depth()));
    for (int z = top; z < top + inner.depth(); ++z) {
        float* row = out.row(z);
        std::fill_n(row, left, row[left]);
        std::fill(row + left + inner.width(), row + region.width(), row[left + inner.width() - 1]);
    }
    for (int z = 0; z < top; ++z) std::copy_n(out.row(top), region.width(), out.row(z));
    for (int z = top + inner.depth(); z < region.depth(); ++z)
        std::copy_n(out.row(top + inner.depth() - 1), region.width(), out.row(z));
}

float groundSample(const Level& level, int column, int row) {
    float h = level.startHeight;
    for (const Stratum& s : level.strata) h += share(s) * s.heights.at(column, row);
    return h;
}

Status checkShapeable(const Level& level) {
    const Stratum* s = level.stratum(level.activeStratum);
    if (s && share(*s) > 0) return {};
    return Error{"", "",
                 "The stratum “" + (s ? s->name : std::string()) + "” does not show, so nothing can be shaped in it",
                 "show it first"};
}

void activateShown(Level& level) {
    if (checkShapeable(level)) return;
    for (const Stratum& s : level.strata)
        if (share(s) > 0) level.activeStratum = s.id;
}

void writeGround(Level& level, const Region& region, View<const float> before, View<float> after) {
    Stratum* s = level.stratum(level.activeStratum);
    assert(s && share(*s) > 0);
    const float perMetre = 1 / s->opacity;
    s->heights.eachPart(region, [&](int tx, int tz, const Region& part) {
        const int x = part.x0 - region.x0, n = part.width();
        bool changed = false;
        for (int z = part.z0 - region.z0; z < part.z1 - region.z0; ++z) {
            float* a = after.row(z) + x;
            const float* b = before.row(z) + x;
            int differs = 0;
            for (int i = 0; i < n; ++i) {
                a[i] = std::min(std::max(a[i], level.lowest), level.highest);
                differs |= a[i] != b[i];
            }
            changed |= differs != 0;
        }
        if (!changed) return;
        float* tile = s->heights.writableTile(tx, tz);
        for (int z = part.z0; z < part.z1; ++z) {
            const float* a = after.row(z - region.z0) + x;
            const float* b = before.row(z - region.z0) + x;
            float* to = tile + (z % kTile) * kTile + part.x0 % kTile;
            for (int i = 0; i < n; ++i) to[i] += (a[i] - b[i]) * perMetre;
        }
    });
}

double altitudeAt(const Level& level, double x, double z) {
    const double cx = std::clamp(level.toColumn(x), 0.0, level.columns - 1.0);
    const double cz = std::clamp(level.toRow(z), 0.0, level.rows - 1.0);
    const int c = std::min(static_cast<int>(cx), level.columns - 2), r = std::min(static_cast<int>(cz), level.rows - 2);
    const double u = cx - c, v = cz - r;
    const double nw = groundSample(level, c, r), se = groundSample(level, c + 1, r + 1);
    if (u >= v) {
        const double ne = groundSample(level, c + 1, r);
        return nw + u * (ne - nw) + v * (se - ne);
    }
    const double sw = groundSample(level, c, r + 1);
    return nw + v * (sw - nw) + u * (se - sw);
}

}  // namespace jam
