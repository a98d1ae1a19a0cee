#include "level/ground.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "grid/ground_rows.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<float>::kTile;
static_assert(kTile == kHeightsApart);

float share(const Stratum& s) { return s.visible ? s.opacity : 0; }

// For a course whose line lies at 0 where it owns ground.
constexpr std::array<float, kTile * kTile> kNoHeights{};

// A tile of a stratum that has something to say there.
struct Sheet {
    const float* heights;
    const float* owned;  // null: it adds
    float share;
};
struct Sheets {
    std::array<Sheet, kMaxStrata> sheets;
    size_t count = 0;

    // Of the strata [first, end).
    Sheets(const Level& level, size_t first, size_t end, int tx, int tz) {
        for (size_t i = first; i < end; ++i) {
            const Stratum& s = level.strata[i];
            if (share(s) == 0) continue;
            const float *tile = s.heights.tile(tx, tz), *owned = s.mixes() ? s.owned.tile(tx, tz) : nullptr;
            if (tile || owned) sheets[count++] = {tile ? tile : kNoHeights.data(), owned, share(s)};
        }
    }
    const Sheet* begin() const { return sheets.data(); }
    const Sheet* end() const { return sheets.data() + count; }
};

void lay(const Sheet& s, int offset, const RowBlock& block) {
    if (s.owned) groundRows().own(block, s.heights + offset, s.owned + offset, s.share);
    else groundRows().add(block, s.heights + offset, s.share);
}

// Composes strata [0, end), before the level's range is kept to.
void compose(const Level& level, size_t end, const Region& region, bool kept, View<float> out) {
    constexpr int kAtOnce = 16;  // rows that stay near at hand from the lowest stratum to the topmost
    const GroundRows& rows = groundRows();
    level.strata.front().heights.eachPart(region, [&](int tx, int tz, const Region& part) {
        const Sheets sheets(level, 0, end, tx, tz);
        for (int z = part.z0; z < part.z1; z += kAtOnce) {
            const RowBlock block{out.row(z - region.z0) + (part.x0 - region.x0), out.stride, part.width(),
                                 std::min(kAtOnce, part.z1 - z)};
            const int offset = (z % kTile) * kTile + part.x0 % kTile;
            const Sheet* s = sheets.begin();
            if (sheets.count > 0 && !s->owned) {
                rows.begin(block, s->heights + offset, s->share, level.startHeight);
                ++s;
            } else {
                for (int k = 0; k < block.count; ++k)
                    std::fill_n(block.first + k * block.apart, block.n, level.startHeight);
            }
            for (; s != sheets.end(); ++s) lay(*s, offset, block);
            if (kept) rows.keep(block, level.lowest, level.highest);
        }
    });
}

// Strata may add up to more than the level's range; one stratum alone is kept inside by whatever writes it.
bool mayLeaveRange(const Level& level) { return level.strata.size() > 1 || level.strata.front().opacity > 1; }

}  // namespace

void readGround(const Level& level, const Region& region, View<float> out) {
    compose(level, level.strata.size(), region, mayLeaveRange(level), out);
}

void readGroundBelow(const Level& level, size_t stratum, const Region& region, View<float> out) {
    compose(level, stratum, region, false, out);
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
    const int tx = column / kTile, tz = row / kTile;
    for (const Sheet& s : Sheets(level, 0, level.strata.size(), tx, tz))
        lay(s, (row % kTile) * kTile + column % kTile, {&h, 1, 1, 1});
    return mayLeaveRange(level) ? std::min(std::max(h, level.lowest), level.highest) : h;
}

std::vector<float> groundParts(const Level& level, int column, int row) {
    std::vector<float> parts;
    float h = level.startHeight;
    for (size_t i = 0; i < level.strata.size(); ++i) {
        const float below = h;
        for (const Sheet& s : Sheets(level, i, i + 1, column / kTile, row / kTile))
            lay(s, (row % kTile) * kTile + column % kTile, {&h, 1, 1, 1});
        parts.push_back(h - below);
    }
    return parts;
}

float gainAbove(const Level& level, size_t stratum, int column, int row) {
    float gain = 1;
    for (const Sheet& s : Sheets(level, stratum + 1, level.strata.size(), column / kTile, row / kTile))
        if (s.owned) gain *= 1 - s.share * s.owned[(row % kTile) * kTile + column % kTile];
    return gain;
}

