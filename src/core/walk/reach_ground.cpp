// What of the ground a body can stand on, and how that hangs together.
#include "walk/reach_ground.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/parallel.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

constexpr int kBand = 32;

// Heights of some rows as the body stands on them, and where there is nothing to stand on.
struct Rows {
    Raster<float> ground;
    std::vector<Wet> wet;
};

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
                uint8_t* cells = &g.cells.at(0, r - 1);
                for (int c = 0; c + 1 < g.columns; ++c) {
                    const float nw = above[c], ne = above[c + 1], sw = now[c], se = now[c + 1];
                    const float e1 = ne - nw, s1 = se - ne, e2 = se - sw, s2 = sw - nw;
                    cells[c] = static_cast<uint8_t>((e1 * e1 + s1 * s1 <= steep) | (e2 * e2 + s2 * s2 <= steep) << 1);
                }
                if (!gaps && !water) continue;
                for (int c = 0; c + 1 < g.columns; ++c) {
                    const uint8_t nw = as[c], ne = as[c + 1], sw = ns[c], se = ns[c + 1];
                    if (!(nw | ne | sw | se)) continue;
                    const auto gone = [](uint8_t a, uint8_t b, uint8_t x) {
                        return a == kNothing || b == kNothing || x == kNothing;
                    };
                    const auto afloat = [](uint8_t a, uint8_t b, uint8_t x) {
                        return a == kDeep && b == kDeep && x == kDeep;
                    };
                    const bool upper = !gone(nw, ne, se) && ((cells[c] & 1) || afloat(nw, ne, se));
                    const bool lower = !gone(nw, sw, se) && ((cells[c] & 2) || afloat(nw, sw, se));
                    cells[c] = static_cast<uint8_t>(upper | lower << 1);
                }
            }
        }
    });
    return !context.cancelled();
}

namespace {

uint32_t rootOf(std::vector<uint32_t>& parent, uint32_t i) {
    while (parent[i] != i) i = parent[i] = parent[parent[i]];
    return i;
}

}  // namespace

uint32_t connectedGround(const Raster<uint8_t>& cells, Raster<uint32_t>& pieces) {
    const int columns = cells.width() + 1, rows = cells.depth() + 1;
    pieces.reshape(columns, rows);
    std::vector<uint32_t> parent;
    const std::vector<uint8_t> nothing(static_cast<size_t>(cells.width()), 0);
    for (int r = 0; r < rows; ++r) {
        const uint8_t* above = r > 0 ? &cells.at(0, r - 1) : nothing.data();
        const uint8_t* below = r + 1 < rows ? &cells.at(0, r) : nothing.data();
        uint32_t *out = &pieces.at(0, r), *up = r > 0 ? &pieces.at(0, r - 1) : nullptr;
        uint32_t run = ReachGround::kNoNode;  // of the sample before, when it is joined to this one
        uint32_t joined = ReachGround::kNoNode;
        for (int c = 0; c < columns; ++c) {
            const uint8_t nw = c > 0 ? above[c - 1] : 0, ne = c + 1 < columns ? above[c] : 0;
            const uint8_t sw = c > 0 ? below[c - 1] : 0, se = c + 1 < columns ? below[c] : 0;
            // The six triangles round a sample, and the side from it to the one above.
            const bool firm = (nw & 3) | (ne & 2) | (sw & 1) | (se & 3);
            if (!firm) {
                out[c] = run = ReachGround::kNoNode;
                continue;
            }
            // The side from the sample before: under the triangle below it, or over the one above it.
            const bool beside = (sw & 1) | (nw & 2);
            const bool upwards = (nw & 1) | (ne & 2);
            if (!beside) run = ReachGround::kNoNode, joined = ReachGround::kNoNode;
            if (upwards) {
                const uint32_t over = up[c];
                if (run == ReachGround::kNoNode) run = over;
                else if (over != joined) {
                    const uint32_t a = rootOf(parent, run), b = rootOf(parent, over);
                    if (a != b) parent[std::max(a, b)] = std::min(a, b);
                }
                joined = over;
            }
            if (run == ReachGround::kNoNode) {
                run = static_cast<uint32_t>(parent.size());
                parent.push_back(run);
            }
            out[c] = run;
        }
    }
    // Pieces are counted in the order of their first samples.
    uint32_t count = 0;
    std::vector<uint32_t> name(parent.size());
    for (uint32_t i = 0; i < parent.size(); ++i) name[i] = parent[i] == i ? count++ : name[rootOf(parent, i)];
    parallelFor(rows, 64, [&](int first, int end) {
        for (int r = first; r < end; ++r) {
            uint32_t* out = &pieces.at(0, r);
            for (int c = 0; c < columns; ++c)
                if (out[c] != ReachGround::kNoNode) out[c] = name[out[c]];
        }
    });
    return count;
}

}  // namespace jam
