// Cost: one mask, shared by the painted layer and those above it that are present in the tile, in whole vectors.
#include "cover/paint.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "brush/rows.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<uint16_t>::kTile;
static_assert(kTile == kTileRow);
constexpr int kTilesPerThread = 24, kTilesOfBand = 16;

// What a stamp does to one layer.
struct Job {
    TiledGrid<uint16_t>* grid;
    void (*kernel)(uint16_t* cover, const uint16_t* mask, int maskRow, int n, int rows, uint16_t target);
    uint16_t target;
    bool onlyPresent;  // absent tiles hold zeros, which a kernel that only thins leaves alone
};

uint16_t steps(float share) { return static_cast<uint16_t>(std::lround(share * kFullCover)); }

// The part of a dab in some tiles of one row.
struct Band {
    Region part;
    std::vector<std::pair<const Job*, uint16_t*>> tiles;  // all of the first tile, then those of the next
    std::vector<size_t> firstOf;                          // by tile: where its own begin; one more at the end
};

std::vector<Band> bandsOf(const std::vector<Job>& jobs, const Region& region) {
    const Region tiles = TiledGrid<uint16_t>::tilesOf(region);
    std::vector<Band> bands;
    for (int tz = tiles.z0; tz < tiles.z1; ++tz)
        for (int west = tiles.x0; west < tiles.x1; west += kTilesOfBand) {
            const int east = std::min(west + kTilesOfBand, tiles.x1);
            Band band{Region{west * kTile, tz * kTile, east * kTile, (tz + 1) * kTile}.clipped(region), {}, {}};
            for (int tx = west; tx < east; ++tx) {
                band.firstOf.push_back(band.tiles.size());
                for (const Job& j : jobs)
                    if (!j.onlyPresent || j.grid->tile(tx, tz) || j.grid->defaultValue() != 0)
                        band.tiles.emplace_back(&j, j.grid->writableTile(tx, tz));
            }
            band.firstOf.push_back(band.tiles.size());
            if (!band.tiles.empty()) bands.push_back(std::move(band));
        }
    return bands;
}

// The dab's mask over whole tiles, 0 outside of it.
class MaskRows {
public:
    void read(const DabRows& rows, const Region& part, float share) {
        x0_ = part.x0 / kTile * kTile;
        width_ = (part.x1 - x0_ + kTile - 1) / kTile * kTile;
        row_.resize(static_cast<size_t>(width_));
        bits_.assign(static_cast<size_t>(width_) * static_cast<size_t>(part.depth()), 0);
        for (int z = part.z0; z < part.z1; ++z) {
            const Region span = rows.span(part, z);
            if (span.empty()) continue;
            rows.mask(span.x0, z, span.width(), share, row_.data());
            rowKernels().bits(bits_.data() + at(span.x0, z - part.z0), row_.data(), span.width());
        }
    }
    const uint16_t* row(int column, int z) const { return bits_.data() + at(column, z); }
    int width() const { return width_; }

private:
    size_t at(int column, int z) const {
        return static_cast<size_t>(z) * static_cast<size_t>(width_) + static_cast<size_t>(column - x0_);
    }
    int x0_ = 0, width_ = 0;
    std::vector<float> row_;
    std::vector<uint16_t> bits_;
};

void run(const std::vector<Job>& jobs, const Dab& dab, float share) {
    const std::vector<Band> bands = bandsOf(jobs, dab.region);
    const DabRows rows(dab);
    const int across = std::min(TiledGrid<uint16_t>::tilesOf(dab.region).width(), kTilesOfBand);
    parallelFor(static_cast<int>(bands.size()), std::max(kTilesPerThread / across, 1), [&](int first, int end) {
        MaskRows mask;
        for (int i = first; i < end; ++i) {
            const Band& band = bands[static_cast<size_t>(i)];
            mask.read(rows, band.part, share);
            for (int k = 0; k + 1 < static_cast<int>(band.firstOf.size()); ++k) {
                // Whole vectors: the mask is 0 beside the dab.
                const int west = (band.part.x0 / kTile + k) * kTile;
                const int from = std::max(band.part.x0 - west, 0) / kLanes * kLanes,
                          to = std::min((band.part.x1 - west + kLanes - 1) / kLanes * kLanes, kTile);
                const auto tile = static_cast<size_t>(k);
                for (size_t n = band.firstOf[tile]; n < band.firstOf[tile + 1]; ++n) {
                    const auto& [job, samples] = band.tiles[n];
                    job->kernel(samples + (band.part.z0 % kTile) * kTile + from, mask.row(west + from, 0), mask.width(),
                                to - from, band.part.depth(), job->target);
                }
            }
        }
    });
}

}  // namespace

Region paintLayer(Level& level, const Dab& dab, float share, uint32_t layer, float target) {
    const int index = level.layerIndex(layer);
    assert(index >= 0);
    if (dab.region.empty()) return {};
    std::vector<Job> jobs;
    for (auto i = static_cast<size_t>(index); i < level.layers.size(); ++i) {
        Layer& l = level.layers[i];
        // The first layer covers everything as it is; the coverage that it keeps for another place is not touched.
        if (i == static_cast<size_t>(index)) {
            if (i > 0 && !l.locked) jobs.push_back({&l.coverage, rowKernels().coverRows, steps(target), false});
        } else if (!l.hidden && !l.locked) {
            jobs.push_back({&l.coverage, rowKernels().thinRows, steps(1 - target), true});
        }
    }
    if (!jobs.empty()) run(jobs, dab, share);
    return dab.region;
}

Region eraseLayer(Level& level, const Dab& dab, float share, uint32_t layer) {
    const int index = level.layerIndex(layer);
    assert(index >= 0);
    if (dab.region.empty() || index == 0 || level.layers[static_cast<size_t>(index)].locked) return {};
    run({{&level.layers[static_cast<size_t>(index)].coverage, rowKernels().thinRows, 0, true}}, dab, share);
    return dab.region;
}

}  // namespace jam