Status checkShapeable(const Level& level) {
    const Stratum* s = level.stratum(level.activeStratum);
    const std::string name = "The stratum “" + (s ? s->name : std::string()) + "”";
    if (!s || share(*s) == 0)
        return Error{"", "", name + " does not show, so nothing can be shaped in it", "show it first"};
    if (s->locked) return Error{"", "", name + " is protected", "let it go in the sheet, or choose another"};
    if (s->border) return Error{"", "", name + " fits the border of a neighbour", "choose a stratum to shape"};
    if (s->course)
        return Error{"", "", name + " is a course, which is shaped by its posts", "choose a stratum to shape"};
    if (share(*s) < kLeastShaped)
        return Error{"", "", name + " shows too little to be shaped in",
                     "show at least " + std::to_string(std::lround(100 * kLeastShaped)) + " % of it"};
    return {};
}

void activateShown(Level& level) {
    const uint32_t was = level.activeStratum;
    if (const Stratum* s = level.stratum(was); s && share(*s) > 0 && !s->mixes()) return;
    for (const Stratum& s : level.strata) {
        level.activeStratum = s.id;
        if (checkShapeable(level)) return;
    }
    level.activeStratum = was;
}

void writeGround(Level& level, const Region& region, View<const float> before, View<float> after) {
    const auto active = static_cast<size_t>(level.stratumIndex(level.activeStratum));
    assert(checkShapeable(level));
    const float opacity = level.strata[active].opacity;
    const bool mayLeave = mayLeaveRange(level);
    const GroundRows& rows = groundRows();
    std::array<float, kTile> gains, real;
    level.strata[active].heights.eachPart(region, [&](int tx, int tz, const Region& part) {
        const int x = part.x0 - region.x0, n = part.width();
        const Sheets above(level, active + 1, level.strata.size(), tx, tz);
        const bool mixed = std::any_of(above.begin(), above.end(), [](const Sheet& s) { return s.owned; });
        float* tile = nullptr;  // where nothing changes none is made
        for (int z = part.z0; z < part.z1; ++z) {
            float* a = after.row(z - region.z0) + x;
            const float* b = before.row(z - region.z0) + x;
            const GroundRows::Outcome outcome = rows.compare(a, b, n, level.lowest, level.highest);
            if (!outcome.differs) continue;
            if (!tile) tile = level.strata[active].heights.writableTile(tx, tz);
            const int offset = (z % kTile) * kTile + part.x0 % kTile;
            float* to = tile + offset;
            // Strata that add up to more than the range are held at its border; the hand begins from what it sees.
            const bool held = outcome.held && mayLeave;
            if (!mixed && !held) {
                rows.take(to, a, b, n, 1 / opacity);
                continue;
            }
            if (held) readGroundBelow(level, level.strata.size(), {part.x0, z, part.x1, z + 1}, {real.data(), n, 1, n});
            const float* r = held ? real.data() : b;
            gains.fill(1);
            for (const Sheet& s : above)
                if (s.owned)
                    for (int i = 0; i < n; ++i) gains[static_cast<size_t>(i)] *= 1 - s.share * s.owned[offset + i];
            for (int i = 0; i < n; ++i) {
                if (a[i] == b[i]) continue;
                // Where a course above leaves little, less and less is done, instead of piling up hidden metres.
                const float g = gains[static_cast<size_t>(i)];
                const float t = std::clamp((g - kLeastGain) / (kFreeGain - kLeastGain), 0.f, 1.f);
                if (t > 0) to[i] += (a[i] - r[i]) * t * t * (3 - 2 * t) / (g * opacity);
            }
        }
    });
}

std::array<int, 2> nearestSample(const Level& level, double x, double z) {
    return {std::clamp(static_cast<int>(std::lround(level.toColumn(x))), 0, level.columns - 1),
            std::clamp(static_cast<int>(std::lround(level.toRow(z))), 0, level.rows - 1)};
}

double altitudeAt(const Level& level, double x, double z) {
    const double cx = std::clamp(level.toColumn(x), 0.0, level.columns - 1.0);
    const double cz = std::clamp(level.toRow(z), 0.0, level.rows - 1.0);
    const int c = std::min(static_cast<int>(cx), level.columns - 2), r = std::min(static_cast<int>(cz), level.rows - 2);
    return inclineOf(cx - c, cz - r, [&](int dx, int dz) { return groundSample(level, c + dx, r + dz); }).height;
}

}  // namespace jam
