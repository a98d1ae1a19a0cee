#include "level/opening.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {

// Four corners of a cell, as they lie.
struct Corners {
    float nw, ne, sw, se;

    float mean() const { return (nw + ne + sw + se) / 4; }
};

template <class Sample>
Corners cornersOf(int c, int r, Sample sample) {
    return {static_cast<float>(sample(c, r)), static_cast<float>(sample(c + 1, r)),
            static_cast<float>(sample(c, r + 1)), static_cast<float>(sample(c + 1, r + 1))};
}

bool gone(float value) { return value >= kGapEdge; }

// Where the value passes the edge between two corners of a triangle, [0, 1] from the first.
float crossing(float a, float b) { return (kGapEdge - a) / (b - a); }

struct Corner {
    float c, r, value;
};

// The edge inside one triangle whose corners go round clockwise seen from above; ground on the left.
void edgeOfTriangle(const Corner (&t)[3], bool land, std::vector<EdgePiece>& out) {
    const bool out0 = gone(t[0].value), out1 = gone(t[1].value), out2 = gone(t[2].value);
    if (out0 == out1 && out1 == out2) return;
    // The corner that is alone on its side.
    const int alone = out0 == out1 ? 2 : out0 == out2 ? 1 : 0;
    const Corner &a = t[alone], &b = t[(alone + 1) % 3], &d = t[(alone + 2) % 3];
    const float s = crossing(a.value, b.value), e = crossing(a.value, d.value);
    EdgePiece p{a.c + (b.c - a.c) * s, a.r + (b.r - a.r) * s, a.c + (d.c - a.c) * e, a.r + (d.r - a.r) * e, land};
    // Clockwise from above, the corner that is alone lies to the right of the way from one crossing to the other.
    if (!gone(a.value)) std::swap(p.c0, p.c1), std::swap(p.r0, p.r1);
    if (p.c0 != p.c1 || p.r0 != p.r1) out.push_back(p);
}

}  // namespace

bool hasOpenings(const Level& level) { return level.opening.presentTiles() > 0 || level.hatches.presentTiles() > 0; }
bool hasGaps(const Level& level) { return hasOpenings(level) || level.noLand.presentTiles() > 0; }

Status checkGroundLeft(const Level& level) {
    if (!hasOpenings(level)) return {};
    bool land = false;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) {
            if (level.noLand.at(x, z) > kGapEdge) continue;
            if (openingSample(level, x, z) < kGapEdge) return {};
            land = true;
        }
    if (!land) return {};
    return Error{"", "opening", "it would lie over everything, and no ground would be left",
                 "make it smaller, or take the land away instead"};
}

bool mayHaveGaps(const Level& level, const Region& ground) {
    if (level.opening.columns() == 0) return false;
    const Region inside = ground.clipped(level.bounds());
    if (inside.empty()) return false;
    const Region tiles = TiledGrid<uint8_t>::tilesOf(inside);
    for (int tz = tiles.z0; tz < tiles.z1; ++tz)
        for (int tx = tiles.x0; tx < tiles.x1; ++tx)
            if (level.opening.tile(tx, tz) || level.hatches.tile(tx, tz) || level.noLand.tile(tx, tz)) return true;
    return false;
}

uint8_t openingSample(const Level& level, int column, int row) {
    if (level.opening.columns() == 0) return 0;
    return std::max(level.opening.at(column, row), level.hatches.at(column, row));
}

uint8_t gapSample(const Level& level, int column, int row) {
    if (level.opening.columns() == 0) return 0;
    return std::max(openingSample(level, column, row), level.noLand.at(column, row));
}

void readGaps(const Level& level, const Region& region, View<uint8_t> out) {
    Raster<uint8_t> other(region.width(), 1);
    for (int z = region.z0; z < region.z1; ++z) {
        const Region row{region.x0, z, region.x1, z + 1};
        uint8_t* to = out.row(z - region.z0);
        level.opening.read(row, {to, region.width(), 1, region.width()});
        for (const Gaps* gaps : {&level.hatches, &level.noLand}) {
            gaps->read(row, other.view());
            for (int x = 0; x < region.width(); ++x) to[x] = std::max(to[x], other.at(x, 0));
        }
    }
}

float gapBetween(const Level& level, double column, double row) {
    const int c = std::clamp(static_cast<int>(column), 0, level.columns - 2),
              r = std::clamp(static_cast<int>(row), 0, level.rows - 2);
    const Corners k = cornersOf(c, r, [&](int x, int z) { return gapSample(level, x, z); });
    if (!level.smoothEdges) return k.mean();
    const auto u = static_cast<float>(column - c), v = static_cast<float>(row - r);
    return u >= v ? k.nw + u * (k.ne - k.nw) + v * (k.se - k.ne) : k.nw + v * (k.sw - k.nw) + u * (k.se - k.sw);
}

bool groundAt(const Level& level, double x, double z) {
    return level.holds(x, z) && !gone(gapBetween(level, level.toColumn(x), level.toRow(z)));
}

void edgesOf(const Level& level, const Region& cells, std::vector<EdgePiece>& out) {
    const Region inside = cells.clipped({0, 0, level.columns - 1, level.rows - 1});
    if (inside.empty()) return;
    // Cells that follow their corners look at their neighbours too.
    const Region seen = inside.grown(1).clipped({0, 0, level.columns - 1, level.rows - 1});
    const Region samples{seen.x0, seen.z0, seen.x1 + 1, seen.z1 + 1};
    Raster<uint8_t> gaps(samples.width(), samples.depth()), land = gaps;
    readGaps(level, samples, gaps.view());
    level.noLand.read(samples, land.view());
    const auto at = [&](const Raster<uint8_t>& of) {
        return [&](int c, int r) { return of.at(c - samples.x0, r - samples.z0); };
    };
    const auto lost = [&](const Raster<uint8_t>& of, int c, int r) { return gone(cornersOf(c, r, at(of)).mean()); };
    for (int r = inside.z0; r < inside.z1; ++r)
        for (int c = inside.x0; c < inside.x1; ++c) {
            const Corners k = cornersOf(c, r, at(gaps));
            const auto x = static_cast<float>(c), z = static_cast<float>(r);
            if (level.smoothEdges) {
                const bool any = gone(k.nw) || gone(k.ne) || gone(k.sw) || gone(k.se);
                if (!any || (gone(k.nw) && gone(k.ne) && gone(k.sw) && gone(k.se))) continue;
                const Corners l = cornersOf(c, r, at(land));
                const bool ends = gone(l.nw) || gone(l.ne) || gone(l.sw) || gone(l.se);
                edgeOfTriangle({{x, z, k.nw}, {x + 1, z, k.ne}, {x + 1, z + 1, k.se}}, ends, out);
                edgeOfTriangle({{x, z, k.nw}, {x + 1, z + 1, k.se}, {x, z + 1, k.sw}}, ends, out);
            } else if (!gone(k.mean())) {
                // Its four sides, clockwise backwards, so that the cell is on the left.
                const struct {
                    int dc, dr;
                    float c0, r0, c1, r1;
                } sides[] = {{0, -1, x + 1, z, x, z},
                             {-1, 0, x, z, x, z + 1},
                             {0, 1, x, z + 1, x + 1, z + 1},
                             {1, 0, x + 1, z + 1, x + 1, z}};
                for (const auto& s : sides) {
                    const int nc = c + s.dc, nr = r + s.dr;
                    if (!seen.contains(nc, nr) || !lost(gaps, nc, nr)) continue;
                    out.push_back({s.c0, s.r0, s.c1, s.r1, lost(land, nc, nr)});
                }
            }
        }
}

}  // namespace jam
