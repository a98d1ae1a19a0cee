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

// One row of samples: its height for the body, and whether it is deep or nothing at all.
enum Sample : uint8_t { kGround, kDeep, kNothing };

void readRow(const Level& level, const Body& body, int row, int stride, bool gaps, bool water, Raster<float>& full,
             float* ground, float* height, uint8_t* sample, uint8_t* slow) {
    readGround(level, {0, row, level.columns, row + 1}, full.view());
    const int n = (level.columns - 1) / stride + 1;
    for (int c = 0; c < n; ++c) ground[c] = height[c] = full.at(c * stride, 0), sample[c] = kGround;
    if (slow) std::fill_n(slow, n, uint8_t{0});
    if (water)
        for (int c = 0; c < n; ++c) {
            const Wet w = level.water.at(c * stride, row);
            if (!w.wet() || w.surface <= ground[c]) continue;
            const float depth = w.surface - ground[c];
            slow[c] = static_cast<uint8_t>(std::min(255.f, 255 * depth / std::max(body.wade, 0.1f)));
            if (depth <= body.wade) continue;
            if (!body.swims) sample[c] = kNothing;
            else height[c] = w.surface - body.wade, sample[c] = kDeep;
        }
    if (gaps && mayHaveGaps(level, {0, row, level.columns, row + 1}))
        for (int c = 0; c < n; ++c)
            if (gapSample(level, c * stride, row) > kGapEdge) sample[c] = kNothing;
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

}  // namespace

bool makeReachGround(const Level& level, const Body& body, const Context& context, ReachGround& g) {
    const int most = std::max(level.columns, level.rows);
    g.body = body;
    g.stride = (most - 1 + kMostReachSamples - 2) / (kMostReachSamples - 1);
    g.columns = (level.columns - 1) / g.stride + 1;
    g.rows = (level.rows - 1) / g.stride + 1;
    g.spacing = level.spacing * g.stride;
    g.originX = level.originX, g.originZ = level.originZ;
    g.heights = Raster<float>(g.columns, g.rows);
    g.kinds = Raster<uint8_t>(g.columns, g.rows, ReachGround::kNone);
    g.cells = Raster<uint8_t>(g.columns - 1, g.rows - 1);
    const bool gaps = hasGaps(level), water = level.water.presentTiles() > 0;
    if (water) g.deep.assign(static_cast<size_t>(g.columns) * static_cast<size_t>(g.rows), 0);
    const float steep = static_cast<float>(std::pow(std::tan(body.slope * kRadians) * g.spacing, 2));
    parallelFor((g.rows - 1 + kBand - 1) / kBand, 1, [&](int first, int end) {
        const auto n = static_cast<size_t>(g.columns);
        Raster<float> full(level.columns, 1);
        std::vector<float> ground(2 * n);
        std::vector<uint8_t> sample(2 * n);
        for (int band = first; band < end && !context.cancelled(); ++band) {
            const int r0 = band * kBand, r1 = std::min(r0 + kBand, g.rows - 1);
            for (int r = r0; r <= r1; ++r) {
                // Rows turn; the last one of a band is read by the next band once more.
                float *now = &ground[static_cast<size_t>(r & 1) * n], *above = &ground[static_cast<size_t>(~r & 1) * n];
                uint8_t *ns = &sample[static_cast<size_t>(r & 1) * n], *as = &sample[static_cast<size_t>(~r & 1) * n];
                const bool own = r < r1 || r1 == g.rows - 1;
                Raster<float> spare;
                if (!own) spare = Raster<float>(g.columns, 1);
                float* h = own ? &g.heights.at(0, r) : &spare.at(0, 0);
                std::vector<uint8_t> spareSlow(own ? 0 : n);
                readRow(level, body, r * g.stride, g.stride, gaps, water, full, now, h, ns,
                        !water ? nullptr
                        : own  ? &g.deep[g.at(0, r)]
                               : spareSlow.data());
                if (own)
                    for (int c = 0; c < g.columns; ++c)
                        g.kinds.at(c, r) = ns[c] == kNothing ? ReachGround::kNone : ReachGround::kSteep;
                if (r == r0) continue;
                cellsBetween(above, now, g.columns, steep, &g.cells.at(0, r - 1));
                if (gaps || water) cellsWithout(as, ns, g.columns, &g.cells.at(0, r - 1));
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
