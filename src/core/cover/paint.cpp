// Cost: one mask per tile row, shared by the painted layer and those above it that are present in the tile.
#include "cover/paint.h"

#include <cmath>

#include "base/parallel.h"
#include "brush/rows.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<uint16_t>::kTile;
constexpr int kTilesPerThread = 24;

// What a stamp does to one layer.
struct Job {
    TiledGrid<uint16_t>* grid;
    void (*kernel)(uint16_t*, const uint16_t*, int, uint16_t);
    uint16_t target;
    bool onlyPresent;  // absent tiles hold zeros, which a kernel that only thins leaves alone
};

uint16_t steps(float share) { return static_cast<uint16_t>(std::lround(share * kFullCover)); }

void run(const std::vector<Job>& jobs, const Dab& dab, float share) {
    struct Piece {
        Region part;
        std::vector<std::pair<const Job*, uint16_t*>> tiles;
    };
    std::vector<Piece> pieces;
    jobs.front().grid->eachPart(dab.region, [&](int tx, int tz, const Region& part) {
        Piece piece{part, {}};
        for (const Job& j : jobs)
            if (!j.onlyPresent || j.grid->tile(tx, tz) || j.grid->defaultValue() != 0)
                piece.tiles.emplace_back(&j, j.grid->writableTile(tx, tz));
        if (!piece.tiles.empty()) pieces.push_back(std::move(piece));
    });
    parallelFor(static_cast<int>(pieces.size()), kTilesPerThread, [&](int first, int end) {
        float mask[kTile];
        uint16_t bits[kTile];
        for (int i = first; i < end; ++i) {
            const Piece& p = pieces[static_cast<size_t>(i)];
            for (int z = p.part.z0; z < p.part.z1; ++z) {
                const Region span = dabSpan(dab, p.part, z);
                if (span.empty()) continue;
                dabMask(dab, span.x0, z, span.width(), share, mask);
                rowKernels().bits(bits, mask, span.width());
                for (const auto& [job, tile] : p.tiles)
                    job->kernel(tile + (z % kTile) * kTile + span.x0 % kTile, bits, span.width(), job->target);
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
            if (i > 0 && !l.locked) jobs.push_back({&l.coverage, rowKernels().cover, steps(target), false});
        } else if (!l.hidden && !l.locked) {
            jobs.push_back({&l.coverage, rowKernels().thin, steps(1 - target), true});
        }
    }
    if (!jobs.empty()) run(jobs, dab, share);
    return dab.region;
}

Region eraseLayer(Level& level, const Dab& dab, float share, uint32_t layer) {
    const int index = level.layerIndex(layer);
    assert(index >= 0);
    if (dab.region.empty() || index == 0 || level.layers[static_cast<size_t>(index)].locked) return {};
    run({{&level.layers[static_cast<size_t>(index)].coverage, rowKernels().thin, 0, true}}, dab, share);
    return dab.region;
}

}  // namespace jam
