#include "survey/openings.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/parallel.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

enum Cell : uint8_t { kSteep, kWalkable, kOpen, kNone };

struct Place {
    int c, r;
};

constexpr Place kBeside[] = {{1, 0}, {-1, 0}, {0, 1}, {0, -1}};

// What each cell is, by the mean of its corners.
Raster<uint8_t> cellsOf(const Level& level, float walkable, const Context& context) {
    constexpr int kSome = 64;  // cells at once that may have gaps, or none of which has
    Raster<uint8_t> cells(level.columns - 1, level.rows - 1);
    const double most = std::tan(walkable * kRadians) * level.spacing, most2 = most * most;
    parallelFor(cells.depth(), kSome, [&](int begin, int end) {
        Raster<float> h(level.columns, end - begin + 1);
        readGround(level, {0, begin, level.columns, end + 1}, h.view());
        const auto square = [](double a, double b) { return a * a + b * b; };
        for (int r = begin; r < end && !context.cancelled(); ++r) {
            const float *n = &h.at(0, r - begin), *s = &h.at(0, r - begin + 1);
            uint8_t* out = cells.view().row(r);
            for (int c = 0; c < cells.width(); ++c) {
                const double north = n[c + 1] - n[c], east = s[c + 1] - n[c + 1], south = s[c + 1] - s[c],
                             west = s[c] - n[c];
                out[c] = (square(north, east) <= most2) & (square(south, west) <= most2) ? kWalkable : kSteep;
            }
            for (int first = 0; first < cells.width(); first += kSome) {
                const int last = std::min(first + kSome, cells.width());
                if (!mayHaveGaps(level, {first, r, last + 1, r + 2})) continue;
                for (int c = first; c < last; ++c) {
                    const auto mean = [&](const Gaps& g) {
                        return (g.at(c, r) + g.at(c + 1, r) + g.at(c, r + 1) + g.at(c + 1, r + 1)) / 4.f;
                    };
                    if (mean(level.noLand) >= kGapEdge) out[c] = kNone;
                    else if (mean(level.opening) >= kGapEdge) out[c] = kOpen;
                }
            }
        }
    });
    return cells;
}

// Marks all cells that are connected to the first by their sides and of its kind: f(place) for each. Row by row as far
// as it goes; only the front of the flood is remembered, because the ground of a large level has millions of cells.
template <class F>
void flood(const Raster<uint8_t>& cells, Raster<uint8_t>& seen, Place first, F f) {
    const uint8_t kind = cells.at(first.c, first.r);
    const auto open = [&](int c, int r) { return cells.at(c, r) == kind && !seen.at(c, r); };
    std::vector<Place> front{first};
    while (!front.empty()) {
        const Place at = front.back();
        front.pop_back();
        if (!open(at.c, at.r)) continue;
        int west = at.c, east = at.c + 1;
        while (west > 0 && open(west - 1, at.r)) --west;
        while (east < cells.width() && open(east, at.r)) ++east;
        for (int c = west; c < east; ++c) seen.at(c, at.r) = 1, f(Place{c, at.r});
        for (const int r : {at.r - 1, at.r + 1}) {
            if (r < 0 || r >= cells.depth()) continue;
            for (int c = west; c < east; ++c)
                if (open(c, r) && (c == west || !open(c - 1, r))) front.push_back({c, r});
        }
    }
}

// f(first cell) for each piece of one kind that is not seen yet; f floods it.
template <class F>
void eachPiece(const Raster<uint8_t>& cells, uint8_t kind, const Raster<uint8_t>& seen, const Context& context, F f) {
    for (int r = 0; r < cells.depth() && !context.cancelled(); ++r)
        for (int c = 0; c < cells.width(); ++c)
            if (cells.at(c, r) == kind && !seen.at(c, r)) f(Place{c, r});
}

// 1 in the largest piece of ground that can be walked.
Raster<uint8_t> largestWalk(const Raster<uint8_t>& cells, const Context& context) {
    Raster<uint8_t> seen(cells.width(), cells.depth()), walked = seen;
    Place most{-1, -1};
    long long largest = 0;
    eachPiece(cells, kWalkable, seen, context, [&](Place first) {
        long long count = 0;
        flood(cells, seen, first, [&](Place) { ++count; });
        if (count > largest) largest = count, most = first;
    });
    if (largest > 0) flood(cells, walked, most, [](Place) {});
    return walked;
}

}  // namespace

std::vector<FoundOpening> surveyOpenings(const Level& level, float walkable, const Context& context) {
    std::vector<FoundOpening> found;
    if (level.opening.presentTiles() == 0) return found;
    const Raster<uint8_t> cells = cellsOf(level, walkable, context);
    const Raster<uint8_t> walked = largestWalk(cells, context);
    Raster<uint8_t> seen(cells.width(), cells.depth());
    eachPiece(cells, kOpen, seen, context, [&](Place first) {
        FoundOpening o;
        bool rim = false;
        long long count = 0;
        flood(cells, seen, first, [&](Place p) {
            ++count;
            for (const Place& s : kBeside) {
                const int c = p.c + s.c, r = p.r + s.r;
                if (o.reached || c < 0 || r < 0 || c >= cells.width() || r >= cells.depth()) continue;
                const uint8_t kind = cells.at(c, r);
                if (kind != kWalkable && kind != kSteep) continue;
                o.reached = walked.at(c, r) != 0;
                if (rim && !o.reached) continue;
                rim = true;
                // The edge may cross the cell; one of its corners has ground.
                int best = 0;
                for (int k = 1; k < 4; ++k)
                    if (gapSample(level, c + k % 2, r + k / 2) < gapSample(level, c + best % 2, r + best / 2)) best = k;
                o.x = level.originX + (c + best % 2) * level.spacing;
                o.z = level.originZ + (r + best / 2) * level.spacing;
            }
        });
        o.area = static_cast<double>(count) * level.spacing * level.spacing;
        if (rim) found.push_back(o);
    });
    if (context.cancelled()) return {};
    std::stable_sort(found.begin(), found.end(),
                     [](const FoundOpening& a, const FoundOpening& b) { return a.area > b.area; });
    return found;
}

}  // namespace jam
