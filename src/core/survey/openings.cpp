#include "survey/openings.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "base/maths.h"
#include "base/parallel.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

enum Cell : uint8_t { kSteep, kWalkable, kOpen, kNone };

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
                    const auto mean = [&](auto sample) {
                        return (sample(c, r) + sample(c + 1, r) + sample(c, r + 1) + sample(c + 1, r + 1)) / 4.f;
                    };
                    if (mean([&](int x, int z) { return level.noLand.at(x, z); }) >= kGapEdge) out[c] = kNone;
                    else if (mean([&](int x, int z) { return openingSample(level, x, z); }) >= kGapEdge) out[c] = kOpen;
                }
            }
        }
    });
    return cells;
}

// Cells of one kind next to each other in their rows, joined where they touch those of the row above.
class Pieces {
public:
    Pieces(const Raster<uint8_t>& cells, uint8_t kind) {
        for (int r = 0; r < cells.depth(); ++r) {
            firstOf_.push_back(runs_.size());
            const uint8_t *row = cells.view().row(r), *end = row + cells.width();
            size_t above = r > 0 ? firstOf_[static_cast<size_t>(r - 1)] : 0;
            const size_t lastAbove = firstOf_.back();
            for (const uint8_t* at = row; (at = std::find(at, end, kind)) != end;) {
                const uint8_t* to = std::find_if(at, end, [kind](uint8_t k) { return k != kind; });
                const auto index = static_cast<uint32_t>(runs_.size());
                runs_.push_back({static_cast<int>(at - row), static_cast<int>(to - row), r, index, to - at});
                for (; above < lastAbove && runs_[above].to <= runs_.back().from; ++above) {}
                for (size_t k = above; k < lastAbove && runs_[k].from < runs_.back().to; ++k)
                    join(static_cast<uint32_t>(k), index);
                at = to;
            }
        }
        firstOf_.push_back(runs_.size());
    }

    struct Run {
        int from, to, row;
        uint32_t parent;
        long long cells;  // of its piece, while it is the first of it
    };
    size_t runs() const { return runs_.size(); }
    const Run& run(size_t i) const { return runs_[i]; }
    // The first run of the piece that this one belongs to.
    uint32_t piece(size_t i) const {
        auto at = static_cast<uint32_t>(i);
        while (runs_[at].parent != at) at = runs_[at].parent = runs_[runs_[at].parent].parent;
        return at;
    }
    // Precondition: the cell is of this kind.
    uint32_t pieceAt(int c, int r) const {
        const auto row = static_cast<size_t>(r);
        const auto first = runs_.begin() + static_cast<ptrdiff_t>(firstOf_[row]),
                   end = runs_.begin() + static_cast<ptrdiff_t>(firstOf_[row + 1]);
        const auto next = std::upper_bound(first, end, c, [](int column, const Run& run) { return column < run.from; });
        return piece(static_cast<size_t>(next - runs_.begin()) - 1);
    }
    std::optional<uint32_t> largest() const {
        std::optional<uint32_t> most;
        for (uint32_t i = 0; i < runs_.size(); ++i)
            if (runs_[i].parent == i && (!most || runs_[i].cells > runs_[*most].cells)) most = i;
        return most;
    }

private:
    void join(uint32_t a, uint32_t b) {
        const uint32_t one = piece(a), other = piece(b), first = std::min(one, other), last = std::max(one, other);
        if (first == last) return;
        runs_[last].parent = first;
        runs_[first].cells += runs_[last].cells;
    }

    mutable std::vector<Run> runs_;  // row by row; parents are made shorter while they are looked for
    std::vector<size_t> firstOf_;    // by row
};

}  // namespace

std::vector<FoundOpening> surveyOpenings(const Level& level, float walkable, const Context& context) {
    std::vector<FoundOpening> found;
    if (!hasOpenings(level)) return found;
    const Raster<uint8_t> cells = cellsOf(level, walkable, context);
    if (context.cancelled()) return found;
    const Pieces walks(cells, kWalkable), holes(cells, kOpen);
    const std::optional<uint32_t> main = walks.largest();
    std::map<uint32_t, FoundOpening> byPiece;
    std::set<uint32_t> rimmed;
    for (size_t i = 0; i < holes.runs() && !context.cancelled(); ++i) {
        const Pieces::Run& run = holes.run(i);
        const uint32_t piece = holes.piece(i);
        FoundOpening& o = byPiece[piece];
        o.area += (run.to - run.from) * level.spacing * level.spacing;
        const auto look = [&](int c, int r) {
            if (o.reached || c < 0 || r < 0 || c >= cells.width() || r >= cells.depth()) return;
            const uint8_t kind = cells.at(c, r);
            if (kind != kWalkable && kind != kSteep) return;
            o.reached = kind == kWalkable && walks.pieceAt(c, r) == main;
            if (!rimmed.insert(piece).second && !o.reached) return;
            // The edge may cross the cell; one of its corners has ground.
            int best = 0;
            for (int k = 1; k < 4; ++k)
                if (gapSample(level, c + k % 2, r + k / 2) < gapSample(level, c + best % 2, r + best / 2)) best = k;
            o.x = level.originX + (c + best % 2) * level.spacing;
            o.z = level.originZ + (r + best / 2) * level.spacing;
        };
        look(run.from - 1, run.row), look(run.to, run.row);
        for (int c = run.from; c < run.to; ++c) look(c, run.row - 1), look(c, run.row + 1);
    }
    for (const auto& [piece, opening] : byPiece)
        if (rimmed.count(piece)) found.push_back(opening);
    if (context.cancelled()) return {};
    std::stable_sort(found.begin(), found.end(),
                     [](const FoundOpening& a, const FoundOpening& b) { return a.area > b.area; });
    return found;
}

}  // namespace jam
