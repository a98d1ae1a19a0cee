#include "match/neighbour.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/range.h"
#include "base/text.h"
#include "clip/clip.h"
#include "clip/fit_layers.h"
#include "cover/mix.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "level/strata.h"

namespace jam {

namespace {

bool acrossRows(Side side) { return side == Side::north || side == Side::south; }
std::string wordOf(Side side) { return std::string(kSideNames[static_cast<size_t>(side)]); }

// A raster seen from one of its sides: (along, in) are samples along it and inwards from it.
struct Seen {
    Side side;
    int columns, rows;

    int length() const { return acrossRows(side) ? columns : rows; }
    int depth() const { return acrossRows(side) ? rows : columns; }
    int column(int along, int in) const {
        return acrossRows(side) ? along : side == Side::west ? in : columns - 1 - in;
    }
    int row(int along, int in) const { return !acrossRows(side) ? along : side == Side::north ? in : rows - 1 - in; }
    // The samples not farther in than `depth`.
    Region strip(int depth) const {
        switch (side) {
            case Side::north: return Region{0, 0, columns, depth}.clipped({0, 0, columns, rows});
            case Side::south: return Region{0, rows - depth, columns, rows}.clipped({0, 0, columns, rows});
            case Side::west: return Region{0, 0, depth, rows}.clipped({0, 0, columns, rows});
            case Side::east: return Region{columns - depth, 0, columns, rows}.clipped({0, 0, columns, rows});
        }
        return {};
    }
};
Seen groundOf(const Level& level, Side side) { return {side, level.columns, level.rows}; }
Seen coverOf(const Level& level, Side side) { return {side, level.coverColumns(), level.coverRows()}; }

Status checkFit(const Level& level, const Level& neighbour, Side side) {
    if (std::abs(level.spacing - neighbour.spacing) > 1e-9 * level.spacing)
        return Error{"", "spacing",
                     "the neighbour has a sample every " + number(neighbour.spacing) + " m and this level every " +
                         number(level.spacing) + " m",
                     "resample one of them"};
    const int own = groundOf(level, side).length(), other = groundOf(neighbour, opposite(side)).length();
    if (own != other)
        return Error{"", "size",
                     "the neighbour has " + std::to_string(other) + " samples along that side and this level " +
                         std::to_string(own),
                     "crop or extend one of them, or choose another side"};
    return {};
}

std::vector<float> heightsAlong(const Level& level, Side side) {
    const Seen s = groundOf(level, side);
    std::vector<float> heights;
    for (int i = 0; i < s.length(); ++i) heights.push_back(groundSample(level, s.column(i, 0), s.row(i, 0)));
    return heights;
}

// The weights along a side at `factor` samples to a ground sample, between the level's own where it has fewer.
using Weights = std::array<uint8_t, kMaxLayers>;
std::vector<Weights> weightsAlong(const Level& level, Side side, int factor) {
    const Seen s = coverOf(level, side);
    std::vector<Weights> own;
    for (int i = 0; i < s.length(); ++i) own.push_back(weightsAt(level, s.column(i, 0), s.row(i, 0)));
    std::vector<Weights> out;
    const int count = (groundOf(level, side).length() - 1) * factor + 1;
    for (int i = 0; i < count; ++i) {
        // In whole numbers, so that samples that both have come through as they are.
        const int at = i * level.coverFactor / factor, rest = i * level.coverFactor % factor;
        const Weights &a = own[static_cast<size_t>(at)],
                      &b = own[static_cast<size_t>(std::min(at + 1, s.length() - 1))];
        Weights w{};
        int before = 0, sum = 0;
        for (size_t k = 0; k < kMaxLayers; ++k) {
            sum += a[k] * (factor - rest) + b[k] * rest;
            const int rounded = (sum + factor / 2) / factor;
            w[k] = static_cast<uint8_t>(rounded - before);
            before = rounded;
        }
        out.push_back(w);
    }
    return out;
}

// How much of the difference is left so far inwards: all at the border, none from `blend` on.
double left(double metres, double blend) { return blend > 0 ? 1 - smoothstep(metres / blend) : metres > 0 ? 0 : 1; }

Status fitHeights(Level& level, const Level& neighbour, const MatchWish& wish, const Context& context) {
    std::erase_if(level.strata, [&](const Stratum& s) { return s.border && s.border->side == wish.side; });
    if (level.strata.size() >= kMaxStrata)
        return Error{"", "strata", "the level has " + std::to_string(kMaxStrata) + " strata already",
                     "merge some first"};
    const std::vector<float> goal = heightsAlong(neighbour, opposite(wish.side)), own = heightsAlong(level, wish.side);
    const Seen s = groundOf(level, wish.side);
    for (size_t i = 0; i < goal.size(); ++i)
        if (goal[i] < level.lowest || goal[i] > level.highest)
            return Error{"", "heights",
                         "the neighbour's border lies at " + number(goal[i]) + " m, outside of this level's range of " +
                             number(level.lowest) + " to " + number(level.highest) + " m",
                         "move the neighbour's ground, or lay this level out with a wider range"};
    Stratum fit;
    fit.id = level.nextId++;
    fit.name = "Border " + wordOf(wish.side);
    fit.border = Border{wish.side, static_cast<float>(wish.blend), wish.file};
    fit.heights = fit.owned = TiledGrid<float>(level.columns, level.rows, 0.f);
    const int depth = std::clamp(static_cast<int>(std::ceil(wish.blend / level.spacing)) + 1, 1, s.depth());
    for (int in = 0; in < depth; ++in) {
        if (context.cancelled()) return cancelledError();
        const auto share = static_cast<float>(left(in * level.spacing, wish.blend));
        for (int i = 0; i < s.length(); ++i) {
            const int c = s.column(i, in), r = s.row(i, in);
            if (in == 0) {
                fit.heights.set(c, r, goal[static_cast<size_t>(i)]);
                fit.owned.set(c, r, 1);
                continue;
            }
            const float add = share * (goal[static_cast<size_t>(i)] - own[static_cast<size_t>(i)]);
            if (add == 0) continue;
            if (const float h = groundSample(level, c, r) + add; h < level.lowest || h > level.highest)
                return Error{"", "blend",
                             "the ground inwards of the border would come to " + number(h) +
                                 " m, outside of the range of " + number(level.lowest) + " to " +
                                 number(level.highest) + " m",
                             "blend over fewer metres, or lay this level out with a wider range"};
            fit.heights.set(c, r, add);
        }
    }
    level.strata.push_back(std::move(fit));
    return {};
}

Status fitCover(Level& level, const Level& neighbour, const MatchWish& wish, const Context& context) {
    const Side there = opposite(wish.side);
    Result<Level> lifted = liftClip(neighbour, groundOf(neighbour, there).strip(2), "border", context);
    if (!lifted) return lifted.error();
    Level strip = lifted.take();
    if (const Status s = fitLayers(level, strip); !s) return s;
    for (const Layer& l : level.layers)
        if (l.locked && !l.hidden)
            return Error{"", "layers", "“" + l.name + "” is protected, so its cover cannot be fitted",
                         "let it go in the sheet, or fit the heights alone"};
    const std::vector<Weights> goal = weightsAlong(strip, there, level.coverFactor);
    // The layers that show, without the rules of any.
    Level work = level;
    work.layers.clear();
    std::vector<size_t> from;
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (!level.layers[i].hidden) work.layers.push_back(level.layers[i]), from.push_back(i);
    if (from.empty()) return {};
    for (Layer& l : work.layers) l.alive = false;
    const Seen s = coverOf(level, wish.side);
    const int depth = std::clamp(static_cast<int>(std::ceil(wish.blend / level.coverSpacing())) + 1, 1, s.depth());
    for (int in = 0; in < depth; ++in) {
        if (context.cancelled()) return cancelledError();
        const double share = left(in * level.coverSpacing(), wish.blend);
        if (share <= 0) continue;
        const Region line = acrossRows(wish.side) ? Region{0, s.row(0, in), s.columns, s.row(0, in) + 1}
                                                  : Region{s.column(0, in), 0, s.column(0, in) + 1, s.rows};
        std::vector<Raster<uint8_t>> rows(from.size(), Raster<uint8_t>(line.width(), line.depth()));
        std::vector<View<uint8_t>> planes;
        for (auto& r : rows) planes.push_back(r.view());
        readWeights(work, line, planes);
        for (int i = 0; i < s.length(); ++i) {
            double sum = 0;
            int before = 0;
            for (size_t k = 0; k < from.size(); ++k) {
                uint8_t& w = acrossRows(wish.side) ? rows[k].at(i, 0) : rows[k].at(0, i);
                sum += share * goal[static_cast<size_t>(i)][from[k]] + (1 - share) * w;
                const int rounded = static_cast<int>(std::lround(sum));
                w = static_cast<uint8_t>(rounded - before);
                before = rounded;
            }
        }
        writeWeights(work, line, std::vector<View<const uint8_t>>(planes.begin(), planes.end()));
        for (size_t at = 0; at < from.size(); ++at)
            if (Layer& l = level.layers[from[at]]; l.alive)
                for (int i = 0; i < s.length(); ++i) {
                    const int c = s.column(i, in), r = s.row(i, in);
                    // Whatever was moved is the hand's, be it by a single step.
                    const bool moved = work.layers[at].coverage.at(c, r) != l.coverage.at(c, r);
                    const auto holds = static_cast<uint16_t>(std::lround(65535 * share));
                    if (const uint16_t held = std::max<uint16_t>(holds, moved); held > l.held.at(c, r))
                        l.held.set(c, r, held);
                }
    }
    for (size_t k = 0; k < from.size(); ++k) level.layers[from[k]].coverage = work.layers[k].coverage;
    return {};
}

}  // namespace

Side opposite(Side side) { return static_cast<Side>((static_cast<int>(side) + 2) % kLevelSides); }

Result<Level> matchBorder(const Level& level, const Level& neighbour, const MatchWish& wish, const Context& context) {
    if (!wish.heights && !wish.cover)
        return Error{"", "match", "nothing is chosen to be fitted", "choose the heights or the cover"};
    if (const Status s = checkRange("blend", wish.blend, 0, kMostBorderBlend, " m"); !s) return s.error();
    if (wish.file.size() > kMostPath)
        return Error{"", "neighbour", "its file's name is longer than " + std::to_string(kMostPath) + " bytes",
                     "move it to a folder with a shorter name"};
    if (const Status s = checkFit(level, neighbour, wish.side); !s) return s.error();
    Level next = level;
    if (wish.heights)
        if (const Status s = fitHeights(next, neighbour, wish, context); !s) return s.error();
    if (wish.cover)
        if (const Status s = fitCover(next, neighbour, wish, context); !s) return s.error();
    return next;
}

Result<BorderGap> borderGap(const Level& level, const Level& neighbour, Side side) {
    if (const Status s = checkFit(level, neighbour, side); !s) return s.error();
    BorderGap gap;
    const std::vector<float> own = heightsAlong(level, side), other = heightsAlong(neighbour, opposite(side));
    for (size_t i = 0; i < own.size(); ++i) gap.height = std::max<double>(gap.height, std::abs(own[i] - other[i]));
    // At ground samples, which both covers have.
    const std::vector<Weights> one = weightsAlong(level, side, 1), two = weightsAlong(neighbour, opposite(side), 1);
    for (size_t i = 0; i < one.size(); ++i) {
        for (size_t k = 0; k < level.layers.size(); ++k) {
            int there = 0;
            for (size_t n = 0; n < neighbour.layers.size(); ++n)
                if (neighbour.layers[n].name == level.layers[k].name) there += two[i][n];
            gap.weight = std::max(gap.weight, std::abs(one[i][k] - there));
        }
    }
    return gap;
}

}  // namespace jam
