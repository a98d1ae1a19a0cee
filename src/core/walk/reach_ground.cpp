// What of the ground a body can stand on, and how that hangs together.
#include "walk/reach_ground.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "base/maths.h"
#include "base/parallel.h"
#include "level/ground.h"
#include "level/opening.h"
#include "walk/reach_solids.h"

namespace jam {

namespace {

constexpr int kBand = 32;

enum Sample : uint8_t { kGround, kDeep, kNothing };

// One row of the level's samples: the ground, and how a body finds it.
struct Row {
    explicit Row(int columns)
        : ground(columns, 1), height(columns, 1), sample(static_cast<size_t>(columns)),
          slow(static_cast<size_t>(columns)) {}
    Raster<float> ground, height;  // metres; `height` of where the body stands or swims
    std::vector<uint8_t> sample;   // Sample
    std::vector<uint8_t> slow;     // ReachGround::deep
};

void readRow(const Level& level, const Body& body, int row, bool gaps, bool water, Row& to) {
    const Region all{0, row, level.columns, row + 1};
    readGround(level, all, to.ground.view());
    std::copy_n(to.ground.view().data, level.columns, to.height.view().data);
    std::fill(to.sample.begin(), to.sample.end(), kGround);
    for (int c = 0; water && c < level.columns; ++c) {
        const auto at = static_cast<size_t>(c);
        to.slow[at] = 0;
        const Wet w = level.water.at(c, row);
        const float ground = to.ground.at(c, 0);
        if (!w.wet() || w.surface <= ground) continue;
        const float depth = w.surface - ground;
        to.slow[at] = static_cast<uint8_t>(std::min(255.f, 255 * depth / std::max(body.wade, 0.1f)));
        if (depth <= body.wade) continue;
        if (!body.swims) to.sample[at] = kNothing;
        else to.height.at(c, 0) = w.surface - body.wade, to.sample[at] = kDeep;
    }
    if (gaps && mayHaveGaps(level, all))
        for (int c = 0; c < level.columns; ++c)
            if (gapSample(level, c, row) > kGapEdge) to.sample[static_cast<size_t>(c)] = kNothing;
}

// The triangles between two rows of ground that are no steeper than the square of a rise says.
void cellsBetween(const float* above, const float* now, int columns, float steep, uint8_t* cells) {
    for (int c = 0; c + 1 < columns; ++c) {
        const float nw = above[c], ne = above[c + 1], sw = now[c], se = now[c + 1];
        const float e1 = ne - nw, s1 = se - ne, e2 = se - sw, s2 = sw - nw;
        cells[c] = static_cast<uint8_t>((e1 * e1 + s1 * s1 <= steep) | (e2 * e2 + s2 * s2 <= steep) << 1);
    }
}

// Takes triangles away that lack a corner, and adds those over which it swims.
void cellsWithout(const uint8_t* above, const uint8_t* now, int columns, uint8_t* cells) {
    const auto stands = [](uint8_t a, uint8_t b, uint8_t c, bool even) {
        const bool gone = a == kNothing || b == kNothing || c == kNothing;
        return !gone && (even || (a == kDeep && b == kDeep && c == kDeep));
    };
    for (int c = 0; c + 1 < columns; ++c) {
        const uint8_t nw = above[c], ne = above[c + 1], sw = now[c], se = now[c + 1];
        if (!(nw | ne | sw | se)) continue;
        cells[c] = static_cast<uint8_t>(stands(nw, ne, se, cells[c] & 1) | stands(nw, sw, se, cells[c] & 2) << 1);
    }
}

// Rows of the level that lie near each other, each read once.
class LevelRows {
public:
    LevelRows(const Level& level, const Body& body, int atOnce)
        : level_(level), body_(body), gaps_(hasGaps(level)), water_(level.water.presentTiles() > 0),
          rows_(static_cast<size_t>(atOnce), Row(level.columns)) {}

