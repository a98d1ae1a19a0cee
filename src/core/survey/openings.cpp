#include "survey/openings.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
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
    Raster<uint8_t> cells(level.columns - 1, level.rows - 1);
    Raster<float> h(level.columns, 2);
    const double most = std::tan(walkable * kRadians) * level.spacing;
    for (int r = 0; r < cells.depth() && !context.cancelled(); ++r) {
        readGround(level, {0, r, level.columns, r + 2}, h.view());
        for (int c = 0; c < cells.width(); ++c) {
            const bool gaps = mayHaveGaps(level, {c, r, c + 2, r + 2});
            const auto mean = [&](const Gaps& g) {
                return (g.at(c, r) + g.at(c + 1, r) + g.at(c, r + 1) + g.at(c + 1, r + 1)) / 4.f;
            };
            if (gaps && mean(level.noLand) >= kGapEdge) {
                cells.at(c, r) = kNone;
            } else if (gaps && mean(level.opening) >= kGapEdge) {
                cells.at(c, r) = kOpen;
            } else {
                const double nw = h.at(c, 0), ne = h.at(c + 1, 0), sw = h.at(c, 1), se = h.at(c + 1, 1);
                const bool walks = std::hypot(ne - nw, se - ne) <= most && std::hypot(se - sw, sw - nw) <= most;
                cells.at(c, r) = walks ? kWalkable : kSteep;
            }
        }
    }
    return cells;
}

// Marks all cells that are connected to the first by their sides and of its kind: f(place) for each. Only the front of
// the flood is remembered, because the ground of a large level has millions of cells.
template <class F>
void flood(const Raster<uint8_t>& cells, Raster<uint8_t>& seen, Place first, F f) {
    std::vector<Place> front{first};
    seen.at(first.c, first.r) = 1;
    while (!front.empty()) {
        const Place at = front.back();
        front.pop_back();
        f(at);
        for (const Place& s : kBeside) {
            const Place n{at.c + s.c, at.r + s.r};
            if (n.c < 0 || n.r < 0 || n.c >= cells.width() || n.r >= cells.depth() || seen.at(n.c, n.r) ||
                cells.at(n.c, n.r) != cells.at(first.c, first.r))
                continue;
            seen.at(n.c, n.r) = 1;
            front.push_back(n);
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
