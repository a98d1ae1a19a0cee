// The pattern by which plantings are spread: an endless set of places in a fixed order of ranks, so that the first so
// many of any patch of ground lie evenly apart without lying in rows, and more of them never move those that are there.
//
// A patch is 80 m square and holds 256 x 256 places, a third of a metre apart and shaken a little. Their order is that
// of best candidates (Mitchell, "Spectrally optimal sampling for distribution ray tracing", 1991) on a torus: each next
// place is the farthest of some at random from all before. Every patch of every seed turns, mirrors and shifts that one
// order by a hash of its own, so that nothing repeats.
#pragma once

#include <cstdint>

namespace jam {

constexpr double kPatch = 80;                          // metres
constexpr int kPatchPlaces = 256;                      // along a side of it
constexpr int kPatchBlocks = 16;                       // along a side of it, each of 16 x 16 places
constexpr double kBlock = kPatch / kPatchBlocks;       // metres: 5
constexpr double kPlaceApart = kPatch / kPatchPlaces;  // metres

struct PatternPlace {
    double x, z;    // metres
    uint16_t rank;  // each once in a patch
};

// The rank of a place in the plain order, by its column and row there.
uint16_t patternRank(int column, int row);

// f(place) for the places of block (bx, bz) of the world, in the order of their ranks, until f returns false. Block (0,
// 0) begins at the origin of the world.
template <class F>
void eachPlace(int bx, int bz, uint32_t seed, F f);

// A name of a place that no other has under the same seed.
constexpr uint64_t placeName(int patchX, int patchZ, uint16_t rank) {
    return static_cast<uint64_t>(static_cast<uint32_t>(patchX + (1 << 23)) & 0xffffff) << 40 |
           static_cast<uint64_t>(static_cast<uint32_t>(patchZ + (1 << 23)) & 0xffffff) << 16 | rank;
}

// --- how
// ----------------------------------------------------------------------------------------------------------

namespace pattern {

// A place of a block of the plain order.
struct Ranked {
    uint16_t rank;
    uint8_t column, row;  // in its block, [0, 16)
};
// The 256 places of block (column, row) of the plain order, by rank.
const Ranked* block(int column, int row);

// How a patch lies: which block of the plain order a block of it is, and where places of that come to lie.
struct Lie {
    bool swap, flipX, flipZ;
    int shiftX, shiftZ;  // in blocks
};
Lie lieOf(int patchX, int patchZ, uint32_t seed);
// A number in [-0.5, 0.5) by which a place is shaken, in parts of their distance; `way` 0 or 1.
double shaken(int column, int row, uint32_t seed, int way);

constexpr int floorDiv(int a, int b) { return a >= 0 ? a / b : -((-a + b - 1) / b); }

}  // namespace pattern

template <class F>
void eachPlace(int bx, int bz, uint32_t seed, F f) {
    using namespace pattern;
    const int px = floorDiv(bx, kPatchBlocks), pz = floorDiv(bz, kPatchBlocks);
    const Lie lie = lieOf(px, pz, seed);
    // Backwards: from the block as it lies to that of the plain order.
    constexpr int kPart = kPatchPlaces / kPatchBlocks;
    int u = (bx - px * kPatchBlocks + lie.shiftX) % kPatchBlocks,
        v = (bz - pz * kPatchBlocks + lie.shiftZ) % kPatchBlocks;
    if (lie.flipX) u = kPatchBlocks - 1 - u;
    if (lie.flipZ) v = kPatchBlocks - 1 - v;
    if (lie.swap) {
        const int w = u;
        u = v, v = w;
    }
    const Ranked* all = block(u, v);
    for (int i = 0; i < kPart * kPart; ++i) {
        int c = all[i].column, r = all[i].row;
        if (lie.swap) {
            const int w = c;
            c = r, r = w;
        }
        if (lie.flipX) c = kPart - 1 - c;
        if (lie.flipZ) r = kPart - 1 - r;
        const int column = bx * kPart + c, row = bz * kPart + r;
        const PatternPlace place{(column + 0.5 + 0.8 * shaken(column, row, seed, 0)) * kPlaceApart,
                                 (row + 0.5 + 0.8 * shaken(column, row, seed, 1)) * kPlaceApart, all[i].rank};
        if (!f(place)) return;
    }
}

}  // namespace jam