    // Reads all up to this one that were not read, from `first` on.
    void read(int first, int last) {
        for (next_ = std::max(next_, first); next_ <= last; ++next_)
            readRow(level_, body_, next_, gaps_, water_, rows_[static_cast<size_t>(next_) % rows_.size()]);
    }
    const Row& at(int row) const { return rows_[static_cast<size_t>(row) % rows_.size()]; }
    // The triangles between a row and the next that can be stood on.
    void cells(int row, float steep, uint8_t* to) const {
        cellsBetween(at(row).ground.view().data, at(row + 1).ground.view().data, level_.columns, steep, to);
        if (gaps_ || water_) cellsWithout(at(row).sample.data(), at(row + 1).sample.data(), level_.columns, to);
    }

private:
    const Level& level_;
    const Body& body_;
    const bool gaps_, water_;
    std::vector<Row> rows_;
    int next_ = 0;
};

// A row of the level's cells, into those of `stride` x `stride`, of which a triangle can be stood on when all within it
// can. Both sizes are cut from north-west to south-east.
void foldCells(const uint8_t* cells, int columns, int row, int stride, uint8_t* to) {
    const int dz = row % stride;
    for (int c = 0; c + 1 < columns; ++c) {
        const int dx = c % stride;
        const uint8_t both = cells[c] == 3 ? 3 : 0;
        to[c / stride] &= dx == dz ? cells[c] : static_cast<uint8_t>(both | (dx > dz ? 2 : 1));
    }
}

// The highest within less than `stride` samples of every sample that stands for others, by rows `first` to `last`.
void foldTops(const LevelRows& rows, int first, int last, int columns, int stride, int n, float* tops) {
    for (int row = first; row <= last; ++row) {
        const auto height = rows.at(row).height.view();
        for (int c = 0; c < n; ++c) {
            const int middle = std::min(c * stride, columns - 1);
            for (int x = std::max(middle - stride + 1, 0); x <= std::min(middle + stride - 1, columns - 1); ++x)
                tops[c] = std::max(tops[c], height.at(x, 0));
        }
    }
}

}  // namespace

bool makeReachGround(const Level& level, const Body& body, int mostSamples, const Context& context, ReachGround& g) {
    const int most = std::max(level.columns, level.rows);
    g.body = body;
    g.stride = (most - 1 + mostSamples - 2) / (mostSamples - 1);
    const int s = g.stride;
    g.levelColumns = level.columns, g.levelRows = level.rows;
    g.columns = (level.columns - 1 + s - 1) / s + 1;
    g.rows = (level.rows - 1 + s - 1) / s + 1;
    g.spacing = level.spacing * s;
    g.originX = level.originX, g.originZ = level.originZ;
    g.heights = Raster<float>(g.columns, g.rows);
    if (s > 1) g.tops = Raster<float>(g.columns, g.rows, -1e30f);
    g.kinds = Raster<uint8_t>(g.columns, g.rows, ReachGround::kNone);
    g.cells = Raster<uint8_t>(g.columns - 1, g.rows - 1, 3);
    const bool water = level.water.presentTiles() > 0;
    if (water) g.deep.assign(static_cast<size_t>(g.columns) * static_cast<size_t>(g.rows), 0);
    const float steep = static_cast<float>(std::pow(std::tan(body.slope * kRadians) * level.spacing, 2));
    parallelFor((g.rows + kBand - 1) / kBand, 1, [&](int first, int end) {
        std::vector<uint8_t> cells(static_cast<size_t>(level.columns));
        for (int band = first; band < end && !context.cancelled(); ++band) {
            LevelRows rows(level, body, 2 * s);
            for (int r = band * kBand; r < std::min((band + 1) * kBand, g.rows); ++r) {
                const int row = g.sampleRow(r), from = std::max(row - s + 1, 0), to = std::min(row + s, level.rows - 1);
                rows.read(from, to);
                const Row& own = rows.at(row);
                for (int c = 0; c < g.columns; ++c) {
                    const int x = g.sampleColumn(c);
                    const auto at = static_cast<size_t>(x);
                    g.heights.at(c, r) = own.height.at(x, 0);
                    g.kinds.at(c, r) = own.sample[at] == kNothing ? ReachGround::kNone : ReachGround::kSteep;
                    if (water) g.deep[g.at(c, r)] = own.slow[at];
                }
                if (s > 1)
                    foldTops(rows, from, std::min(row + s - 1, level.rows - 1), level.columns, s, g.columns,
                             &g.tops.at(0, r));
                for (int z = row; z < to; ++z) {
                    if (s == 1) rows.cells(z, steep, &g.cells.at(0, r));
                    else
                        rows.cells(z, steep, cells.data()),
                            foldCells(cells.data(), level.columns, z, s, &g.cells.at(0, r));
                }
            }
        }
    });
    return !context.cancelled() && putSolids(level, body, context, g);
}

namespace {

uint32_t rootOf(std::vector<uint32_t>& parent, uint32_t i) {
    while (parent[i] != i) i = parent[i] = parent[parent[i]];
    return i;
}

// Samples of a row as bits, 64 to a word.
using Bits = std::vector<uint64_t>;

// The lowest bits of eight bytes, in their order.
uint64_t lowBits(uint64_t bytes) { return (bytes & 0x0101010101010101) * 0x0102040810204080 >> 56; }

// The two triangles of each cell of a row.
void readCells(const uint8_t* cells, int n, Bits& upper, Bits& lower) {
    std::fill(upper.begin(), upper.end(), 0);
    std::fill(lower.begin(), lower.end(), 0);
    int c = 0;
    for (; c + 8 <= n; c += 8) {
        uint64_t eight;
        std::memcpy(&eight, cells + c, 8);
        if constexpr (std::endian::native == std::endian::big) eight = __builtin_bswap64(eight);
        upper[static_cast<size_t>(c) / 64] |= lowBits(eight) << c % 64;
        lower[static_cast<size_t>(c) / 64] |= lowBits(eight >> 1) << c % 64;
    }
    for (; c < n; ++c) {
        upper[static_cast<size_t>(c) / 64] |= uint64_t{cells[c] & 1u} << c % 64;
        lower[static_cast<size_t>(c) / 64] |= uint64_t{(cells[c] >> 1) & 1u} << c % 64;
    }
}

// Fills [from, to) and up to seven more, which are filled again by what comes after: most runs take one turn of the
// loop.
void fillOver(uint32_t* from, const uint32_t* to, uint32_t value) {
    do {
        for (int i = 0; i < 8; ++i) from[i] = value;
        from += 8;
    } while (from < to);
}

}  // namespace

// Row by row as bits: a run of samples is one entry of the union, and runs of two rows are joined once for each stretch
// in which they lie by each other.
uint32_t connectedGround(const Raster<uint8_t>& cells, Raster<uint32_t>& pieces) {
    const int columns = cells.width() + 1, rows = cells.depth() + 1;
    pieces.reshape(columns, rows);
    const size_t words = static_cast<size_t>(columns + 63) / 64;
    std::vector<uint32_t> parent;
    struct Run {
        int32_t from, to;  // in all samples, row by row
    };
    std::vector<Run> all;
    Bits upperAbove(words), lowerAbove(words), upper(words), lower(words), beside(words), besideAbove(words),
        firm(words), joins(words);
    // The run of each sample of this row and the one above; unspecified where there is none.
    std::vector<uint32_t> now(words * 64 + 8), above(words * 64 + 8);
    for (int r = 0; r < rows; ++r) {
        if (r + 1 < rows) readCells(&cells.at(0, r), cells.width(), upper, lower);
        else std::fill(upper.begin(), upper.end(), 0), std::fill(lower.begin(), lower.end(), 0);
        uint64_t carryBeside = 0, carryUp = 0, carryDown = 0, carryJoined = 0;
        for (size_t w = 0; w < words; ++w) {
            // Sides to the sample before: under a triangle above, over one below. Sides to the samples above and below.
            const uint64_t side = upper[w] | lowerAbove[w];
            beside[w] = side << 1 | carryBeside;
            carryBeside = side >> 63;
            const uint64_t up = upperAbove[w] << 1 | carryUp | lowerAbove[w];
            carryUp = upperAbove[w] >> 63;
            const uint64_t down = upper[w] << 1 | carryDown | lower[w];
            carryDown = upper[w] >> 63;
            firm[w] = side | beside[w] | up | down;
            // Joined to the run above, but where the sample before was joined to the same one.
            joins[w] = up & ~((up << 1 | carryJoined) & beside[w] & besideAbove[w]);
            carryJoined = up >> 63;
        }
        const auto row = static_cast<int32_t>(r) * columns;
        for (size_t w = 0; w < words; ++w)
            for (uint64_t s = firm[w] & ~beside[w]; s; s &= s - 1) {
                // From where a run begins to the first sample that is not joined to the one before.
                const int c = static_cast<int>(w * 64) + std::countr_zero(s);
                int end = c + 1;
                for (size_t at = static_cast<size_t>(end) / 64; at < words; end = static_cast<int>(++at * 64)) {
                    const uint64_t gone = ~beside[at] >> end % 64;
                    if (gone == 0) continue;
                    end += std::countr_zero(gone);
                    break;
                }
                end = std::min(end, columns);
                const auto run = static_cast<uint32_t>(parent.size());
                parent.push_back(run);
                all.push_back({row + c, row + end});
                fillOver(&now[static_cast<size_t>(c)], &now[static_cast<size_t>(end)], run);
            }
        for (size_t w = 0; w < words; ++w)
            for (uint64_t j = joins[w]; j; j &= j - 1) {
                const size_t c = w * 64 + static_cast<size_t>(std::countr_zero(j));
                const uint32_t a = rootOf(parent, now[c]), b = rootOf(parent, above[c]);
                if (a != b) parent[std::max(a, b)] = std::min(a, b);
            }
        std::swap(now, above), std::swap(beside, besideAbove);
        std::swap(upperAbove, upper), std::swap(lowerAbove, lower);
    }
    // Pieces are counted in the order of their first samples.
    uint32_t count = 0;
    std::vector<uint32_t> name(parent.size());
    for (uint32_t i = 0; i < parent.size(); ++i) name[i] = parent[i] == i ? count++ : name[rootOf(parent, i)];
    uint32_t *const out = &pieces.at(0, 0), *const last = out + static_cast<ptrdiff_t>(columns) * rows;
    uint32_t* done = out;
    const auto fill = [&](uint32_t* to, uint32_t value) {
        if (to + 8 <= last) fillOver(done, to, value);
        else std::fill(done, to, value);
        done = to;
    };
    for (size_t i = 0; i < all.size(); ++i) {
        fill(out + all[i].from, ReachGround::kNoNode);
        fill(out + all[i].to, name[i]);
    }
    fill(last, ReachGround::kNoNode);
    return count;
}

}  // namespace jam
